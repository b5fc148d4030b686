<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Item;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Member;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Query;
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
    public array $bare = [];

    public readonly Operands $operands;

    public function __construct(public readonly Parser $parser, public readonly Tokens $t)
    {
        $this->operands = new Operands($this);
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
        $left = $this->operands->prefix($from);
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
        $binding = $t->dialect->queries->binding;
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
        if ('[' === $word && $t->dialect->structure->arrays && Precedence::CAST >= $least) {
            return $this->operands->element($left, $from);
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
        if (Lexer::WORD === $kind && ('MOD' === $word || 'DIV' === $word || 'XOR' === $word) && !$t->dialect->signs->backslashes) {
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
        return !isset(self::NO_OPERATORS[$sign]) || ('?' === $sign && $this->t->dialect->queries->ownOperators);
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
        if (!$this->t->dialect->signs->quotedTextsAsNames || !$this->t->isName()) {
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
