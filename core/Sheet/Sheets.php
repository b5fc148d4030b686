<?php

declare(strict_types=1);

namespace Fasti\Core\Sheet;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;

/**
 * Catalog sheets: what the queries of an engine gave where they were run, several together. Which sheet is which shows in
 * its header.
 */
final class Sheets
{
    private const COLUMNS = ['schema_name', 'table_name', 'column_name', 'native_type'];
    private const KEYS = ['schema_name', 'table_name', 'constraint_name', 'constraint_kind', 'column_name'];
    private const COMMENTS = ['schema_name', 'table_name', 'comment_text'];

    /** @var array<string, array<string, array{kind: TableType, comment: string, columns: array<string, array{position: int, column: Column}>}>> */
    private array $tables = [];
    /** @var array<string, array<string, array<string, array{kind: string, rows: list<array<string, string>>}>>> */
    private array $keys = [];
    /** @var list<array<string, string>> */
    private array $comments = [];
    /** @var list<string> */
    private array $notes = [];

    /** @return array<string, array{name: string, queries: array<string, string>}> engine → its name and queries by sheet; first what is not reached */
    public static function queries(): array
    {
        $all = array_filter(array_map(
            static fn (Dialect $dialect): array => ['name' => $dialect->sheetsOf(), 'queries' => $dialect->sheetQueries()],
            Dialects::all(),
        ), static fn (array $engine): bool => [] !== $engine['queries']);
        uksort($all, static fn (string $a, string $b): int => Dialects::of($a)->isServer() <=> Dialects::of($b)->isServer());

        return $all;
    }

    /**
     * @param list<string> $header
     *
     * @return 'columns'|'keys'|'comments'|null null where a file with this header is no sheet
     */
    public static function sheet(array $header): ?string
    {
        $names = array_map(self::fold(...), $header);
        $has = static fn (string ...$wanted): bool => \count(array_intersect($wanted, $names)) === \count($wanted);

        return match (true) {
            $has(...self::KEYS) => 'keys',
            $has(...self::COLUMNS) => 'columns',
            $has(...self::COMMENTS) => 'comments',
            default => null,
        };
    }

    /**
     * @param list<string>           $header
     * @param iterable<list<string>> $rows
     */
    public function add(string $file, array $header, iterable $rows): void
    {
        $sheet = self::sheet($header);
        $names = array_map(self::fold(...), $header);
        foreach ($rows as $line => $values) {
            $place = \is_scalar($line) ? (string) $line : '';
            // Some clients write the word NULL where there is nothing.
            $row = array_map(
                static fn (string $value): string => \in_array($value, ['NULL', '\N', '(null)'], true) ? '' : trim($value),
                array_combine($names, $values),
            );
            if ('' === $row['table_name']) {
                $this->notes[] = \sprintf('%s, line %s names no table and was left out.', $file, $place);
                continue;
            }
            match ($sheet) {
                'columns' => $this->column($row),
                'keys' => $this->key($row),
                default => $this->comments[] = $row,
            };
        }
    }

    public function catalog(): Catalog
    {
        foreach ($this->comments as $row) {
            if (!isset($this->tables[$row['schema_name']][$row['table_name']])) {
                continue;
            }
            $table = &$this->tables[$row['schema_name']][$row['table_name']];
            $name = $row['column_name'] ?? '';
            if ('' === $name) {
                $table['comment'] = $row['comment_text'];
            } elseif (isset($table['columns'][$name])) {
                $c = $table['columns'][$name]['column'];
                $table['columns'][$name]['column'] = new Column($c->name, $c->type, $c->nullable, $c->default, $row['comment_text'], $c->autoNumbered);
            }
        }
        unset($table);
        $result = [];
        ksort($this->tables, \SORT_STRING);
        foreach ($this->tables as $schema => $tables) {
            ksort($tables, \SORT_STRING);
            foreach ($tables as $name => $table) {
                $result[] = $this->table((string) $schema, (string) $name, $table);
            }
        }
        foreach ($this->keys as $schema => $tables) {
            foreach (array_keys($tables) as $name) {
                if (!isset($this->tables[$schema][$name])) {
                    $this->notes[] = \sprintf('The sheet of keys speaks of %s.%s, which the sheet of columns does not list.', $schema, $name);
                }
            }
        }
        if ([] === $result) {
            $this->notes[] = 'There is no sheet of columns among the files. It is the one that is needed: run the query “columns” and hand its result in '
                .'with the others.';
        }

        return new Catalog('sheets', 'catalog sheets', $result, [], \array_slice($this->notes, 0, 50));
    }

