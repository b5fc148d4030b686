<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Derived;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Joined;
use Fasti\Core\Sql\Tree\Produced;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Source;
use Fasti\Core\Sql\Tree\TableRef;
use Fasti\Core\Sql\Tree\UnreadSource;

/** Reads what stands after FROM. */
final class Sources
{
    /** Words that end a source, so that none of them is its alias. */
    private const STOPS = [
        'JOIN' => 1, 'LEFT' => 1, 'RIGHT' => 1, 'INNER' => 1, 'CROSS' => 1, 'FULL' => 1, 'NATURAL' => 1, 'OUTER' => 1, 'ON' => 1, 'USING' => 1, 'WHERE' => 1,
        'GROUP' => 1, 'HAVING' => 1, 'ORDER' => 1, 'LIMIT' => 1, 'OFFSET' => 1, 'FETCH' => 1, 'UNION' => 1, 'INTERSECT' => 1, 'EXCEPT' => 1, 'MINUS' => 1,
        'WINDOW' => 1, 'QUALIFY' => 1, 'FOR' => 1, 'STRAIGHT_JOIN' => 1, 'TABLESAMPLE' => 1, 'WITH' => 1, 'AS' => 1, 'CONNECT' => 1, 'START' => 1, 'SET' => 1,
        'INDEXED' => 1, 'NOT' => 1, 'USE' => 1, 'FORCE' => 1, 'IGNORE' => 1, 'PARTITION' => 1, 'PROCEDURE' => 1, 'INTO' => 1, 'RETURNING' => 1, 'OPTION' => 1,
        'PIVOT' => 1, 'UNPIVOT' => 1, 'APPLY' => 1, 'LATERAL' => 1, 'SELECT' => 1, 'LOCK' => 1, 'FINAL' => 1, 'SAMPLE' => 1, 'MATCH_RECOGNIZE' => 1,
        'MODEL' => 1,
    ];

    private int $depth = 0;

    public function __construct(private readonly Parser $parser, private readonly Tokens $t)
    {
    }

    /** @return list<Source> those between commas */
    public function list(): array
    {
        $sources = [];
        do {
            $from = $this->t->offset();
            $sources[] = $this->parser->orElse(
                fn (): Source => $this->joined(),
                fn (string $text): Source => $this->t->placed(new UnreadSource($text), $from),
                true,
            );
        } while ($this->t->take(','));

        return $sources;
    }

    /** One source, with all that is joined to it. */
    public function joined(): Source
    {
        $from = $this->t->offset();

        return $this->more($this->one(), $from);
    }

    private function more(Source $left, int $from): Source
    {
        $chain = 0;
        while (null !== ($next = $this->join($left, $from))) {
            $left = $next;
            if (++$chain > Expressions::LONGEST) {
                throw $this->t->fault(\sprintf('More than %d tables are joined', Expressions::LONGEST));
            }
        }

        return $left;
    }

    private function join(Source $left, int $from): ?Source
    {
        $t = $this->t;
        $start = $t->at;
        $natural = $t->take('NATURAL');
        $kind = $t->any('INNER', 'LEFT', 'RIGHT', 'FULL', 'CROSS', 'OUTER', 'STRAIGHT_JOIN');
        if ('STRAIGHT_JOIN' === $kind) {
            return $this->finished('INNER', $left, $this->one(), false, $from);
        }
        if (('CROSS' === $kind || 'OUTER' === $kind) && $t->take('APPLY')) {
            $right = $this->one();
            if ($right instanceof Derived) {
                $right = $this->t->placed(new Derived($right->query, $right->alias, $right->columns, true), $right->at);
            }

            return $this->t->placed(new Joined('CROSS' === $kind ? 'APPLY' : 'OUTER APPLY', $left, $right), $from);
        }
        $t->take('OUTER');
        $t->any('HASH', 'MERGE', 'LOOP', 'REMOTE');
        if (!$t->take('JOIN')) {
            $t->at = $start;

            return null;
        }
        // a JOIN b JOIN c ON … ON …: what stands to the right may be joined first.
        $right = $this->one();
        $begins = $right->at;
        while (!$natural && 'CROSS' !== $kind && !\in_array($t->peek(), ['ON', 'USING'], true) && $this->isJoin()) {
            $further = $this->join($right, $begins);
            if (null === $further) {
                break;
            }
            $right = $further;
        }

        return $this->finished('' === $kind ? 'INNER' : $kind, $left, $right, $natural, $from);
    }

