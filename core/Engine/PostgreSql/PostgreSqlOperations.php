<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\RowOf;

/** Operations and comparisons, as the server writes them. */
final class PostgreSqlOperations
{
    private const LIKE = ['LIKE' => '~~', 'NOT LIKE' => '!~~', 'ILIKE' => '~~*', 'NOT ILIKE' => '!~~*'];

    public function __construct(private readonly PostgreSqlWriting $all)
    {
    }

    public function operation(Operation $node): Written
    {
        $sign = $node->sign;
        $operands = $node->operands;
        $no = str_starts_with($sign, 'NOT ');

        return match (true) {
            'AND' === $sign, 'OR' === $sign => $this->conditions($sign, $operands),
            'NOT' === $sign => new Written('(NOT '.$this->all->boolean($this->all->write($operands[0]))->sql.')', 'bool'),
            1 === preg_match('/^IS (?:NOT )?NULL$/', $sign) => new Written('('.$this->known($operands[0])->sql.' '.$sign.')', 'bool'),
            1 === preg_match('/^IS (?:NOT )?(?:TRUE|FALSE|UNKNOWN)$/', $sign) => new Written(
                '('.$this->all->boolean($this->all->write($operands[0]))->sql.' '.$sign.')',
                'bool',
            ),
            'IS DISTINCT FROM' === $sign => $this->binary('=', $this->all->write($operands[0]), $this->all->write($operands[1]), 'IS DISTINCT FROM'),
            'IS NOT DISTINCT FROM' === $sign => new Written(
                '(NOT '.$this->binary('=', $this->all->write($operands[0]), $this->all->write($operands[1]), 'IS DISTINCT FROM')->sql.')',
                'bool',
            ),
            'BETWEEN' === $sign, 'NOT BETWEEN' === $sign => $this->between($no, $operands, $node),
            'IN' === $sign, 'NOT IN' === $sign => $this->among($no, $operands),
            isset(self::LIKE[$sign]) => $this->like(self::LIKE[$sign], $operands),
            'SIMILAR' === $sign, 'NOT SIMILAR' === $sign => $this->similar($no ? '!~' : '~', $operands),
            1 === preg_match('/^(.+) (ANY|ALL)$/', $sign, $m) => $this->quantified($m[1], $m[2], $operands),
            'COLLATE' === $sign => $this->collated($operands[0]),
            'AT TIME ZONE' === $sign => $this->atZone($operands),
            str_starts_with($sign, 'INTERVAL') => $this->interval($sign, $operands[0]),
            1 === \count($operands) => $this->unary($sign, $operands[0]),
            default => $this->chain('!=' === $sign ? '<>' : $sign, $operands),
        };
    }

    public function known(Expression $node): Written
    {
        $written = $this->all->write($node);

        return PostgreSqlWriting::UNKNOWN === $written->type ? $this->all->coerced($written, 'text') : $written;
    }

    /** @param list<Expression> $operands */
    private function conditions(string $sign, array $operands): Written
    {
        // What stands in parentheses on the left is part of the same list.
        while ($operands[0] instanceof Operation && $operands[0]->sign === $sign) {
            $operands = [...$operands[0]->operands, ...\array_slice($operands, 1)];
        }
        $parts = array_map(fn (Expression $operand): string => $this->all->boolean($this->all->write($operand))->sql, $operands);

        return new Written('('.implode(" $sign ", $parts).')', 'bool');
    }

    /** @param list<Expression> $operands */
    private function chain(string $sign, array $operands): Written
    {
        if ($operands[0] instanceof RowOf || $operands[1] instanceof RowOf) {
            return $this->rows($sign, $operands);
        }
        $left = $this->all->write($operands[0]);
        foreach (\array_slice($operands, 1) as $operand) {
            $left = $this->binary($sign, $left, $this->all->write($operand));
        }

        return $left;
    }

    /**
     * Rows are compared value by value.
     *
     * @param list<Expression> $operands
     */
    private function rows(string $sign, array $operands): Written
    {
        if (!$operands[0] instanceof RowOf || !$operands[1] instanceof RowOf || !\in_array($sign, ['=', '<>'], true)) {
            throw new \UnexpectedValueException();
        }
        $parts = [];
        foreach ($operands[0]->items as $i => $item) {
            $parts[] = $this->binary($sign, $this->all->write($item), $this->all->write($operands[1]->items[$i] ?? throw new \UnexpectedValueException()))->sql;
        }

        return new Written('('.implode('=' === $sign ? ' AND ' : ' OR ', $parts).')', 'bool');
    }

