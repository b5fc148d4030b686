<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Sql\Tokens;

use Fasti\Core\Dialect\Grammar;

/**
 * The columns of a view, worked out from its query. A plain reference to a column of a known table has that column's
 * type; of anything computed only the name is known.
 *
 * @phpstan-import-type Col from TableBuilder
 */
final readonly class ViewColumns
{
    private const CLAUSES = ['WHERE', 'GROUP', 'HAVING', 'ORDER', 'LIMIT', 'UNION', 'EXCEPT', 'INTERSECT', 'WINDOW', 'FETCH', ''];

    public function __construct(private Grammar $dialect)
    {
    }

    /**
     * @param callable(?string, string): ?TableBuilder $find a table or view by schema (null: the view's own) and name
     *
     * @return array<string, Col>
     */
    public function of(TableBuilder $view, callable $find): array
    {
        $t = new Tokens((string) $view->definition, $this->dialect);
        while (!$t->over() && !$t->take('SELECT')) {
            '(' === $t->peek() && 'SELECT' !== $t->peek(1) ? $t->parenthesis() : $t->skip();
        }
        $t->any('DISTINCT', 'ALL');
        $items = [];
        do {
            $from = $t->at;
            while (!$t->over() && ',' !== $t->peek() && 'FROM' !== $t->peek() && ')' !== $t->peek()) {
                '(' === $t->peek() ? $t->parenthesis() : $t->skip();
            }
            $items[] = trim($t->from($from));
        } while ($t->take(','));
        $sources = $t->take('FROM') ? $this->sources($t, $find) : [];

        $named = array_keys($view->columns);
        $columns = [];
        foreach ($items as $item) {
            foreach ($this->item($item, $sources) as $column) {
                $name = $named[\count($columns)] ?? $column['name'];
                // A comment that the script gave the view's column stays with it.
                $columns[$name] = ['name' => $name, 'comment' => $view->columns[$name]['comment'] ?? ''] + $column;
            }
        }

        return $columns;
    }

    /**
     * @param callable(?string, string): ?TableBuilder $find
     *
     * @return array<string, ?TableBuilder> by alias
     */
    private function sources(Tokens $t, callable $find): array
    {
        $sources = [];
        $expects = true;
        while (!$t->over() && ('' === $t->peek() || !\in_array($t->peek(), self::CLAUSES, true))) {
            if (\in_array($t->peek(), ['JOIN', ','], true)) {
                $expects = true;
                $t->skip();
            } elseif ('(' === $t->peek() && $expects) {
                // A join in parentheses is walked into; a query in parentheses is passed over.
                'SELECT' === $t->peek(1) ? $t->parenthesis() : $t->skip();
            } elseif ($expects && $t->isName() && !\in_array($t->peek(), ['LATERAL', 'ONLY'], true)) {
                [$schema, $name] = $t->qualified();
                $t->take('AS');
                $named = $t->isName() && ('' === $t->peek() || !\in_array($t->peek(), ['JOIN', 'LEFT', 'RIGHT', 'INNER', 'CROSS', 'FULL', 'NATURAL', 'ON', 'USING', ...self::CLAUSES], true));
                $sources[$named ? $t->name() : $name] = $find($schema, $name);
                $expects = false;
            } else {
                '(' === $t->peek() ? $t->parenthesis() : $t->skip();
            }
        }

        return $sources;
    }

    /**
     * @param array<string, ?TableBuilder> $sources
     *
     * @return list<Col>
     */
    private function item(string $item, array $sources): array
    {
        $t = new Tokens($item, $this->dialect);
        $parts = [];
        while ($t->isName() || '*' === $t->peek()) {
            $parts[] = $t->take('*') ? '*' : $t->name();
            if (!$t->take('.')) {
                break;
            }
        }
        $last = (string) end($parts);
        $alias = null;
        if ($t->take('AS') || ($t->isName() && [] !== $parts)) {
            $alias = $t->isName() ? $t->name() : $t->text();
        }
        if ($t->over() && [] !== $parts) {
            $from = \count($parts) > 1 ? [$sources[$parts[\count($parts) - 2]] ?? null] : array_values($sources);
            if ('*' === $last) {
                return array_values(array_merge(...array_map(
                    fn (?TableBuilder $table): array => array_values(array_map($this->plain(...), $table->columns ?? [])),
                    $from,
                )));
            }
            foreach ($from as $table) {
                if (isset($table->columns[$last])) {
                    return [['name' => $alias ?? $last] + $this->plain($table->columns[$last])];
                }
            }

            return [Script::unknownColumn($alias ?? $last)];
        }

        return [Script::unknownColumn(1 === preg_match('/\bAS\s+(["`\[]?)([^"`\]\s]+)["`\]]?$/i', $item, $m) ? $m[2] : (string) preg_replace('/\(.*$/s', '', strtolower($item)))];
    }

    /**
     * @param Col $column
     *
     * @return Col
     */
    private function plain(array $column): array
    {
        return [
            'type' => $column['type'],
            'collation' => $this->dialect->viewsKeepCollations ? $column['collation'] : null,
            'base' => $column['base'],
        ] + Script::unknownColumn($column['name']);
    }
}