    private function isJoin(): bool
    {
        // In MySQL's family a join may go without a condition; then the next one is its neighbour, not its inside.
        if ($this->t->dialect->queries->charsetTexts) {
            $ahead = 0;
            $depth = $joins = $conditions = 0;
            while ('' !== ($word = $this->t->peek($ahead).$this->t->kind($ahead))) {
                $word = $this->t->peek($ahead);
                $depth += ['(' => 1, ')' => -1][$word] ?? 0;
                if ($depth < 0 || (0 === $depth && (',' === $word || 'WHERE' === $word || 'GROUP' === $word || 'ORDER' === $word || 'UNION' === $word))) {
                    break;
                }
                if (0 === $depth && ('JOIN' === $word || 'STRAIGHT_JOIN' === $word)) {
                    ++$joins;
                } elseif (0 === $depth && ('ON' === $word || 'USING' === $word)) {
                    if (++$conditions > $joins) {
                        return true;
                    }
                }
                ++$ahead;
            }

            return false;
        }

        return true;
    }

    private function finished(string $kind, Source $left, Source $right, bool $natural, int $from): Joined
    {
        $t = $this->t;
        $on = null;
        $using = [];
        $alias = null;
        if ($t->take('ON')) {
            $on = $this->parser->expressions->whole('JOIN', 'LEFT', 'RIGHT', 'INNER', 'CROSS', 'FULL', 'NATURAL');
        } elseif ($t->take('USING')) {
            $using = $t->names();
            if ('AS' === $t->peek()) {
                $t->skip();
                $alias = $t->name();
            }
        }

        return $this->t->placed(new Joined($kind, $left, $right, $on, $using, $natural, null, $alias), $from);
    }

    private function one(): Source
    {
        $t = $this->t;
        $from = $t->offset();
        $lateral = $t->take('LATERAL');
        if ('(' === $t->peek()) {
            return $this->decorated($this->parenthesis($lateral, $from), $from);
        }
        if ('{' === $t->peek() && 'OJ' === $t->peek(1)) {
            $t->skip();
            $t->skip();
            $inner = $this->joined();
            $t->expect('}');

            return $inner;
        }
        if ('ROWS' === $t->peek() && 'FROM' === $t->peek(1) && '(' === $t->peek(2)) {
            return $this->rowsFrom($from);
        }
        if ('TABLE' === $t->peek() && '(' === $t->peek(1)) {
            $t->skip();
            $t->expect('(');
            $call = $this->parser->beginsQuery() ? $this->parser->queries->query() : $this->parser->expressions->expression();
            $t->expect(')');
            [$alias, $columns, $types] = $this->alias();

            return $this->t->placed(
                $call instanceof Query ? new Derived($call, $alias, $columns, true) : new Produced([self::asCall($call)], $alias, $columns, $types),
                $from,
            );
        }
        if ('VALUES' === $t->peek() && '(' === $t->peek(1)) {
            $query = $this->parser->queries->query();
            [$alias, $columns] = $this->alias();

            return $this->t->placed(new Derived($query, $alias, $columns), $from);
        }

        return $this->decorated($this->named($from), $from);
    }

    /** A table as it is named, without alias. */
    public function plain(): TableRef
    {
        $from = $this->t->offset();
        $names = $this->names();

        return $this->t->placed(new TableRef($names), $from);
    }

    /** @return non-empty-list<string> */
    private function names(): array
    {
        $t = $this->t;
        $names = [$t->name()];
        while ('.' === $t->peek() || '..' === $t->peek()) {
            $t->skip();
            $names[] = $t->name();
        }

        return $names;
    }

    private function named(int $from): Source
    {
        $t = $this->t;
        $t->take('ONLY');
        $inParentheses = '(' === $t->peek() && $t->take('(');
        if (!$t->isName() && !(Lexer::TEXT === $t->kind() && $t->dialect->signs->quotedTextsAsNames) || isset(Parser::RESERVED[$t->peek()])) {
            throw $t->fault('A table was expected');
        }
        $word = $t->peek();
        $names = $this->names();
        if ($inParentheses) {
            $t->expect(')');
        }
        if ('(' === $t->peek() && !$inParentheses) {
            if ('JSON_TABLE' === $word || 'XMLTABLE' === $word || 'OPENJSON' === $word || 'OPENXML' === $word) {
                return $this->listed($names, $from);
            }
            $call = $this->parser->calls->call($names, $names[0], $from);
            $numbered = $t->take('WITH', 'ORDINALITY') || $t->take('WITH', 'OFFSET');
            [$alias, $columns, $types] = $this->alias();

            return $this->t->placed(new Produced([self::asCall($call)], $alias, $columns, $types, $numbered), $from);
        }
        $t->take('*');
        if ($t->take('@')) {
            $t->name();
        } elseif (Lexer::PARAMETER === $t->kind() && str_starts_with($t->written(), '@')) {
            $t->skip();
        }
        if ('PARTITION' === $t->peek() && '(' === $t->peek(1)) {
            $t->skip();
            $t->parenthesis();
        }
        if ($t->take('FOR', 'SYSTEM_TIME')) {
            while (!$t->over() && \in_array($t->peek(), ['AS', 'OF', 'ALL', 'BETWEEN', 'FROM', 'TO', 'AND', 'TIMESTAMP', 'TRANSACTION'], true)) {
                $t->skip();
                if (\in_array($t->kind(), [Lexer::TEXT, Lexer::PARAMETER, Lexer::NUMBER], true)) {
                    $t->skip();
                }
            }
        }
        $this->hints();
        [$alias, $columns] = $this->alias();

        return $this->t->placed(new TableRef($names, $alias, $columns), $from);
    }