    private function binary(string $sign, Written $left, Written $right, ?string $shown = null): Written
    {
        $chosen = $this->all->typing->overloads->chosenOperator($sign, [$left->type, $right->type]);
        if (null === $chosen && isset($this->all->around->operators[$sign])) {
            $own = 'OPERATOR('.$this->all->dialect->quotedName($this->all->around->operators[$sign]).'.'.$sign.')';

            return new Written('('.$this->all->calls->coercedUnknown($left)->sql." $own ".$this->all->calls->coercedUnknown($right)->sql.')', 'bool');
        }
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $result = $this->all->typing->overloads->operator($sign, [$left->type, $right->type]) ?? $chosen[2];
        $a = $this->operand($left, $chosen[0], $right);
        $b = $this->operand($right, $chosen[1], $left);

        return new Written("($a->sql ".($shown ?? $sign)." $b->sql)", null === $shown ? $result : 'bool');
    }

    /** An operand of an operator that may take any type: an unknown text is of the other's. */
    public function operand(Written $written, string $wanted, Written $other): Written
    {
        if (str_starts_with($wanted, 'any') && PostgreSqlWriting::UNKNOWN === $written->type) {
            $type = PostgreSqlWriting::UNKNOWN === $other->type ? 'text' : $this->all->typing->based($other->type);

            return $this->all->coerced(
                $written,
                \in_array($wanted, ['anyelement', 'anycompatible', 'anynonarray'], true) && str_starts_with($type, '_') ? substr($type, 1) : $type,
            );
        }
        if (str_starts_with($wanted, 'any') && $this->all->typing->based($written->type) !== $written->type && !$this->all->typing->isEnum($written->type)) {
            return $this->all->coerced($written, $this->all->typing->based($written->type));
        }

        return $this->all->coerced($written, $wanted);
    }

    private function unary(string $sign, Expression $operand): Written
    {
        $value = $this->all->write($operand);
        // A number with its sign is one constant.
        if ('-' === $sign && $operand instanceof Literal && 'number' === $operand->kind) {
            return $this->all->constants->of($value->type, '-'.$operand->text);
        }
        $chosen = $this->all->typing->overloads->chosenOperator($sign, [$value->type]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }

        return new Written("($sign ".$this->all->coerced($value, $chosen[1])->sql.')', $chosen[2]);
    }

    /** @param list<Expression> $operands */
    private function between(bool $no, array $operands, Operation $node): Written
    {
        if (1 === preg_match('/\bSYMMETRIC\b/i', $this->all->raw($node))) {
            throw new \UnexpectedValueException();
        }
        $low = $this->binary($no ? '<' : '>=', $this->all->write($operands[0]), $this->all->write($operands[1]));
        $high = $this->binary($no ? '>' : '<=', $this->all->write($operands[0]), $this->all->write($operands[2]));

        return new Written("($low->sql ".($no ? 'OR' : 'AND')." $high->sql)", 'bool');
    }

    /** @param list<Expression> $operands */
    private function among(bool $no, array $operands): Written
    {
        $left = $this->all->write($operands[0]);
        $items = \array_slice($operands, 1);
        $constant = static fn (Written $item): bool => $item->isConstant();
        $written = array_map($this->all->write(...), $items);
        $sign = $no ? '<>' : '=';
        $constants = array_values(array_filter($written, $constant));
        if (\count($constants) < 2 || \count($constants) < \count($written)) {
            // Constants go into one list where there are several, and what is computed stands beside it.
            $single = \count($constants) < 2 ? $written : array_values(array_filter($written, static fn (Written $item): bool => !$item->isConstant()));
            $parts = array_map(fn (Written $item): string => $this->binary($sign, $left, $item)->sql, $single);
            if (\count($single) < \count($written)) {
                array_unshift($parts, $this->amongConstants($no, $left, $constants)->sql);
            }

            return new Written(1 === \count($parts) ? $parts[0] : '('.implode($no ? ' AND ' : ' OR ', $parts).')', 'bool');
        }

        return $this->amongConstants($no, $left, $constants);
    }

