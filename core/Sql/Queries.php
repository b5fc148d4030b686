<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Body;
use Fasti\Core\Sql\Tree\Combined;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Item;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Named;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Select;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Unread;
use Fasti\Core\Sql\Tree\ValuesOf;
use Fasti\Core\Sql\Tree\Window;

/** Reads queries: SELECT with its clauses, what is named before it, and sets of them. */
final class Queries
{
    private const SETS = ['UNION' => 1, 'EXCEPT' => 1, 'MINUS' => 1, 'INTERSECT' => 2];
    /** Words that end the list of what a query gives. */
    private const STOPS = [
        'FROM' => 1, 'WHERE' => 1, 'GROUP' => 1, 'HAVING' => 1, 'ORDER' => 1, 'LIMIT' => 1, 'OFFSET' => 1, 'FETCH' => 1, 'UNION' => 1, 'INTERSECT' => 1,
        'EXCEPT' => 1, 'MINUS' => 1, 'WINDOW' => 1, 'INTO' => 1, 'AS' => 1, 'FOR' => 1, 'QUALIFY' => 1, 'BULK' => 1, 'COLLATE' => 1, 'PROCEDURE' => 1,
    ];

    private int $depth = 0;

    public function __construct(private readonly Parser $parser, private readonly Tokens $t)
    {
    }

    public function query(): Query
    {
        $t = $this->t;
        if (++$this->depth > 2000) {
            throw $t->fault('The query is nested too deep');
        }
        $from = $t->offset();
        [$with, $recursive] = $t->take('WITH') ? $this->with() : [[], false];
        $query = $this->ended($this->body(), $with, $recursive, $from);
        --$this->depth;

        return $query;
    }

    /** What may follow a query that stood in parentheses: sets, order, limit. */
    public function after(Query $inner, int $from): Query
    {
        if (!\in_array($this->t->peek(), ['UNION', 'INTERSECT', 'EXCEPT', 'MINUS', 'ORDER', 'LIMIT', 'OFFSET', 'FETCH'], true)) {
            return $inner;
        }

        return $this->ended($this->combined($inner, 1, $from), [], false, $from);
    }

    /** @return array{list<Named>, bool} */
    private function with(): array
    {
        $t = $this->t;
        $recursive = $t->take('RECURSIVE');
        $with = [];
        do {
            $from = $t->offset();
            $name = $t->name();
            $columns = '(' === $t->peek() ? $t->names() : [];
            $t->expect('AS');
            $t->take('NOT');
            $t->take('MATERIALIZED');
            $t->expect('(');
            $query = $this->query();
            $t->expect(')');
            $added = [];
            if ($t->take('SEARCH')) {
                $t->any('DEPTH', 'BREADTH');
                $t->take('FIRST', 'BY');
                $this->plainNames();
                $t->expect('SET');
                $added[] = $t->name();
            }
            if ($t->take('CYCLE')) {
                $this->plainNames();
                if ($t->take('RESTRICT')) {
                    $added = [];
                } else {
                    $t->expect('SET');
                    $added[] = $t->name();
                    if ($t->take('TO')) {
                        $this->parser->expressions->expression();
                        $t->expect('DEFAULT');
                        $this->parser->expressions->expression();
                    }
                    if ($t->take('USING')) {
                        $added[] = $t->name();
                    }
                }
            }
            $with[] = $this->t->placed(new Named($name, $columns, $query, $added), $from);
        } while ($t->take(','));

        return [$with, $recursive];
    }

    private function plainNames(): void
    {
        do {
            $this->t->name();
            $this->t->any('ASC', 'DESC');
        } while ($this->t->take(','));
    }

    private function body(int $least = 1): Body
    {
        $from = $this->t->offset();

        return $this->combined($this->one(), $least, $from);
    }

    private function combined(Body $left, int $least, int $from): Body
    {
        $t = $this->t;
        $chain = 0;
        while (isset(self::SETS[$t->peek()]) && self::SETS[$t->peek()] >= $least) {
            if (++$chain > Expressions::LONGEST) {
                throw $t->fault(\sprintf('More than %d queries are put together', Expressions::LONGEST));
            }
            $kind = $t->peek();
            $power = self::SETS[$kind];
            // In SQLite, they are all read from the left.
            if ($t->dialect->signs->quotedTextsAsNames) {
                $power = 1;
            }
            $t->skip();
            $all = 'ALL' === $t->any('ALL', 'DISTINCT');
            if ($t->take('CORRESPONDING') && $t->take('BY')) {
                $t->names();
            }
            $right = $t->dialect->signs->quotedTextsAsNames ? $this->one() : $this->body($power + 1);
            $left = $this->t->placed(new Combined('MINUS' === $kind ? 'EXCEPT' : $kind, $all, $left, $right), $from);
        }

        return $left;
    }