    private static function asCall(Expression $expression): Call
    {
        return $expression instanceof Call ? $expression : new Call(['unnest'], [$expression]);
    }

    /** What may follow any source and changes nothing about its columns: samples and hints. */
    private function decorated(Source $source, int $from): Source
    {
        $t = $this->t;
        $this->hints();
        if ('PIVOT' === $t->peek() || 'UNPIVOT' === $t->peek()) {
            throw $t->fault('PIVOT and UNPIVOT are not understood');
        }
        if ('MATCH_RECOGNIZE' === $t->peek() || ('MODEL' === $t->peek() && 'AS' !== $t->peek(1))) {
            throw $t->fault($t->peek().' is not understood');
        }

        return $source;
    }

    private function hints(): void
    {
        $t = $this->t;
        while (true) {
            if ('TABLESAMPLE' === $t->peek() || 'SAMPLE' === $t->peek() && '(' === $t->peek(1)) {
                $t->skip();
                if ($t->isName()) {
                    $t->name();
                }
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
                if ($t->take('REPEATABLE')) {
                    $t->parenthesis();
                }
            } elseif (\in_array($t->peek(), ['USE', 'FORCE', 'IGNORE'], true) && \in_array($t->peek(1), ['INDEX', 'KEY'], true)) {
                $t->skip();
                $t->skip();
                if ($t->take('FOR')) {
                    $t->any('JOIN', 'ORDER', 'GROUP');
                    $t->take('BY');
                }
                $t->parenthesis();
                $t->take(',');
            } elseif ('INDEXED' === $t->peek() && 'BY' === $t->peek(1)) {
                $t->skip();
                $t->skip();
                $t->name();
            } elseif ('NOT' === $t->peek() && 'INDEXED' === $t->peek(1)) {
                $t->skip();
                $t->skip();
            } elseif ('WITH' === $t->peek() && '(' === $t->peek(1) && !$t->dialect->queries->ownOperators) {
                $t->skip();
                $t->parenthesis();
            } else {
                return;
            }
        }
    }

    /** A query in parentheses, or joins in parentheses. */
    private function parenthesis(bool $lateral, int $from): Source
    {
        $t = $this->t;
        $inner = $this->within();
        if ($inner instanceof Query) {
            [$alias, $columns] = $this->alias();

            return $this->t->placed(new Derived($inner, $alias, $columns, $lateral), $from);
        }
        [$alias] = $t->dialect->queries->ownOperators || 'AS' === $t->peek() ? $this->alias() : [null];
        if (null !== $alias && $inner instanceof Joined) {
            return $this->t->placed(
                new Joined($inner->kind, $inner->left, $inner->right, $inner->on, $inner->using, $inner->natural, $alias, $inner->usingAlias),
                $from,
            );
        }

        return $inner;
    }

    /** From an opening parenthesis to its end. What it is follows from what is within. */
    private function within(): Query|Source
    {
        $t = $this->t;
        if (++$this->depth > 3000) {
            throw $t->fault('The query is nested too deep');
        }
        $from = $t->offset();
        $t->expect('(');
        $begins = $t->offset();
        if ('(' === $t->peek()) {
            $inner = $this->within();
            if ($inner instanceof Query) {
                if (\in_array($t->peek(), ['UNION', 'INTERSECT', 'EXCEPT', 'MINUS', 'ORDER', 'LIMIT', 'OFFSET', 'FETCH', ')'], true)) {
                    $result = $this->parser->queries->after($inner, $begins);
                } else {
                    [$alias, $columns] = $this->alias();
                    $result = $this->commas($this->more($this->t->placed(new Derived($inner, $alias, $columns), $begins), $begins), $begins);
                }
            } else {
                $result = $this->commas($this->more($inner, $begins), $begins);
            }
        } elseif ($this->parser->beginsQuery() || 'TABLE' === $t->peek() && '(' !== $t->peek(1)) {
            $result = $this->parser->queries->query();
        } else {
            $result = $this->commas($this->joined(), $begins);
        }
        $t->expect(')');
        --$this->depth;

        return $result instanceof Query ? $result : $this->t->placed($result, $from);
    }

