<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Element;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Item;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Member;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Parameter;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;
use Fasti\Core\Sql\Tree\Select;
use Fasti\Core\Sql\Tree\Sorted;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Subquery;
use Fasti\Core\Sql\Tree\Unread;

/** Reads expressions. */
final class Expressions
{
    private const DEEPEST = 3000;
    /** What hangs together in one chain; the engine that runs this takes a tree apart by recursion. */
    public const LONGEST = 10000;
    private const UNITS = '/^(?:MICROSECOND|SECOND|MINUTE|HOUR|DAY|WEEK|MONTH|QUARTER|YEAR)S?(?:_\w+)?$/';
    private const TYPED = '/^(?:DATE|TIME|TIMESTAMP|TIMESTAMPTZ|DATETIME)$/';

    /** Words that begin something else than a name. */
    private const SPECIAL = [
        'CASE' => 1, 'NOT' => 1, 'NULL' => 1, 'TRUE' => 1, 'FALSE' => 1, 'EXISTS' => 1, 'UNIQUE' => 1, 'ROW' => 1, 'ARRAY' => 1, 'MATCH' => 1, 'INTERVAL' => 1,
        'BINARY' => 1, 'PRIOR' => 1, 'CONNECT_BY_ROOT' => 1, 'CURRENT' => 1, 'NEXT' => 1, 'PREVIOUS' => 1, 'NUMERIC' => 1, 'DECIMAL' => 1, 'VARCHAR' => 1,
        'CHAR' => 1, 'TIMESTAMP' => 1,
        'TIME' => 1, 'TIMESTAMPTZ' => 1, 'BIT' => 1, 'CHARACTER' => 1,
    ];
    /** Operators that are nothing else. */
    private const PLAIN = [
        'AND' => 1,
        'OR' => 1,
        '=' => 1,
        '+' => 1,
        '-' => 1,
        '*' => 1,
        '/' => 1,
        '<' => 1,
        '>' => 1,
        '<=' => 1,
        '>=' => 1,
        '<>' => 1,
        '||' => 1,
    ];
    private const QUANTIFIERS = ['ANY' => 1, 'SOME' => 1, 'ALL' => 1];
    private const NO_OPERATORS = [
        '(' => 1, ')' => 1, ',' => 1, ';' => 1, '[' => 1, ']' => 1, '.' => 1, ':' => 1, '{' => 1, '}' => 1, '=>' => 1, '..' => 1, '(+)' => 1, '\\' => 1,
        '?' => 1,
    ];

    public int $depth = 0;
    /** @var array<string, bool> whether a word is a function that needs no parentheses */
    private array $bare = [];

    public function __construct(private readonly Parser $parser, private readonly Tokens $t)
    {
    }

    /** @return list<Expression> at least one */
    public function list(): array
    {
        $all = [];
        do {
            $all[] = $this->expression();
        } while ($this->t->take(','));

        return $all;
    }

    /** An expression as a whole: what cannot be read of it stands as Unread, up to the comma or clause that ends it. */
    public function whole(string ...$ends): Expression
    {
        $from = $this->t->offset();

        return $this->parser->orElse(
            fn (): Expression => $this->expression(),
            fn (string $text): Expression => $this->t->placed(new Unread($text), $from),
            true,
            array_values($ends),
        );
    }

    /** @param int $least how tightly operators must bind to be taken */
    public function expression(int $least = 0): Expression
    {
        if (++$this->depth > self::DEEPEST) {
            throw $this->t->fault(\sprintf('The expression is nested more than %d deep', self::DEEPEST));
        }
        $from = $this->t->offsets[$this->t->at] ?? $this->t->offset();
        $left = $this->prefix($from);
        $chain = 0;
        while (isset($this->t->kinds[$this->t->at]) && null !== ($next = $this->infix($left, $least, $from))) {
            $left = $next;
            if (++$chain > self::LONGEST) {
                throw $this->t->fault(\sprintf('More than %d operators follow one another', self::LONGEST));
            }
        }
        --$this->depth;

        return $left;
    }