    private function one(): Body
    {
        $t = $this->t;
        $from = $t->offset();
        if ('(' === $t->peek()) {
            $t->skip();
            $query = $this->query();
            $t->expect(')');

            return $query;
        }
        if ('WITH' === $t->peek()) {
            return $this->query();
        }
        if ($t->take('VALUES')) {
            return $this->t->placed($this->values(), $from);
        }
        if ($t->take('TABLE')) {
            $table = $this->parser->sources->plain();
            $everything = $this->t->placed(new Item($this->t->placed(new Star(), $from)), $from);

            return $this->t->placed(new Select([$everything], [$table]), $from);
        }
        if (!$t->take('SELECT')) {
            throw $t->fault('“SELECT” was expected');
        }

        return $this->select($from);
    }

    private function values(): ValuesOf
    {
        $t = $this->t;
        $rows = [];
        do {
            $t->take('ROW');
            $t->expect('(');
            $rows[] = $this->parser->expressions->list();
            $t->expect(')');
        } while ($t->take(','));

        return new ValuesOf($rows);
    }

    private function select(int $from): Select
    {
        $t = $this->t;
        $distinct = false;
        $on = [];
        $top = null;
        while ('' !== ($word = $t->any(
            'ALL',
            'DISTINCT',
            'DISTINCTROW',
            'UNIQUE',
            'HIGH_PRIORITY',
            'STRAIGHT_JOIN',
            'SQL_SMALL_RESULT',
            'SQL_BIG_RESULT',
            'SQL_BUFFER_RESULT',
            'SQL_NO_CACHE',
            'SQL_CACHE',
            'SQL_CALC_FOUND_ROWS',
        ))) {
            if ('DISTINCT' === $word || 'DISTINCTROW' === $word || 'UNIQUE' === $word) {
                $distinct = true;
                if ('DISTINCT' === $word && 'ON' === $t->peek() && '(' === $t->peek(1)) {
                    $t->skip();
                    $t->expect('(');
                    $on = $this->parser->expressions->list();
                    $t->expect(')');
                }
            }
        }
        if ('TOP' === $t->peek() && ('(' === $t->peek(1) || Lexer::NUMBER === $t->kind(1))) {
            $t->skip();
            $top = '(' === $t->peek() ? $this->parser->expressions->parenthesis() : $this->parser->expressions->expression(Precedence::CAST);
            $t->take('PERCENT');
            $t->take('WITH', 'TIES');
        }
        $items = $this->items();
        if ($t->take('INTO')) {
            $t->any('TEMPORARY', 'TEMP', 'UNLOGGED', 'TABLE', 'OUTFILE');
            $t->text() ?? $t->qualified();
        }
        $sources = $t->take('FROM') ? $this->parser->sources->list() : [];
        $repeat = [];
        $where = $t->take('WHERE') ? $this->parser->expressions->whole('START', 'CONNECT') : null;
        while ('START' === $t->peek() && 'WITH' === $t->peek(1) || 'CONNECT' === $t->peek() && 'BY' === $t->peek(1)) {
            $t->skip();
            $t->skip();
            $t->take('NOCYCLE');
            $repeat[] = $this->parser->expressions->expression();
        }
        [$group, $grouping] = $t->take('GROUP', 'BY') ? $this->group() : [[], ''];
        $having = $t->take('HAVING') ? $this->parser->expressions->whole() : null;
        $windows = $t->take('WINDOW') ? $this->windows() : [];
        $qualify = $t->take('QUALIFY') ? $this->parser->expressions->expression() : null;

        return $this->t->placed(new Select($items, $sources, $where, $group, $grouping, $having, $windows, $distinct, $on, $qualify, $repeat, $top), $from);
    }

    /** @return list<Item> */
    private function items(): array
    {
        $t = $this->t;
        $items = [];
        if ('FROM' === $t->peek() || $t->over() || ')' === $t->peek() || 'WHERE' === $t->peek()) {
            if ($t->dialect->queries->ownOperators && !$t->over()) {
                return [];
            }
            throw $t->fault('The list of fields was expected');
        }
        do {
            $from = $t->offset();
            // SQL Server lets the name stand before the value.
            $name = '=' === $t->peek(1) && $t->dialect->queries->hashedNames && $t->isName() ? $t->name() : null;
            if (null !== $name) {
                $t->skip();
            }
            $items[] = $this->parser->orElse(
                fn (): Item => $this->item($name, $from),
                fn (string $text): Item => $this->t->placed(new Item($this->t->placed(new Unread($text), $from), $name ?? self::lastName($text)), $from),
                true,
                ['INTO'],
            );
        } while ($t->take(','));

        return $items;
    }

    private function item(?string $name, int $from): Item
    {
        $t = $this->t;
        $value = $this->parser->expressions->expression();
        $name ??= $this->alias();
        if (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek() && ';' !== $t->peek() && !isset(self::STOPS[$t->peek()])) {
            throw $t->fault('A comma or FROM was expected');
        }

        return $this->t->placed(new Item($value, $name), $from);
    }

