<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Element;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Parameter;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Subquery;

/** What stands between the signs of an expression: names, texts, figures, calls, choices, lists. */
final class Operands
{
    private const UNITS = '/^(?:MICROSECOND|SECOND|MINUTE|HOUR|DAY|WEEK|MONTH|QUARTER|YEAR)S?(?:_\w+)?$/';
    private const TYPED = '/^(?:DATE|TIME|TIMESTAMP|TIMESTAMPTZ|DATETIME)$/';
    /** Words that begin something else than a name. */
    private const SPECIAL = [
        'CASE' => 1, 'NOT' => 1, 'NULL' => 1, 'TRUE' => 1, 'FALSE' => 1, 'EXISTS' => 1, 'UNIQUE' => 1, 'ROW' => 1, 'ARRAY' => 1, 'MATCH' => 1, 'INTERVAL' => 1,
        'BINARY' => 1, 'PRIOR' => 1, 'CONNECT_BY_ROOT' => 1, 'CURRENT' => 1, 'NEXT' => 1, 'PREVIOUS' => 1, 'NUMERIC' => 1, 'DECIMAL' => 1, 'VARCHAR' => 1,
        'CHAR' => 1, 'TIMESTAMP' => 1,
        'TIME' => 1, 'TIMESTAMPTZ' => 1, 'BIT' => 1, 'CHARACTER' => 1,
    ];

    public function __construct(private readonly Expressions $all)
    {
    }

    public function element(Expression $base, int $from): Expression
    {
        $t = $this->all->t;
        $t->expect('[');
        $low = ':' === $t->peek() ? null : $this->all->expression();
        $slice = $t->take(':');
        $high = $slice && ']' !== $t->peek() ? $this->all->expression() : null;
        $t->expect(']');

        return $this->all->t->placed(new Element($base, $low, $high, $slice), $from);
    }

    /** What an expression begins with. */
    public function prefix(int $from): Expression
    {
        $t = $this->all->t;

        return match ($t->kinds[$t->at] ?? '') {
            Lexer::WORD => $this->word($from),
            Lexer::TEXT => $this->text($from),
            Lexer::NUMBER => $this->plain('number', $from),
            Lexer::PARAMETER => $this->parameter($from),
            Lexer::QUOTED => $this->named($from),
            Lexer::SIGN => $this->signed($from),
            default => throw $t->fault('A value was expected'),
        };
    }

    private function plain(string $kind, int $from): Literal
    {
        $text = $this->all->t->written();
        $this->all->t->skip();

        return $this->all->t->placed(new Literal($kind, $text), $from);
    }

    private function parameter(int $from): Expression
    {
        $text = $this->all->t->written();
        $this->all->t->skip();

        return $this->all->t->placed(new Parameter($text), $from);
    }

    private function text(int $from): Expression
    {
        $kind = ['x' => 'bytes', 'b' => 'bits', 'n' => 'national'][strtolower($this->all->t->written()[0])] ?? 'text';
        $text = $this->all->t->text() ?? '';
        // Texts that stand one after the other are one.
        while (Lexer::TEXT === $this->all->t->kind()
            && ($this->all->t->dialect->queries->charsetTexts || str_contains(
                substr($this->all->t->text, $this->all->t->ended(), $this->all->t->offset() - $this->all->t->ended()),
                "\n",
            ))) {
            $text .= $this->all->t->text();
        }

        return $this->all->t->placed(new Literal($kind, $text), $from);
    }

    private function signed(int $from): Expression
    {
        $t = $this->all->t;
        $sign = $t->peek();
        if ('(' === $sign) {
            return $this->all->parenthesis();
        }
        if ('*' === $sign) {
            $t->skip();

            return $this->all->t->placed(new Star(), $from);
        }
        if (':' === $sign && Lexer::WORD === $t->kind(1)) {
            $t->skip();
            $name = $t->name();

            return $this->all->t->placed(new Parameter(':'.$name), $from);
        }
        if ('{' === $sign) {
            return $this->braced($from);
        }
        if ('-' === $sign || '+' === $sign) {
            $t->skip();

            return $this->all->t->placed(new Operation($sign, [$this->all->expression(Precedence::SIGNED)]), $from);
        }
        if ('!' === $sign || '~' === $sign || (1 === preg_match('/^[~!@#%^&|`?*\/<>=+-]+$/', $sign) && $t->dialect->queries->ownOperators)) {
            $t->skip();

            return $this->all->t->placed(
                new Operation($sign, [$this->all->expression($t->dialect->queries->ownOperators ? Precedence::OTHER + 1 : Precedence::SIGNED)]),
                $from,
            );
        }
        throw $t->fault('A value was expected');
    }

    /** {d '2026-01-01'}, {fn now()}: escapes of the call interface of the standard. */
    private function braced(int $from): Expression
    {
        $t = $this->all->t;
        $t->skip();
        $kind = $t->any('D', 'T', 'TS', 'FN');
        if ('' === $kind) {
            throw $t->fault('A value was expected');
        }
        $inner = $this->all->expression();
        $t->expect('}');

        return 'FN' === $kind ? $inner : $this->all->t->placed(new Literal('typed', '', ['D' => 'date', 'T' => 'time', 'TS' => 'timestamp'][$kind]), $from);
    }