    /** What follows a value, if it binds tightly enough; null when nothing does. */
    private function infix(Expression $left, int $least, int $from): ?Expression
    {
        $t = $this->t;
        $word = $t->words[$t->at] ?? '';
        if ('' === $word || ')' === $word || ',' === $word || isset(Parser::RESERVED[$word]) && !isset(Precedence::WORDS[$word])
            && !isset(Precedence::BETWEEN_TWO[$word])) {
            return null;
        }
        $binding = $t->dialect->binding;
        if (isset(self::PLAIN[$word])) {
            // By far the most of them.
            $power = $binding[$word] ?? Precedence::BETWEEN_TWO[$word];
            if ($power < $least) {
                return null;
            }
            ++$t->at;

            return $this->binary($left, $word, $power, $from);
        }
        if (isset(Precedence::WORDS[$word])) {
            return $this->worded($left, $word, $binding[$word] ?? Precedence::WORDS[$word], $least, $from);
        }
        if ('NOT' === $word) {
            $next = $t->peek(1);
            $known = isset(Precedence::WORDS[$next]) && 'IS' !== $next && 'COLLATE' !== $next && 'AT' !== $next;
            if ('NULL' === $next && ($binding['IS'] ?? Precedence::WORDS['IS']) >= $least) {
                $t->skip();
                $t->skip();

                return $this->t->placed(new Operation('IS NOT NULL', [$left]), $from);
            }

            return $known ? $this->worded($left, $next, $binding[$next] ?? Precedence::WORDS[$next], $least, $from, true) : null;
        }
        if ('::' === $word && Precedence::CAST >= $least) {
            $t->skip();

            return $this->t->placed(new Cast($left, $this->parser->calls->type()), $from);
        }
        if ('[' === $word && $t->dialect->arrays && Precedence::CAST >= $least) {
            return $this->element($left, $from);
        }
        if ('.' === $word && ('*' === $t->peek(1) || \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)) && !$left instanceof Literal) {
            $t->skip();

            return $this->t->placed(new Member($left, $t->take('*') ? '*' : $t->name()), $from);
        }
        $kind = $t->kind();
        $power = $binding[$word] ?? Precedence::BETWEEN_TWO[$word] ?? (Lexer::SIGN === $kind && $this->isOperator($word) ? Precedence::OTHER : null);
        if ('OPERATOR' === $word && '(' === $t->peek(1)) {
            $power = Precedence::OTHER;
        }
        if (null === $power || $power < $least) {
            return null;
        }
        if (Lexer::WORD === $kind && ('MOD' === $word || 'DIV' === $word || 'XOR' === $word) && !$t->dialect->backslashes) {
            return null;
        }