    /** @param array{kind: TableType, comment: string, columns: array<string, array{position: int, column: Column}>} $table */
    private function table(string $schema, string $name, array $table): Table
    {
        uasort($table['columns'], static fn (array $a, array $b): int => $a['position'] <=> $b['position']);
        $primary = null;
        $unique = $foreign = [];
        foreach ($this->keys[$schema][$name] ?? [] as $constraint => $key) {
            $columns = array_map(static fn (array $row): string => $row['column_name'], $key['rows']);
            if ([] === $columns) {
                continue;
            }
            if ('PRIMARY KEY' === $key['kind']) {
                $primary = new Key((string) $constraint, $columns);
            } elseif ('UNIQUE' === $key['kind']) {
                $unique[] = new Key((string) $constraint, $columns);
            } elseif ('' !== ($key['rows'][0]['far_table'] ?? '')) {
                $first = $key['rows'][0];
                $foreign[] = new ForeignKey(
                    (string) $constraint,
                    $columns,
                    new Reference(
                        ($first['far_schema'] ?? '') ?: $schema,
                        $first['far_table'],
                        array_map(static fn (array $row): string => $row['far_column'] ?? '', $key['rows']),
                    ),
                    self::action($first['on_delete'] ?? ''),
                    self::action($first['on_update'] ?? ''),
                );
            }
        }

        return new Table(
            $schema,
            $name,
            $table['kind'],
            $table['comment'],
            array_values(array_map(static fn (array $c): Column => $c['column'], $table['columns'])),
            $primary,
            $unique,
            $foreign,
        );
    }

    /** @param array<string, string> $row */
    private function column(array $row): void
    {
        $table = &$this->tables[$row['schema_name']][$row['table_name']];
        $table ??= ['kind' => self::kind($row['table_kind'] ?? ''), 'comment' => $row['table_comment'] ?? '', 'columns' => []];
        $default = $row['default_value'] ?? '';
        $table['columns'][$row['column_name']] = [
            'position' => (int) ($row['position'] ?? \count($table['columns']) + 1),
            'column' => new Column(
                $row['column_name'],
                strtolower($row['native_type']),
                !self::yes($row['required'] ?? ''),
                '' === $default ? null : $default,
                $row['column_comment'] ?? '',
                self::yes($row['numbered'] ?? '') || str_starts_with($default, 'nextval('),
            ),
        ];
    }

    /** @param array<string, string> $row */
    private function key(array $row): void
    {
        $key = &$this->keys[$row['schema_name']][$row['table_name']][$row['constraint_name']];
        $key ??= ['kind' => strtoupper($row['constraint_kind']), 'rows' => []];
        $key['rows'][] = $row;
        usort($key['rows'], static fn (array $a, array $b): int => (int) ($a['position'] ?? 0) <=> (int) ($b['position'] ?? 0));
    }

    private static function kind(string $kind): TableType
    {
        return match (true) {
            str_contains(strtoupper($kind), 'MATERIALIZED') => TableType::MaterializedView,
            str_contains(strtoupper($kind), 'VIEW') => TableType::View,
            default => TableType::Table,
        };
    }

    private static function yes(string $value): bool
    {
        return \in_array(strtoupper($value), ['YES', 'Y', '1', 'TRUE', 'T'], true);
    }

    private static function action(string $action): string
    {
        $action = strtoupper(str_replace('_', ' ', $action));

        return \in_array($action, ['CASCADE', 'SET NULL', 'SET DEFAULT', 'RESTRICT'], true) ? $action : 'NO ACTION';
    }

    private static function fold(string $name): string
    {
        return strtolower(trim($name));
    }
}