    /** The name that is given at the end of what could not be read. */
    private static function lastName(string $text): ?string
    {
        return 1 === preg_match('/\bAS\s+(["`\[]?)([^"`\]\s]+)["`\]]?$/i', $text, $m) ? $m[2] : null;
    }

    private function alias(): ?string
    {
        $t = $this->t;
        if ($t->take('AS')) {
            return Lexer::TEXT === $t->kind() ? $t->text() : $t->name();
        }
        if (Lexer::QUOTED === $t->kind()) {
            return $t->name();
        }
        if (Lexer::TEXT === $t->kind() && !$t->dialect->queries->ownOperators) {
            return $t->text();
        }
        if (Lexer::WORD === $t->kind() && !isset(self::STOPS[$t->peek()])) {
            return $t->name();
        }

        return null;
    }

    /** @return array{list<Expression>, string} */
    private function group(): array
    {
        $t = $this->t;
        $t->any('ALL', 'DISTINCT');
        $group = [];
        $how = '';
        do {
            if ('(' === $t->peek() && ')' === $t->peek(1)) {
                $t->skip();
                $t->skip();
                $how = $how ?: 'SETS';
                continue;
            }
            $word = '(' === $t->peek(1) ? $t->any('ROLLUP', 'CUBE') : '';
            if ($t->take('GROUPING', 'SETS')) {
                $word = 'SETS';
            }
            if ('' !== $word) {
                $how = $word;
                $t->expect('(');
                [$inner] = $this->group();
                array_push($group, ...$inner);
                $t->expect(')');
                continue;
            }
            $item = $this->parser->expressions->whole();
            array_push($group, ...($item instanceof Tree\RowOf ? $item->items : [$item]));
            $t->any('ASC', 'DESC');
        } while ($t->take(','));
        if ($t->take('WITH', 'ROLLUP')) {
            $how = 'ROLLUP';
        } elseif ($t->take('WITH', 'CUBE')) {
            $how = 'CUBE';
        }

        return [$group, $how];
    }

    /** @return array<string, Window> */
    private function windows(): array
    {
        $windows = [];
        do {
            $name = $this->t->name();
            $this->t->expect('AS');
            $windows[$name] = $this->parser->calls->window();
        } while ($this->t->take(','));

        return $windows;
    }

    /** @param list<Named> $with */
    private function ended(Body $body, array $with, bool $recursive, int $from): Query
    {
        $t = $this->t;
        $order = [];
        if ($t->take('ORDER')) {
            $t->take('SIBLINGS');
            $t->expect('BY');
            $order = $this->parser->expressions->order();
        }
        $limit = $skip = null;
        $ties = false;
        while (true) {
            if ($t->take('LIMIT')) {
                if (!$t->take('ALL')) {
                    $limit = $this->parser->expressions->expression();
                    if ($t->take(',')) {
                        $skip = $limit;
                        $limit = $this->parser->expressions->expression();
                    }
                    if ($t->take('ROWS', 'EXAMINED')) {
                        $this->parser->expressions->expression();
                    }
                }
            } elseif ($t->take('OFFSET')) {
                $skip = $this->parser->expressions->expression();
                $t->any('ROW', 'ROWS');
            } elseif ($t->take('FETCH')) {
                $t->any('FIRST', 'NEXT');
                $limit = \in_array($t->peek(), ['ROW', 'ROWS'], true) ? new Literal('number', '1') : $this->parser->expressions->expression(Precedence::CAST);
                $t->take('PERCENT');
                $t->any('ROW', 'ROWS');
                if (!$t->take('ONLY')) {
                    $ties = $t->take('WITH', 'TIES');
                }
            } elseif ('FOR' === $t->peek() || ('LOCK' === $t->peek() && 'IN' === $t->peek(1))) {
                $this->locked();
            } elseif ('WITH' === $t->peek() && ('READ' === $t->peek(1) || 'CHECK' === $t->peek(1) || 'CASCADED' === $t->peek(1) || 'LOCAL' === $t->peek(1))) {
                $t->skip();
                $t->any('READ', 'CASCADED', 'LOCAL');
                $t->any('ONLY', 'CHECK');
                $t->take('OPTION');
            } elseif ('OPTION' === $t->peek() && '(' === $t->peek(1)) {
                $t->skip();
                $t->parenthesis();
            } else {
                break;
            }
        }
        if ($body instanceof Query && [] === $with && [] === $order && null === $limit && null === $skip) {
            return $body;
        }

        return $this->t->placed(new Query($with, $recursive, $body, $order, $limit, $skip, $ties), $from);
    }

    /** FOR UPDATE OF …, FOR SHARE, FOR XML PATH('…'), LOCK IN SHARE MODE */
    private function locked(): void
    {
        $t = $this->t;
        $t->skip();
        while (!$t->over() && !\in_array($t->peek(), [')', ';', 'FOR', 'UNION', 'INTERSECT', 'EXCEPT', 'WITH', 'LIMIT', 'OFFSET', 'OPTION'], true)) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
    }
}