    private function word(int $from): Expression
    {
        $t = $this->all->t;
        $word = $t->words[$t->at] ?? '';
        $after = $t->kinds[$t->at + 1] ?? '';
        if (!isset(self::SPECIAL[$word]) && !isset(Parser::RESERVED[$word]) && Lexer::TEXT !== $after && Lexer::WORD !== $after
            && !($this->all->bare[$word] ??= 1 === preg_match($t->dialect->queries->bareFunctions, $word))) {
            return $this->named($from);
        }
        $next = $t->peek(1);
        $found = $this->special($word, $next, $from) ?? $this->typed($word, $from) ?? $this->bare($word, $next, $from);
        if (null === $found && isset(Parser::RESERVED[$word]) && '(' !== $next && '.' !== $next) {
            throw $t->fault('A value was expected');
        }

        return $found ?? $this->named($from);
    }

    /** What a word begins that is not the name of anything; null where it is one after all. */
    private function special(string $word, string $next, int $from): ?Expression
    {
        $t = $this->all->t;
        $calls = $this->all->parser->calls;
        $names = \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true);

        return match ($word) {
            'CASE' => $this->case($from),
            'NOT' => $this->operation('NOT', Precedence::NOT, $from),
            'NULL' => $this->plain('null', $from),
            'TRUE', 'FALSE' => $this->plain('bool', $from),
            'EXISTS', 'UNIQUE' => '(' === $next ? $this->exists($from) : null,
            'ROW' => '(' === $next ? $this->row($from) : null,
            'ARRAY' => '[' === $next || '(' === $next ? $this->array($from) : null,
            'MATCH' => '(' !== $next && $names && $t->dialect->queries->charsetTexts ? $calls->match($from) : null,
            'NEXT', 'PREVIOUS' => 'VALUE' === $next && 'FOR' === $t->peek(2) ? $calls->sequence($from) : null,
            'INTERVAL' => '(' !== $next || $t->dialect->queries->charsetTexts ? $this->interval($from) : null,
            'BINARY' => $t->dialect->queries->charsetTexts && $this->isBeforeValue($next) ? $this->operation($word, Precedence::SIGNED, $from) : null,
            'PRIOR', 'CONNECT_BY_ROOT' => $this->isBeforeValue($next) ? $this->operation($word, Precedence::SIGNED, $from) : null,
            default => null,
        };
    }

    private function isBeforeValue(string $next): bool
    {
        return ')' !== $next && ',' !== $next && '.' !== $next && '' !== $next.$this->all->t->kind(1);
    }

    private function operation(string $word, int $power, int $from): Expression
    {
        $this->all->t->skip();

        return $this->all->t->placed(new Operation($word, [$this->all->expression($power)]), $from);
    }

    private function exists(int $from): Expression
    {
        $this->all->t->skip();
        $inner = $this->all->parenthesis();

        return $this->all->t->placed($inner instanceof Subquery ? new Subquery($inner->query, 'EXISTS') : $inner, $from);
    }

    /** A type and a text of it: DATE '2020-01-01'. */
    private function typed(string $word, int $from): ?Expression
    {
        $t = $this->all->t;
        $typed = Lexer::TEXT === $t->kind(1)
            && (1 === preg_match(self::TYPED, $word) || ($t->dialect->queries->ownOperators && !isset(Parser::RESERVED[$word])));
        if (!$typed && !($t->dialect->queries->ownOperators && $this->isTypeBeforeText())) {
            return null;
        }
        $type = $this->all->parser->calls->type();

        return $t->placed(new Literal('typed', $t->text() ?? '', $type), $from);
    }

    /** A function that is called without parentheses: CURRENT_DATE. */
    private function bare(string $word, string $next, int $from): ?Expression
    {
        $t = $this->all->t;
        if (1 === preg_match($t->dialect->queries->bareFunctions, $word) && '(' !== $next && '.' !== $next) {
            return $this->all->parser->calls->bare($from);
        }
        if ('CURRENT' === $word && ('DATE' === $next || 'TIME' === $next || 'TIMESTAMP' === $next)) {
            $t->skip();

            return $this->all->parser->calls->bare($from);
        }

        return null;
    }

    /** `double precision '1'`, `timestamp(0) with time zone '…'`, `numeric(5,2) '1'` */
    private function isTypeBeforeText(): bool
    {
        $t = $this->all->t;
        if (1 !== preg_match('/^(?:DOUBLE|CHARACTER|BIT|NATIONAL|TIMESTAMP|TIME|NUMERIC|DECIMAL|VARCHAR|CHAR|TIMESTAMPTZ|INTERVAL)$/', $t->peek())) {
            return false;
        }
        $ahead = 1;
        if ('(' === $t->peek($ahead)) {
            while (!\in_array($t->peek(++$ahead), [')', ''], true)) {
                continue;
            }
            ++$ahead;
        }
        while (\in_array($t->peek($ahead), ['PRECISION', 'VARYING', 'WITH', 'WITHOUT', 'TIME', 'ZONE'], true)) {
            ++$ahead;
        }

        return Lexer::TEXT === $t->kind($ahead);
    }

    private function row(int $from): Expression
    {
        $t = $this->all->t;
        $t->skip();
        if ('(' === $t->peek() && ')' === $t->peek(1)) {
            $t->skip();
            $t->skip();

            return $this->all->t->placed(new RowOf([]), $from);
        }
        $t->expect('(');
        $items = $this->all->list();
        $t->expect(')');

        return $this->all->t->placed(new RowOf($items), $from);
    }

    private function array(int $from): Expression
    {
        $t = $this->all->t;
        $t->skip();
        if ('(' === $t->peek()) {
            $inner = $this->all->parenthesis();

            return $this->all->t->placed($inner instanceof Subquery ? new Subquery($inner->query, 'ARRAY') : $inner, $from);
        }

        return $this->bracketed($from);
    }

    /** `[1, 2]`, `[[1, 2], [3, 4]]` after ARRAY */
    private function bracketed(int $from): ArrayOf
    {
        $t = $this->all->t;
        $t->expect('[');
        $items = [];
        while (']' !== $t->peek()) {
            $items[] = '[' === $t->peek() ? $this->bracketed($t->offset()) : $this->all->expression();
            if (!$t->take(',')) {
                break;
            }
        }
        $t->expect(']');

        return $this->all->t->placed(new ArrayOf($items), $from);
    }

    /** INTERVAL '1' DAY, INTERVAL n MONTH, INTERVAL '1 day'; null where it is a name. */
    private function interval(int $from): ?Expression
    {
        $t = $this->all->t;
        if (\in_array($t->kind(1), ['', Lexer::SIGN], true) && '(' !== $t->peek(1) && '-' !== $t->peek(1)) {
            return null;
        }
        if (Lexer::WORD === $t->kind(1) && !$t->dialect->queries->charsetTexts) {
            return null;
        }
        $t->skip();
        if ('(' === $t->peek() && $t->dialect->queries->ownOperators) {
            $t->parenthesis();
        }
        $amount = Lexer::TEXT === $t->kind() && !$t->dialect->queries->charsetTexts ? $this->text($t->offset()) : $this->all->expression(Precedence::ADDED);
        $unit = 1 === preg_match(self::UNITS, $t->peek()) ? ' '.$t->peek() : '';
        if ('' !== $unit) {
            $t->skip();
            if ('(' === $t->peek()) {
                $t->parenthesis();
            }
            if ($t->take('TO')) {
                $unit .= ' TO '.$t->peek();
                $t->skip();
                if ('(' === $t->peek()) {
                    $t->parenthesis();
                }
            }
        }

        return $this->all->t->placed(new Operation('INTERVAL'.$unit, [$amount]), $from);
    }

    private function case(int $from): Expression
    {
        $t = $this->all->t;
        $t->skip();
        $subject = 'WHEN' === $t->peek() ? null : $this->all->expression();
        $whens = [];
        while ($t->take('WHEN')) {
            $when = $this->all->expression();
            $t->expect('THEN');
            $whens[] = [$when, $this->all->expression()];
        }
        if ([] === $whens) {
            throw $t->fault('“WHEN” was expected');
        }
        $else = $t->take('ELSE') ? $this->all->expression() : null;
        $t->expect('END');

        return $this->all->t->placed(new CaseOf($subject, $whens, $else), $from);
    }

    /** A field, a star after a name, or a call. */
    private function named(int $from): Expression
    {
        $t = $this->all->t;
        $quoted = Lexer::QUOTED === ($t->kinds[$t->at] ?? '');
        if ($quoted && '"' === $t->written()[0] && $t->dialect->signs->doubleQuotedTexts) {
            return $this->all->t->placed(new Literal('text', $t->text() ?? ''), $from);
        }
        $next = $t->words[$t->at + 1] ?? '';
        if ('(' !== $next && '.' !== $next && '..' !== $next && '(+)' !== $next) {
            // By far the most of them.
            return $this->all->t->placed(new Ref([$t->name()], $quoted), $from);
        }
        $first = $t->written();
        $names = [$t->name()];
        while ('.' === $t->peek()) {
            if ('*' === $t->peek(1)) {
                $t->skip();
                $t->skip();

                return $this->all->t->placed(new Star($names), $from);
            }
            $t->skip();
            // Two dots stand for the usual schema of a database.
            if ('.' === $t->peek()) {
                continue;
            }
            $quoted = Lexer::QUOTED === $t->kind();
            $names[] = $t->name();
        }
        if ('..' === $t->peek() && \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)) {
            $t->skip();
            $names[] = $t->name();
        }
        if ('(' === $t->peek()) {
            return $this->all->parser->calls->call($names, $first, $from);
        }
        $outer = $t->take('(+)') || ('(' === $t->peek() && '+' === $t->peek(1));
        $ref = $this->all->t->placed(new Ref($names, $quoted), $from);

        return $outer ? $this->all->t->placed(new Operation('(+)', [$ref]), $from) : $ref;
    }
}
