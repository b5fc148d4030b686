<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Item;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Subquery;
use Fasti\Core\Sql\Tree\TableRef;

/**
 * Whether two queries say the same in other words: as somebody wrote it, and as an engine writes it in its catalog. Both are
 * walked together; a name may be qualified in one of them only, and an engine may have added casts, aliases and the
 * operators that IN, BETWEEN and LIKE stand for. What differs otherwise is a difference.
 */
final class Alike
{
    private const SIGNS = [
        '~~' => 'LIKE', '!~~' => 'NOT LIKE', '~~*' => 'ILIKE', '!~~*' => 'NOT ILIKE', '!=' => '<>', 'MOD' => '%', 'RLIKE' => 'REGEXP', '&&' => 'AND',
        '==' => '=',
    ];
    private const CALLS = [
        'ucase' => 'upper', 'lcase' => 'lower', 'octet_length' => 'length', 'substr' => 'substring', 'mid' => 'substring', 'now' => 'current_timestamp',
        'curdate' => 'current_date',
        'curtime' => 'current_time', 'character_length' => 'char_length', 'btrim' => 'trim', 'date_part' => 'extract', 'power' => 'pow', 'ceil' => 'ceiling',
        'sha1' => 'sha',
        'dayofmonth' => 'day', 'stddev_pop' => 'std', 'stddev' => 'std', 'localtimestamp' => 'current_timestamp',
    ];
    /** Casts that engines add by themselves. */
    private const CASTS = '/^(?:text|character varying|varchar|bpchar|character|numeric|decimal|double '
        .'precision|real|integer|bigint|smallint|interval|date|timestamp with(?:out)? time zone|name|regclass|boolean|longtext)\b/i';

    /** Names that a query gives to what it shows are said elsewhere, so long as it is the outermost. */
    private int $depth = 0;
    /** @var array<string, string> what a source is called in the first → in the second */
    private array $names = [];

    private function __construct(private readonly Grammar $dialect)
    {
    }

    public static function queries(string $a, string $b, Grammar $dialect): bool
    {
        if (self::squeezed($a) === self::squeezed($b)) {
            return true;
        }
        try {
            [$first, $faultsA] = Parser::query($a, $dialect);
            [$second, $faultsB] = Parser::query($b, $dialect);
        } catch (SqlFault) {
            return false;
        }

        return [] === $faultsA && [] === $faultsB && (new self($dialect))->same($first, $second);
    }

    public static function expressions(string $a, string $b, Grammar $dialect): bool
    {
        if (self::squeezed($a) === self::squeezed($b)) {
            return true;
        }
        try {
            $read = static function (string $sql) use ($dialect): Expression {
                $t = new Tokens($sql, $dialect);
                $tree = (new Parser($t))->expressions->expression();

                return $t->over() ? $tree : throw new SqlFault('', 0);
            };

            return (new self($dialect))->same($read($a), $read($b));
        } catch (SqlFault) {
            return false;
        }
    }

    private static function squeezed(string $sql): string
    {
        return trim((string) preg_replace('/\s+/', ' ', $sql), '; ');
    }

    private function same(mixed $a, mixed $b): bool
    {
        if (\is_array($a) && \is_array($b)) {
            if (\count($a) !== \count($b)) {
                return false;
            }
            $b = array_values($b);
            foreach (array_values($a) as $i => $each) {
                if (!$this->same($each, $b[$i])) {
                    return false;
                }
            }

            return true;
        }
        if (!$a instanceof Node || !$b instanceof Node) {
            return \is_string($a) && \is_string($b) ? 0 === strcasecmp($a, $b) : $a === $b;
        }
        $a = self::plain($a);
        $b = self::plain($b);

        return match (true) {
            $a::class !== $b::class => false,
            $a instanceof Ref && $b instanceof Ref => $this->refs($a->names, $b->names),
            $a instanceof Star && $b instanceof Star => $this->refs([...$a->names, '*'], [...$b->names, '*']),
            $a instanceof TableRef && $b instanceof TableRef => $this->tables($a, $b),
            $a instanceof Item && $b instanceof Item => $this->items($a, $b),
            $a instanceof Literal && $b instanceof Literal => self::literal($a) === self::literal($b),
            default => $this->members($a, $b),
        };
    }

    private function members(Node $a, Node $b): bool
    {
        $this->depth += $a instanceof Query ? 1 : 0;
        try {
            return $this->each($a, $b);
        } finally {
            $this->depth -= $a instanceof Query ? 1 : 0;
        }
    }

