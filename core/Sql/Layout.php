<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Grammar;

/**
 * Sets a query in lines: each clause begins one, each field of the list has its own, queries within stand further in. It goes
 * by the words alone, so that what cannot be read is set as well.
 */
final class Layout
{
    /** Characters up to which an expression stays on one line. */
    private const SHORT = 60;
    private const CLAUSES = [
        'WITH' => 1, 'SELECT' => 1, 'FROM' => 1, 'WHERE' => 1, 'GROUP' => 1, 'HAVING' => 1, 'ORDER' => 1, 'LIMIT' => 1, 'OFFSET' => 1, 'FETCH' => 1,
        'UNION' => 1,
        'INTERSECT' => 1, 'EXCEPT' => 1, 'MINUS' => 1, 'WINDOW' => 1, 'VALUES' => 1, 'QUALIFY' => 1,
    ];
    private const JOINS = ['JOIN' => 1, 'LEFT' => 1, 'RIGHT' => 1, 'INNER' => 1, 'CROSS' => 1, 'FULL' => 1, 'NATURAL' => 1, 'STRAIGHT_JOIN' => 1];
    private const KEYWORDS = [
        'AS' => 1, 'ON' => 1, 'USING' => 1, 'AND' => 1, 'OR' => 1, 'NOT' => 1, 'IN' => 1, 'IS' => 1, 'NULL' => 1, 'LIKE' => 1, 'BETWEEN' => 1, 'CASE' => 1,
        'WHEN' => 1,
        'THEN' => 1, 'ELSE' => 1, 'END' => 1, 'DISTINCT' => 1, 'ALL' => 1, 'BY' => 1, 'ASC' => 1, 'DESC' => 1, 'OVER' => 1, 'PARTITION' => 1,
        'EXISTS' => 1, 'OUTER' => 1,
        'LATERAL' => 1, 'RECURSIVE' => 1, 'FILTER' => 1, 'CAST' => 1, 'INTERVAL' => 1, 'ANY' => 1, 'ROWS' => 1, 'RANGE' => 1, 'NULLS' => 1, 'LAST' => 1,
        'FIRST' => 1,
        'TRUE' => 1, 'FALSE' => 1, 'COLLATE' => 1, 'WITHIN' => 1, 'SEPARATOR' => 1, 'ROLLUP' => 1, 'PRECEDING' => 1, 'FOLLOWING' => 1, 'UNBOUNDED' => 1,
        'CURRENT' => 1,
        'ROW' => 1, 'ONLY' => 1, 'TIES' => 1,
    ];

    /** @var list<array{int, list<array{string, string, FieldPlace|Place|null}>}> */
    private array $lines = [];
    /** @var list<array{string, string, FieldPlace|Place|null}> */
    private array $line = [];
    private int $indent = 0;
    /** @var list<array{bool, int, string}> open parentheses: a query within, the indent outside, the clause outside */
    private array $open = [];
    private string $clause = '';
    private int $cases = 0;

    /**
     * @return list<array{int, list<array{string, string, FieldPlace|Place|null}>}> how far in each line stands, and its
     *                                                                               pieces: what kind (word, name, text, number, sign, blank), the
     * text, what it means
     */
    public static function of(Reading $reading, Grammar $dialect): array
    {
        try {
            return (new self())->set(new Tokens($reading->text, $dialect), $reading);
        } catch (SqlFault) {
            return array_map(static fn (string $line): array => [0, [['text', $line, null]]], explode("\n", $reading->text));
        }
    }

    /** @return list<array{int, list<array{string, string, FieldPlace|Place|null}>}> */
    private function set(Tokens $t, Reading $reading): array
    {
        $before = '';
        while (!$t->over()) {
            $word = $t->peek();
            $blank = $t->offset() > $t->ended();
            $this->break($word, $before, $t);
            if ([] !== $this->line && ($blank || ',' === $before) && !\in_array($word, [',', ')', ';'], true) && '(' !== $before) {
                $this->line[] = ['blank', ' ', null];
            }
            $offset = $t->offset();
            $meaning = $reading->fieldAt[$offset] ?? $reading->tableAt[$offset] ?? null;
            if (null !== $meaning && $t->isName()) {
                $this->line[] = ['name', $this->name($t), $meaning];
                $before = '';
                continue;
            }
            $this->line[] = [$this->kind($t), $t->written(), null];
            $t->skip();
            $this->after($word, $t);
            $before = $word;
        }
        $this->end();

        return $this->lines;
    }