        return $this->binary($left, $this->sign(), $power, $from);
    }

    private function binary(Expression $left, string $sign, int $power, int $from): Expression
    {
        $t = $this->t;
        if (isset(self::QUANTIFIERS[$t->words[$t->at] ?? '']) && '(' === $t->peek(1)) {
            $how = 'SOME' === $t->peek() ? 'ANY' : $t->peek();
            $t->skip();

            return $this->t->placed(new Operation("$sign $how", [$left, $this->parenthesis()]), $from);
        }
        if ('**' === $sign || ':=' === $sign) {
            return $this->t->placed(new Operation($sign, [$left, $this->expression($power)]), $from);
        }
        // a AND b AND c, and a + b + c, are one list: thousands of them must not nest.
        $operands = [$left];
        do {
            $operands[] = $this->expression($power + 1);
        } while (($t->words[$t->at] ?? '') === $sign && !isset(self::QUANTIFIERS[$t->words[$t->at + 1] ?? '']) && ++$t->at);

        return $this->t->placed(new Operation($sign, $operands), $from);
    }

    private function isOperator(string $sign): bool
    {
        return !isset(self::NO_OPERATORS[$sign]) || ('?' === $sign && $this->t->dialect->ownOperators);
    }

    private function sign(): string
    {
        $t = $this->t;
        if ($t->take('OPERATOR')) {
            $t->expect('(');
            while ('.' === $t->peek(1)) {
                $t->name();
                $t->skip();
            }
            $sign = $t->written();
            $t->skip();
            $t->expect(')');

            return $sign;
        }
        $sign = $t->peek();
        $t->skip();

        return $sign;
    }

    /** IS, LIKE, IN, BETWEEN and what else is written in words. */
    private function worded(Expression $left, string $word, int $power, int $least, int $from, bool $not = false): ?Expression
    {
        $t = $this->t;
        if ($power < $least || ('AT' === $word && ('TIME' !== $t->peek(1) && 'LOCAL' !== $t->peek(1))) || ('MEMBER' === $word && 'OF' !== $t->peek(1))) {
            return null;
        }
        if ($not) {
            $t->skip();
        }
        $t->skip();
        $no = $not ? 'NOT ' : '';
        switch ($word) {
            case 'ISNULL': case 'NOTNULL':
                return $this->t->placed(new Operation('ISNULL' === $word ? 'IS NULL' : 'IS NOT NULL', [$left]), $from);
            case 'IS':
                return $this->t->placed($this->is($left), $from);
            case 'COLLATE':
                $t->text() ?? $t->qualified();

                return $this->t->placed(new Operation('COLLATE', [$left]), $from);
            case 'AT':
                if ($t->take('LOCAL')) {
                    return $this->t->placed(new Operation('AT LOCAL', [$left]), $from);
                }
                $t->skip();
                $t->expect('ZONE');

                return $this->t->placed(new Operation('AT TIME ZONE', [$left, $this->expression($power + 1)]), $from);
            case 'IN':
                return $this->t->placed(new Operation($no.'IN', [$left, ...$this->among()]), $from);
            case 'BETWEEN':
                $t->any('SYMMETRIC', 'ASYMMETRIC');
                $low = $this->expression(max($power, Precedence::AND) + 1);
                $t->expect('AND');

                return $this->t->placed(new Operation($no.'BETWEEN', [$left, $low, $this->expression($power + 1)]), $from);
            case 'SIMILAR':
                $t->expect('TO');
                break;
            case 'SOUNDS':
                $t->expect('LIKE');
                break;
            case 'MEMBER':
                $t->skip();
                break;
        }
        if (\in_array($t->peek(), ['ANY', 'SOME', 'ALL'], true) && '(' === $t->peek(1)) {
            $t->skip();

            return $this->t->placed(new Operation("$no$word ANY", [$left, $this->parenthesis()]), $from);
        }
        $operands = [$left, $this->expression($power + 1)];
        if ($t->take('ESCAPE')) {
            $operands[] = $this->expression($power + 1);
        }

        return $this->t->placed(new Operation($no.$word, $operands), $from);
    }

    private function is(Expression $left): Operation
    {
        $t = $this->t;
        $not = $t->take('NOT') ? 'NOT ' : '';
        if ($t->take('DISTINCT', 'FROM')) {
            return new Operation("IS {$not}DISTINCT FROM", [$left, $this->expression(Precedence::COMPARED + 1)]);
        }
        $form = $t->any('NFC', 'NFD', 'NFKC', 'NFKD');
        $what = $t->any('NULL', 'TRUE', 'FALSE', 'UNKNOWN', 'DOCUMENT', 'NORMALIZED', 'JSON', 'NAN', 'INFINITE', 'EMPTY');
        if ('' !== $what || '' !== $form) {
            if ('JSON' === $what) {
                $t->any('OBJECT', 'ARRAY', 'SCALAR', 'VALUE');
            }

            return new Operation("IS $not$what", [$left]);
        }

        return new Operation("IS {$not}", [$left, $this->expression(Precedence::COMPARED + 1)]);
    }

    /** @return list<Expression> what stands in the parenthesis after IN: values, or one query */
    private function among(): array
    {
        $t = $this->t;
        if ('(' !== $t->peek()) {
            return [$this->amongRows() ?? $this->expression(Precedence::MATCHED + 1)];
        }
        if (')' === $t->peek(1)) {
            $t->skip();
            $t->skip();

            return [];
        }
        $inner = $this->parenthesis();

        return $inner instanceof RowOf ? $inner->items : [$inner];
    }

    /** SQLite takes a table for the query of all its rows. */
    private function amongRows(): ?Subquery
    {
        if (!$this->t->dialect->quotedTextsAsNames || !$this->t->isName()) {
            return null;
        }
        $from = $this->t->offset();
        $table = $this->parser->sources->plain();
        $query = new Query([], false, $this->t->placed(new Select([$this->t->placed(new Item($this->t->placed(new Star(), $from)), $from)], [$table]), $from));

        return $this->t->placed(new Subquery($this->t->placed($query, $from)), $from);
    }

    /** `(…)`: a value, a row of values, or a query. */
    public function parenthesis(): Expression
    {
        $t = $this->t;
        $from = $t->offset();
        $t->expect('(');
        $inner = $this->within();
        if ($inner instanceof Query) {
            $t->expect(')');

            return $this->t->placed(new Subquery($inner), $from);
        }
        if (')' === $t->peek()) {
            $t->skip();

            return $inner instanceof RowOf ? $this->t->placed(new RowOf([$inner]), $from) : $inner;
        }
        $items = [$inner];
        while ($t->take(',')) {
            $items[] = $this->expression();
        }
        $t->expect(')');

        return $this->t->placed(new RowOf($items), $from);
    }

    /**
     * After an opening parenthesis: `((SELECT 1) + 1)` is known to be a value, and `((SELECT 1) UNION (SELECT 2))` to be a
     * query, only at what follows the inner parenthesis.
     */
    private function within(): Expression|Query
    {
        $t = $this->t;
        if (++$this->depth > self::DEEPEST) {
            throw $t->fault(\sprintf('The query is nested more than %d deep', self::DEEPEST));
        }
        $from = $t->offset();
        if ('(' !== $t->peek()) {
            $result = $this->parser->beginsQuery() ? $this->parser->queries->query() : $this->expression();
        } elseif (!$this->parser->beginsQuery()) {
            $result = $this->expression();
        } else {
            $t->skip();
            $inner = $this->within();
            if ($inner instanceof Query) {
                $t->expect(')');
                $goes = \in_array($t->peek(), ['UNION', 'INTERSECT', 'EXCEPT', 'MINUS', 'ORDER', 'LIMIT', 'OFFSET', 'FETCH'], true);
                $result = $goes || ')' === $t->peek() ? $this->parser->queries->after($inner, $from)
                    : $this->after($this->t->placed(new Subquery($inner), $from), $from);
            } else {
                $items = [$inner];
                while ($t->take(',')) {
                    $items[] = $this->expression();
                }
                $t->expect(')');
                $result = $this->after(1 === \count($items) ? $inner : $this->t->placed(new RowOf($items), $from), $from);
            }
        }
        --$this->depth;

        return $result;
    }

    private function after(Expression $left, int $from): Expression
    {
        while (!$this->t->over() && null !== ($next = $this->infix($left, 0, $from))) {
            $left = $next;
        }

        return $left;
    }

    private function element(Expression $base, int $from): Expression
    {
        $t = $this->t;
        $t->expect('[');
        $low = ':' === $t->peek() ? null : $this->expression();
        $slice = $t->take(':');
        $high = $slice && ']' !== $t->peek() ? $this->expression() : null;
        $t->expect(']');

        return $this->t->placed(new Element($base, $low, $high, $slice), $from);
    }

    /** What an expression begins with. */
    private function prefix(int $from): Expression
    {
        $t = $this->t;

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
        $text = $this->t->written();
        $this->t->skip();

        return $this->t->placed(new Literal($kind, $text), $from);
    }

    private function parameter(int $from): Expression
    {
        $text = $this->t->written();
        $this->t->skip();

        return $this->t->placed(new Parameter($text), $from);
    }

    private function text(int $from): Expression
    {
        $kind = ['x' => 'bytes', 'b' => 'bits', 'n' => 'national'][strtolower($this->t->written()[0])] ?? 'text';
        $text = $this->t->text() ?? '';
        // Texts that stand one after the other are one.
        while (Lexer::TEXT === $this->t->kind()
            && ($this->t->dialect->charsetTexts || str_contains(substr($this->t->text, $this->t->ended(), $this->t->offset() - $this->t->ended()), "\n"))) {
            $text .= $this->t->text();
        }

        return $this->t->placed(new Literal($kind, $text), $from);
    }

    private function signed(int $from): Expression
    {
        $t = $this->t;
        $sign = $t->peek();
        if ('(' === $sign) {
            return $this->parenthesis();
        }
        if ('*' === $sign) {
            $t->skip();

            return $this->t->placed(new Star(), $from);
        }
        if (':' === $sign && Lexer::WORD === $t->kind(1)) {
            $t->skip();
            $name = $t->name();

            return $this->t->placed(new Parameter(':'.$name), $from);
        }
        if ('{' === $sign) {
            return $this->braced($from);
        }
        if ('-' === $sign || '+' === $sign) {
            $t->skip();

            return $this->t->placed(new Operation($sign, [$this->expression(Precedence::SIGNED)]), $from);
        }
        if ('!' === $sign || '~' === $sign || (1 === preg_match('/^[~!@#%^&|`?*\/<>=+-]+$/', $sign) && $t->dialect->ownOperators)) {
            $t->skip();

            return $this->t->placed(new Operation($sign, [$this->expression($t->dialect->ownOperators ? Precedence::OTHER + 1 : Precedence::SIGNED)]), $from);
        }
        throw $t->fault('A value was expected');
    }

    /** {d '2026-01-01'}, {fn now()}: escapes of the call interface of the standard. */
    private function braced(int $from): Expression
    {
        $t = $this->t;
        $t->skip();
        $kind = $t->any('D', 'T', 'TS', 'FN');
        if ('' === $kind) {
            throw $t->fault('A value was expected');
        }
        $inner = $this->expression();
        $t->expect('}');

        return 'FN' === $kind ? $inner : $this->t->placed(new Literal('typed', '', ['D' => 'date', 'T' => 'time', 'TS' => 'timestamp'][$kind]), $from);
    }

    private function word(int $from): Expression
    {
        $t = $this->t;
        $word = $t->words[$t->at] ?? '';
        $after = $t->kinds[$t->at + 1] ?? '';
        if (!isset(self::SPECIAL[$word]) && !isset(Parser::RESERVED[$word]) && Lexer::TEXT !== $after && Lexer::WORD !== $after
            && !($this->bare[$word] ??= 1 === preg_match($t->dialect->bareFunctions, $word))) {
            return $this->named($from);
        }
        $next = $t->peek(1);
        switch ($word) {
            case 'CASE':
                return $this->case($from);
            case 'NOT':
                $t->skip();

                return $this->t->placed(new Operation('NOT', [$this->expression(Precedence::NOT)]), $from);
            case 'NULL':
                return $this->plain('null', $from);
            case 'TRUE': case 'FALSE':
                return $this->plain('bool', $from);
            case 'EXISTS': case 'UNIQUE':
                if ('(' === $next) {
                    $t->skip();
                    $inner = $this->parenthesis();

                    return $this->t->placed($inner instanceof Subquery ? new Subquery($inner->query, 'EXISTS') : $inner, $from);
                }
                break;
            case 'ROW':
                if ('(' === $next) {
                    return $this->row($from);
                }
                break;
            case 'ARRAY':
                if ('[' === $next || '(' === $next) {
                    return $this->array($from);
                }
                break;
            case 'MATCH':
                if ('(' !== $next && $t->dialect->charsetTexts && \in_array($t->kind(1), [Lexer::WORD, Lexer::QUOTED], true)) {
                    return $this->parser->calls->match($from);
                }
                break;
            case 'NEXT':
            case 'PREVIOUS':
                if ('VALUE' === $next && 'FOR' === $t->peek(2)) {
                    return $this->parser->calls->sequence($from);
                }
                break;
            case 'INTERVAL':
                if ('(' !== $next || $t->dialect->charsetTexts) {
                    $interval = $this->interval($from);
                    if (null !== $interval) {
                        return $interval;
                    }
                }
                break;
            case 'BINARY': case 'PRIOR': case 'CONNECT_BY_ROOT':
                if (')' !== $next && ',' !== $next && '.' !== $next && '' !== $next.$t->kind(1) && ('BINARY' === $word ? $t->dialect->charsetTexts : true)) {
                    $t->skip();

                    return $this->t->placed(new Operation($word, [$this->expression(Precedence::SIGNED)]), $from);
                }
                break;
        }
        if (Lexer::TEXT === $t->kind(1) && (1 === preg_match(self::TYPED, $word) || ($t->dialect->ownOperators && !isset(Parser::RESERVED[$word])))) {
            $type = $this->parser->calls->type();

            return $this->t->placed(new Literal('typed', $t->text() ?? '', $type), $from);
        }
        if ($t->dialect->ownOperators && $this->isTypeBeforeText()) {
            $type = $this->parser->calls->type();

            return $this->t->placed(new Literal('typed', $t->text() ?? '', $type), $from);
        }
        if (1 === preg_match($t->dialect->bareFunctions, $word) && '(' !== $next && '.' !== $next) {
            return $this->parser->calls->bare($from);
        }
        if ('CURRENT' === $word && ('DATE' === $next || 'TIME' === $next || 'TIMESTAMP' === $next)) {
            $t->skip();

            return $this->parser->calls->bare($from);
        }
        if (isset(Parser::RESERVED[$word]) && '(' !== $next && '.' !== $next) {
            throw $t->fault('A value was expected');
        }

        return $this->named($from);
    }

    /** `double precision '1'`, `timestamp(0) with time zone '…'`, `numeric(5,2) '1'` */
    private function isTypeBeforeText(): bool
    {
        $t = $this->t;
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
        $t = $this->t;
        $t->skip();
        if ('(' === $t->peek() && ')' === $t->peek(1)) {
            $t->skip();
            $t->skip();

            return $this->t->placed(new RowOf([]), $from);
        }
        $t->expect('(');
        $items = $this->list();
        $t->expect(')');

        return $this->t->placed(new RowOf($items), $from);
    }

    private function array(int $from): Expression
    {
        $t = $this->t;
        $t->skip();
        if ('(' === $t->peek()) {
            $inner = $this->parenthesis();

            return $this->t->placed($inner instanceof Subquery ? new Subquery($inner->query, 'ARRAY') : $inner, $from);
        }

        return $this->bracketed($from);
    }

    /** `[1, 2]`, `[[1, 2], [3, 4]]` after ARRAY */
    private function bracketed(int $from): ArrayOf
    {
        $t = $this->t;
        $t->expect('[');
        $items = [];
        while (']' !== $t->peek()) {
            $items[] = '[' === $t->peek() ? $this->bracketed($t->offset()) : $this->expression();
            if (!$t->take(',')) {
                break;
            }
        }
        $t->expect(']');

        return $this->t->placed(new ArrayOf($items), $from);
    }

    /** INTERVAL '1' DAY, INTERVAL n MONTH, INTERVAL '1 day'; null where it is a name. */
    private function interval(int $from): ?Expression
    {
        $t = $this->t;
        if (\in_array($t->kind(1), ['', Lexer::SIGN], true) && '(' !== $t->peek(1) && '-' !== $t->peek(1)) {
            return null;
        }
        if (Lexer::WORD === $t->kind(1) && !$t->dialect->charsetTexts) {
            return null;
        }
        $t->skip();
        if ('(' === $t->peek() && $t->dialect->ownOperators) {
            $t->parenthesis();
        }
        $amount = Lexer::TEXT === $t->kind() && !$t->dialect->charsetTexts ? $this->text($t->offset()) : $this->expression(Precedence::ADDED);
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

        return $this->t->placed(new Operation('INTERVAL'.$unit, [$amount]), $from);
    }

    private function case(int $from): Expression
    {
        $t = $this->t;
        $t->skip();
        $subject = 'WHEN' === $t->peek() ? null : $this->expression();
        $whens = [];
        while ($t->take('WHEN')) {
            $when = $this->expression();
            $t->expect('THEN');
            $whens[] = [$when, $this->expression()];
        }
        if ([] === $whens) {
            throw $t->fault('“WHEN” was expected');
        }
        $else = $t->take('ELSE') ? $this->expression() : null;
        $t->expect('END');

        return $this->t->placed(new CaseOf($subject, $whens, $else), $from);
    }

    /** A field, a star after a name, or a call. */
    private function named(int $from): Expression
    {
        $t = $this->t;
        $quoted = Lexer::QUOTED === ($t->kinds[$t->at] ?? '');
        if ($quoted && '"' === $t->written()[0] && $t->dialect->doubleQuotedTexts) {
            return $this->t->placed(new Literal('text', $t->text() ?? ''), $from);
        }
        $next = $t->words[$t->at + 1] ?? '';
        if ('(' !== $next && '.' !== $next && '..' !== $next && '(+)' !== $next) {
            // By far the most of them.
            return $this->t->placed(new Ref([$t->name()], $quoted), $from);
        }
        $first = $t->written();
        $names = [$t->name()];
        while ('.' === $t->peek()) {
            if ('*' === $t->peek(1)) {
                $t->skip();
                $t->skip();

                return $this->t->placed(new Star($names), $from);
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
            return $this->parser->calls->call($names, $first, $from);
        }
        $outer = $t->take('(+)') || ('(' === $t->peek() && '+' === $t->peek(1));
        $ref = $this->t->placed(new Ref($names, $quoted), $from);

        return $outer ? $this->t->placed(new Operation('(+)', [$ref]), $from) : $ref;
    }

    /** @return list<Sorted> */
    public function order(): array
    {
        $t = $this->t;
        $order = [];
        do {
            $from = $t->offset();
            $by = $this->expression();
            if ($t->take('USING')) {
                $this->sign();
            }
            $down = 'DESC' === $t->any('ASC', 'DESC');
            if ($t->take('NULLS')) {
                $t->any('FIRST', 'LAST');
            }
            $order[] = $this->t->placed(new Sorted($by, $down), $from);
        } while ($t->take(','));

        return $order;
    }
}