    private function each(Node $a, Node $b): bool
    {
        // Sources come first: what follows goes by the names that they give.
        $order = static fn (string $name): int => ['with' => 0, 'from' => 1, 'left' => 1, 'right' => 1, 'body' => 1][$name] ?? 2;
        $names = array_keys(get_object_vars($a));
        usort($names, static fn (string $x, string $y): int => $order($x) <=> $order($y));
        foreach ($names as $name) {
            if ('at' !== $name && 'end' !== $name && !$this->same($a->{$name}, $b->{$name})) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param list<string> $a
     * @param list<string> $b
     */
    private function refs(array $a, array $b): bool
    {
        if (0 !== strcasecmp($a[\count($a) - 1], $b[\count($b) - 1])) {
            return false;
        }
        $of = $a[\count($a) - 2] ?? null;
        $in = $b[\count($b) - 2] ?? null;

        return null === $of || null === $in || 0 === strcasecmp($this->names[strtolower($of)] ?? $of, $in);
    }

    private function tables(TableRef $a, TableRef $b): bool
    {
        $last = static fn (TableRef $table): string => $table->names[\count($table->names) - 1];
        if (0 !== strcasecmp($last($a), $last($b))) {
            return false;
        }
        $this->names[strtolower($a->alias ?? $last($a))] = $b->alias ?? $last($b);

        return true;
    }

    /** An engine names every column that a query gives. */
    private function items(Item $a, Item $b): bool
    {
        if (!$this->same($a->value, $b->value)) {
            return false;
        }
        if (1 === $this->depth) {
            return true;
        }
        $name = static fn (Item $item): ?string => $item->name ?? ($item->value instanceof Ref ? $item->value->names[\count($item->value->names) - 1] : null);
        $of = $name($a);
        $in = $name($b);

        return null === $of || null === $in || 0 === strcasecmp($of, $in);
    }

    private static function literal(Literal $literal): string
    {
        return match (true) {
            'bool' === $literal->kind => 'TRUE' === strtoupper($literal->text) ? '1' : '0',
            'null' === $literal->kind => "\0null",
            is_numeric($literal->text) => (string) (float) $literal->text,
            default => $literal->text,
        };
    }

    /** A node without what engines add, and with what they replace as it is usually written. */
    private static function plain(Node $node): Node
    {
        if ($node instanceof Cast && (1 === preg_match(self::CASTS, $node->type) || $node->value instanceof Literal)) {
            return self::plain($node->value);
        }
        if ($node instanceof Subquery && '' === $node->how && [] === $node->query->with && [] === $node->query->order) {
            return $node;
        }
        if ($node instanceof Call) {
            $name = strtolower($node->names[\count($node->names) - 1]);

            // Rows may be counted by any constant.
            $star = $node->star
                || ('count' === $name && !$node->distinct && ($node->arguments[0] ?? null) instanceof Literal && 'null' !== $node->arguments[0]->kind);

            return new Call(
                [self::CALLS[$name] ?? $name],
                $star ? [] : $node->arguments,
                $star,
                $node->distinct,
                $node->order,
                $node->filter,
                $node->over,
                $node->within,
            );
        }
        if (!$node instanceof Operation) {
            return $node;
        }
        $sign = self::SIGNS[$node->sign] ?? $node->sign;
        $operands = $node->operands;
        if (('= ANY' === $sign || '<> ALL' === $sign) && 2 === \count($operands)) {
            $list = self::plain($operands[1]);
            if ($list instanceof ArrayOf) {
                return new Operation('= ANY' === $sign ? 'IN' : 'NOT IN', [$operands[0], ...$list->items]);
            }
        }
        if (('IN' === $sign || 'NOT IN' === $sign) && 2 === \count($operands) && !$operands[1] instanceof Subquery) {
            return new Operation('IN' === $sign ? '=' : '<>', $operands);
        }
        if ('BETWEEN' === $sign && 3 === \count($operands)) {
            return new Operation('AND', [new Operation('>=', [$operands[0], $operands[1]]), new Operation('<=', [$operands[0], $operands[2]])]);
        }
        if ('AND' === $sign || 'OR' === $sign || '+' === $sign || '*' === $sign || '||' === $sign) {
            // a AND (b AND c) is one list.
            $flat = [];
            foreach ($operands as $i => $operand) {
                $inner = $operand instanceof Operation && ('AND' === $sign || 'OR' === $sign || 0 === $i) ? self::plain($operand) : $operand;
                $flat = [...$flat, ...($inner instanceof Operation && $inner->sign === $sign ? $inner->operands : [$operand])];
            }
            $operands = $flat;
        }

        return new Operation($sign, $operands);
    }
}