    /** @param list<Written> $written */
    private function amongConstants(bool $no, Written $left, array $written): Written
    {
        $sign = $no ? '<>' : '=';
        $common = $this->all->typing->overloads->common(array_map(fn (Written $item): string => $this->all->typing->based($item->type), [$left, ...$written]));
        if (null === $common) {
            throw new \UnexpectedValueException();
        }
        $array = new Written(
            'ARRAY['.implode(', ', array_map(fn (Written $item): string => $this->all->coerced($item, $common)->sql, $written)).']',
            $this->arrayOf($common),
        );

        return $this->any($sign, $no ? 'ALL' : 'ANY', $left, $array, $common);
    }

    private function any(string $sign, string $how, Written $left, Written $array, string $element): Written
    {
        $chosen = $this->all->typing->overloads->chosenOperator($sign, [$left->type, $element]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $right = str_starts_with($chosen[1], 'any') || $chosen[1] === $element ? $array : $this->all->coerced($array, $this->arrayOf($chosen[1]));
        $a = $this->operand($left, $chosen[0], new Written('', $element));

        return new Written("($a->sql $sign $how ($right->sql))", 'bool');
    }

    public function arrayOf(string $internal): string
    {
        return $this->all->typing->overloads->catalog->types[$internal][3] ?? '_'.$internal;
    }

    /** @param list<Expression> $operands */
    private function quantified(string $sign, string $how, array $operands): Written
    {
        $left = $this->all->write($operands[0]);
        if (isset(self::LIKE[$sign])) {
            $sign = self::LIKE[$sign];
        }
        $right = $operands[1] instanceof ArrayOf ? $this->all->calls->list($operands[1], null) : $this->all->write($operands[1]);
        if (PostgreSqlWriting::UNKNOWN === $right->type) {
            $right = $this->all->coerced($right, $this->arrayOf($this->all->typing->based($left->type)));
        }
        if (!str_starts_with($right->type, '_')) {
            throw new \UnexpectedValueException();
        }

        return $this->any('!=' === $sign ? '<>' : $sign, $how, $left, $right, substr($right->type, 1));
    }

    /** @param list<Expression> $operands */
    private function like(string $sign, array $operands): Written
    {
        $pattern = $this->all->write($operands[1]);
        if (isset($operands[2])) {
            $escape = $this->all->coerced($this->all->write($operands[2]), 'text');
            $pattern = new Written('like_escape('.$this->all->coerced($pattern, 'text')->sql.', '.$escape->sql.')', 'text');
        }

        return $this->binary($sign, $this->all->write($operands[0]), $pattern);
    }

    /** @param list<Expression> $operands */
    private function similar(string $sign, array $operands): Written
    {
        $arguments = array_map(fn (Expression $each): string => $this->all->coerced($this->all->write($each), 'text')->sql, \array_slice($operands, 1));

        return $this->binary($sign, $this->all->write($operands[0]), new Written('similar_to_escape('.implode(', ', $arguments).')', 'text'));
    }

    private function collated(Expression $operand): Written
    {
        $value = $this->known($operand);
        $tail = substr($this->all->sql, $operand->end);
        if (1 !== preg_match('/^[\s)]*COLLATE\s+((?:"[^"]+"|\w+)(?:\s*\.\s*(?:"[^"]+"|\w+))?)/i', $tail, $m)) {
            throw new \UnexpectedValueException();
        }
        $name = (string) preg_replace('/^"?pg_catalog"?\s*\.\s*/i', '', $m[1]);

        return new Written("($value->sql COLLATE $name)", $value->type);
    }

    /** @param list<Expression> $operands */
    private function atZone(array $operands): Written
    {
        $value = $this->known($operands[0]);
        $zone = $this->all->write($operands[1]);
        $chosen = $this->all->typing->overloads->chosen('timezone', [$zone->type, $value->type]);
        if (null === $chosen) {
            throw new \UnexpectedValueException();
        }
        $a = $this->all->coerced($value, $chosen[0][1]);

        return new Written('('.$a->plain().' AT TIME ZONE '.$this->all->coerced($zone, $chosen[0][0])->sql.')', $chosen[1]);
    }

    private function interval(string $sign, Expression $operand): Written
    {
        if (!$operand instanceof Literal) {
            throw new \UnexpectedValueException();
        }
        $unit = strtolower(trim(substr($sign, 8)));
        $text = $operand->text.('' !== $unit && is_numeric($operand->text) ? ' '.$unit : '');

        return $this->all->constants->of('interval', $text);
    }
}