    /** MySQL's family lets commas stand within parentheses. */
    private function commas(Source $left, int $from): Source
    {
        while ($this->t->take(',')) {
            $left = $this->t->placed(new Joined('CROSS', $left, $this->joined()), $from);
        }

        return $left;
    }

    private function rowsFrom(int $from): Source
    {
        $t = $this->t;
        $t->take('ROWS', 'FROM');
        $t->expect('(');
        $calls = $types = [];
        do {
            $at = $t->offset();
            $names = $this->names();
            $calls[] = self::asCall($this->parser->calls->call($names, $names[0], $at));
            if ($t->take('AS')) {
                $types += $this->definitions();
            }
        } while ($t->take(','));
        $t->expect(')');
        $numbered = $t->take('WITH', 'ORDINALITY');
        [$alias, $columns, $more] = $this->alias();

        return $this->t->placed(new Produced($calls, $alias, $columns, $types + $more, $numbered), $from);
    }

    /**
     * JSON_TABLE and XMLTABLE list their columns themselves; OPENJSON says them after WITH.
     *
     * @param non-empty-list<string> $names
     */
    private function listed(array $names, int $from): Source
    {
        $t = $this->t;
        $t->expect('(');
        $arguments = [];
        if ('XMLNAMESPACES' === $t->peek()) {
            $t->skip();
            $t->parenthesis();
            $t->take(',');
        }
        $made = [];
        while (!$t->over() && ')' !== $t->peek()) {
            if ($t->take('COLUMNS')) {
                $made = $this->made();
                continue;
            }
            if ('' !== $t->any(
                ',',
                'PASSING',
                'BY',
                'REF',
                'VALUE',
                'FORMAT',
                'JSON',
                'AS',
            ) || ($t->take('ERROR', 'ON', 'ERROR') || $t->take('NULL', 'ON', 'ERROR'))) {
                continue;
            }
            $arguments[] = $this->parser->expressions->expression();
            if ('AS' === $t->peek()) {
                $t->skip();
                $t->name();
            }
        }
        $t->expect(')');
        $call = $this->t->placed(new Call($names, $arguments), $from);
        if ($t->take('WITH')) {
            $made = $this->made();
        }
        [$alias, $columns] = $this->alias();

        return $this->t->placed(new Produced([$call], $alias, $columns, [], false, $made), $from);
    }

    /** @return array<string, string> name → type */
    private function made(): array
    {
        $t = $this->t;
        $inParentheses = $t->take('(');
        $made = [];
        do {
            if ($t->take('NESTED')) {
                $t->take('PATH');
                $t->text();
                if ($t->take('AS')) {
                    $t->name();
                }
                $t->expect('COLUMNS');
                $made += $this->made();
                continue;
            }
            $name = $t->name();
            if ($t->take('FOR', 'ORDINALITY')) {
                $made[$name] = $t->dialect->type('int', '', '');
            } else {
                $made[$name] = '' !== $t->peek() && ',' !== $t->peek() && 'PATH' !== $t->peek() && ')' !== $t->peek() ? $this->parser->calls->type() : '';
            }
            while (!$t->over() && ',' !== $t->peek() && ')' !== $t->peek()) {
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                } else {
                    $t->skip();
                }
            }
        } while ($t->take(','));
        if ($inParentheses) {
            $t->expect(')');
        }

        return $made;
    }

    /** @return array{?string, list<string>, array<string, string>} the name given, the names given to columns, and their types where those are said too */
    private function alias(): array
    {
        $t = $this->t;
        $said = $t->take('AS');
        $kind = $t->kind();
        if (Lexer::TEXT === $kind && $said && null !== ($text = $t->text())) {
            return [$text, [], []];
        }
        if ($said && '(' === $t->peek()) {
            return [null, [], $this->definitions()];
        }
        if ((Lexer::WORD !== $kind && Lexer::QUOTED !== $kind) || (!$said && isset(self::STOPS[$t->peek()]))) {
            return [null, [], []];
        }
        $alias = $t->name();
        if ('(' !== $t->peek() || ('WITH' === $t->peek())) {
            return [$alias, [], []];
        }
        if (\in_array($t->kind(2), [Lexer::WORD, Lexer::QUOTED], true)) {
            $types = $this->definitions();

            return [$alias, [], $types];
        }

        return [$alias, $t->names(), []];
    }

    /** @return array<string, string> columns with their types */
    private function definitions(): array
    {
        $t = $this->t;
        $t->expect('(');
        $types = [];
        do {
            $name = $t->name();
            $types[$name] = $this->parser->calls->type();
            if ($t->take('COLLATE')) {
                $t->qualified();
            }
        } while ($t->take(','));
        $t->expect(')');

        return $types;
    }
}
