<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Query;

/**
 * Reads a query into its tree: recursive descent, with operators by how tightly they bind (Pratt, “Top down operator
 * precedence”, 1973). It never goes back, so that a text of whatever kind is read in time linear in its length.
 */
final class Parser
{
    /** Words that are never a name unless quoted, wherever they stand. */
    public const RESERVED = [
        'SELECT' => 1, 'FROM' => 1, 'WHERE' => 1, 'GROUP' => 1, 'HAVING' => 1, 'ORDER' => 1, 'UNION' => 1, 'INTERSECT' => 1, 'EXCEPT' => 1, 'MINUS' => 1,
        'ON' => 1, 'USING' => 1, 'JOIN' => 1, 'AND' => 1, 'OR' => 1, 'THEN' => 1, 'ELSE' => 1, 'WHEN' => 1, 'AS' => 1, 'CASE' => 1, 'INTO' => 1, 'BETWEEN' => 1,
        'IN' => 1, 'IS' => 1, 'LIKE' => 1, 'DISTINCT' => 1, 'LIMIT' => 1, 'CREATE' => 1, 'TABLE' => 1,
    ];

    /** A megabyte of ordinary SQL has fewer. */
    private const MOST_NAMES = 150_000;
    /** Words at which reading goes on after something that was not understood. */
    private const CLAUSES = [
        'FROM' => 1, 'WHERE' => 1, 'GROUP' => 1, 'HAVING' => 1, 'ORDER' => 1, 'LIMIT' => 1, 'OFFSET' => 1, 'FETCH' => 1, 'UNION' => 1, 'INTERSECT' => 1,
        'EXCEPT' => 1, 'MINUS' => 1, 'WINDOW' => 1, 'QUALIFY' => 1, ';' => 1,
    ];

    public Expressions $expressions;
    public Calls $calls;
    public Sources $sources;
    public Queries $queries;
    /** @var array{int, int} first and last word of the run of parentheses that was looked at last */
    private array $run = [0, 0];
    /** @var array<int, SqlFault> what was not understood, by its place */
    public array $faults = [];

    public function __construct(public readonly Tokens $t)
    {
        $this->expressions = new Expressions($this, $t);
        $this->calls = new Calls($this, $t);
        $this->sources = new Sources($this, $t);
        $this->queries = new Queries($this, $t);
    }

    /** The one expression of a text; null where it is none, or is not understood to its end. */
    public static function expression(string $sql, Grammar $dialect): ?Expression
    {
        try {
            $t = new Tokens($sql, $dialect);
            $expression = (new self($t))->expressions->expression();

            return $t->over() ? $expression : null;
        } catch (SqlFault) {
            return null;
        }
    }

    /**
     * The one query of a text. What is not understood within it stands as Unread, and its fault is told.
     *
     * @return array{Query, list<SqlFault>} faults in the order of the text
     *
     * @throws SqlFault where the text is no query at all, with the place
     */
    public static function query(string $sql, Grammar $dialect): array
    {
        $t = new Tokens($sql, $dialect);
        if ($t->over()) {
            throw new SqlFault('There is no query: the text is empty', 0);
        }
        self::bounded($t);
        $parser = new self($t);
        $query = $parser->queries->query();
        while ($t->take(';')) {
            continue;
        }
        if ('' !== $t->kind()) {
            $parser->faults[$t->offset()] ??= $t->fault('The query was over, but something follows');
        }
        $faults = $parser->faults;
        ksort($faults);
        // The parts know one another; taken apart, their memory is free at once.
        unset($parser->expressions, $parser->calls, $parser->sources, $parser->queries);

        return [$query, array_values($faults)];
    }

    /** @throws SqlFault where a query holds so many names that reading it would keep a person waiting */
    private static function bounded(Tokens $t): void
    {
        if (\count($t->kinds) < self::MOST_NAMES) {
            return;
        }
        $names = 0;
        foreach ($t->kinds as $i => $kind) {
            if ((Lexer::WORD === $kind || Lexer::QUOTED === $kind) && ++$names > self::MOST_NAMES) {
                throw new SqlFault(
                    \sprintf(
                        'The query holds more than %s names and words, which is more than is read at once. Cut it into smaller ones',
                        number_format(self::MOST_NAMES),
                    ),
                    $t->offsets[$i],
                );
            }
        }
    }

    /**
     * Reads something; where that fails, goes on behind it and keeps the fault.
     *
     * @template T
     *
     * @param callable(): T       $read
     * @param callable(string): T $instead of the text that was passed over
     * @param bool                $comma   a comma ends it
     * @param list<string>        $ends    words that end it beside the clauses
     *
     * @return T
     */
    public function orElse(callable $read, callable $instead, bool $comma = false, array $ends = []): mixed
    {
        $from = $this->t->at;
        $depth = $this->expressions->depth;
        try {
            return $read();
        } catch (SqlFault $e) {
            $this->faults[$e->offset] ??= $e;
            $this->expressions->depth = $depth;
            $this->t->at = $from;
            $this->pass($comma, $ends);
            if ($from === $this->t->at) {
                throw $e;
            }

            return $instead($this->t->from($from));
        }
    }

    /** @param list<string> $ends */
    private function pass(bool $comma, array $ends): void
    {
        $t = $this->t;
        $open = 0;
        while (!$t->over()) {
            $word = $t->peek();
            if ('(' === $word || '[' === $word) {
                ++$open;
            } elseif (')' === $word || ']' === $word) {
                if (--$open < 0) {
                    return;
                }
            } elseif (0 === $open && (isset(self::CLAUSES[$word]) || ($comma && ',' === $word) || \in_array($word, $ends, true))) {
                return;
            }
            $t->skip();
        }
    }

    /** Whether a query begins here, parentheses before it aside. */
    public function beginsQuery(): bool
    {
        $ahead = 0;
        if ('(' === $this->t->peek()) {
            // Where a run of parentheses ends is kept, or each of them would look for it again.
            if ($this->t->at < $this->run[0] || $this->t->at >= $this->run[1]) {
                while ('(' === $this->t->peek($ahead)) {
                    ++$ahead;
                }
                $this->run = [$this->t->at, $this->t->at + $ahead];
            }
            $ahead = $this->run[1] - $this->t->at;
        }

        if ('TABLE' === $this->t->peek($ahead)) {
            return \in_array($this->t->kind($ahead + 1), [Lexer::WORD, Lexer::QUOTED], true);
        }

        return \in_array($this->t->peek($ahead), ['SELECT', 'WITH', 'VALUES'], true)
            && ('VALUES' !== $this->t->peek($ahead) || '(' === $this->t->peek($ahead + 1) || 'ROW' === $this->t->peek($ahead + 1))
            && ('WITH' !== $this->t->peek($ahead) || \in_array($this->t->kind($ahead + 1), [Lexer::WORD, Lexer::QUOTED], true));
    }
}