    /** Sets an expression: on one line where it is short, and otherwise each case of a CASE on its own. */
    public static function expression(string $sql, Grammar $dialect): string
    {
        $plain = trim((string) preg_replace('/\s+/', ' ', $sql));
        if (mb_strlen($plain) <= self::SHORT) {
            return $plain;
        }
        try {
            $t = new Tokens($sql, $dialect);
        } catch (SqlFault) {
            return $plain;
        }
        $set = '';
        $depth = 0;
        while (!$t->over()) {
            $word = $t->peek();
            if ('END' === $word && $depth > 0) {
                $set .= "\n".str_repeat('  ', --$depth);
            } elseif ($depth > 0 && ('WHEN' === $word || 'ELSE' === $word)) {
                $set .= "\n".str_repeat('  ', $depth);
            } elseif ('' !== $set && $t->offset() > $t->ended()) {
                $set .= ' ';
            }
            $depth += 'CASE' === $word ? 1 : 0;
            $set .= $t->written();
            $t->skip();
        }

        return $set;
    }

    /** A name with all that stands before it, as it is written. */
    private function name(Tokens $t): string
    {
        $text = $t->written();
        $t->skip();
        while ('.' === $t->peek() && \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)) {
            $text .= '.'.$t->written(1);
            $t->skip();
            $t->skip();
        }

        return $text;
    }

    private function kind(Tokens $t): string
    {
        $word = $t->peek();

        return match ($t->kind()) {
            Lexer::TEXT => 'text',
            Lexer::NUMBER => 'number',
            Lexer::QUOTED => 'name',
            Lexer::WORD => isset(self::CLAUSES[$word]) || isset(self::JOINS[$word]) || isset(self::KEYWORDS[$word]) ? 'word' : 'name',
            default => 'sign',
        };
    }

    /** Begins a line before a word that wants one. */
    private function break(string $word, string $before, Tokens $t): void
    {
        $inQuery = [] === $this->open || $this->open[\count($this->open) - 1][0];
        if (')' === $word && [] !== $this->open) {
            [$query, $indent, $clause] = array_pop($this->open);
            if ($query) {
                $this->end();
                $this->indent = $indent;
            }
            $this->clause = $clause;

            return;
        }
        if (!$inQuery || '' === $word || '.' === $before) {
            return;
        }
        if (isset(self::CLAUSES[$word]) && !$this->isWithinClause($word, $before, $t)) {
            $this->end();
            $this->clause = $word;
        } elseif (isset(self::JOINS[$word]) && 'FROM' === $this->clause && !isset(self::JOINS[$before]) && 'OUTER' !== $before && '(' !== $t->peek(1)) {
            $this->end(1);
        } elseif (('AND' === $word || 'OR' === $word) && 0 === $this->cases && \in_array(
            $this->clause,
            ['WHERE', 'HAVING', 'FROM'],
            true,
        ) && 'BETWEEN' !== $this->between) {
            $this->end('FROM' === $this->clause ? 2 : 1);
        }
        $this->between = match (true) {
            'BETWEEN' === $word => 'BETWEEN',
            'AND' === $word => '',
            default => $this->between,
        };
    }

    private string $between = '';

    /** Words of clauses that are part of something else: ORDER in a call, FROM in IS DISTINCT FROM, WITH in WITH ORDINALITY. */
    private function isWithinClause(string $word, string $before, Tokens $t): bool
    {
        return match ($word) {
            'FROM' => 'DISTINCT' === $before,
            'WITH' => [] !== $this->line && '(' !== $before,
            'GROUP', 'ORDER' => 'BY' !== $t->peek(1) && 'SIBLINGS' !== $t->peek(1) || 'WITHIN' === $before,
            'VALUES' => '(' !== $t->peek(1),
            default => false,
        };
    }

    private function after(string $word, Tokens $t): void
    {
        if ('CASE' === $word) {
            ++$this->cases;
        } elseif ('END' === $word) {
            $this->cases = max(0, $this->cases - 1);
        } elseif ('(' === $word) {
            $query = \in_array($t->peek(), ['SELECT', 'WITH', 'VALUES'], true);
            $this->open[] = [$query, $this->indent, $this->clause];
            if ($query) {
                $this->end();
                $this->indent += 2;
            }
        } elseif (',' === $word && ([] === $this->open || $this->open[\count($this->open) - 1][0]) && \in_array(
            $this->clause,
            ['SELECT', 'FROM', 'WITH'],
            true,
        )) {
            $this->end(1);
        }
    }

    /** @param int $further how much further in the next line stands, while its clause goes on */
    private function end(int $further = 0): void
    {
        if ([] !== $this->line) {
            $this->lines[] = [$this->indent + $this->extra, $this->line];
            $this->line = [];
        }
        $this->extra = $further;
    }

    private int $extra = 0;
}
