<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Derived;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Joined;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Produced;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\Source;

/** How two flows of rows are put beside each other, and how many rows that makes. */
final class JoinSteps
{
    public function __construct(private readonly Steps $all)
    {
    }

    public function joined(Joined $join): Flow
    {
        $chain = [];
        $left = $join;
        while ($left instanceof Joined) {
            $chain[] = $left;
            $left = $left->left;
        }
        $flow = $this->all->source($left, null);
        foreach (array_reverse($chain) as $step) {
            $right = $this->all->source($step->right, $flow);
            $flow = $this->put($flow, $right, $step);
        }

        return $flow;
    }

    private function put(Flow $left, Flow $right, Joined $join): Flow
    {
        $detail = match (true) {
            null !== $join->on => $this->all->text($join->on),
            [] !== $join->using => 'using '.implode(', ', $join->using),
            $join->natural => 'by the fields that have the same name',
            default => '',
        };
        $words = match ($join->kind) {
            'LEFT' => \sprintf('Join %s where there is any; rows without stay', $right->label),
            'RIGHT' => \sprintf('Join %s, all of it; rows without any drop out', $right->label),
            'FULL' => \sprintf('Join %s; rows of either side without the other stay', $right->label),
            'CROSS' => \sprintf('Put each row beside every row of %s', $right->label),
            'APPLY' => \sprintf('Put each row beside what %s gives for it', $right->label),
            'OUTER APPLY' => \sprintf('Put each row beside what %s gives for it; rows without stay', $right->label),
            default => \sprintf('Join %s; rows without drop out', $right->label),
        };
        $equal = null !== $join->on ? $this->equalities(self::conjuncts($join->on), $left, $right) : [];
        foreach ($join->using as $name) {
            $equal[] = [$this->inEither($left, $name), $this->inEither($right, $name)];
        }

        $fixed = null === $join->on ? [] : $this->fixed(self::conjuncts($join->on), $right);

        return $this->besides(
            $left,
            $right,
            $words,
            $detail,
            [...$equal, ...$fixed],
            \in_array($join->kind, ['CROSS', 'APPLY', 'OUTER APPLY'], true) && [] === $equal,
        );
    }

    /**
     * What stands beside others by a comma: what is compared in WHERE joins them.
     *
     * @param list<Expression> $conditions those that are used up are taken out
     */
    public function beside(Flow $left, Flow $right, array &$conditions, Source $source): Flow
    {
        if ($source instanceof Produced || ($source instanceof Derived && $source->lateral)) {
            return $this->besides($left, $right, \sprintf('Put each row beside what %s gives for it', $right->label), '', [], true);
        }
        $used = $equal = $others = [];
        foreach ($conditions as $condition) {
            $found = $this->equalities([$condition], $left, $right);
            if ([] !== $found) {
                $used[] = $this->all->text($condition);
                array_push($equal, ...$found);
            } else {
                $others[] = $condition;
            }
        }
        $conditions = $others;
        $words = [] === $equal ? \sprintf('Put each row beside every row of %s', $right->label) : \sprintf('Join %s; rows without drop out', $right->label);

        return $this->besides($left, $right, $words, implode(' AND ', $used), $equal, [] === $equal);
    }

    /** @param list<array{string, string}> $equal fields of the left and of the right, as `alias.field` */
    private function besides(Flow $left, Flow $right, string $words, string $detail, array $equal, bool $crossed): Flow
    {
        $ofLeft = array_fill_keys(array_column($equal, 0), true);
        $ofRight = array_fill_keys(array_column($equal, 1), true);
        $oneRight = self::covers($right->keys, $ofRight);
        $oneLeft = self::covers($left->keys, $ofLeft);
        $rows = $crossed ? '' : \sprintf(
            '%s %s to each row, %s to each %s',
            match (true) {
                !$oneRight => 'any number of',
                $this->isSure($left, $right, $equal) => 'exactly one',
                default => 'at most one',
            },
            $right->label,
            $oneLeft ? 'at most one row' : 'any number of rows',
            $right->label,
        );
        $step = $this->all->step('join', $words, $detail, [$left->step, $right->step], $rows, null, !$oneRight);
        $keys = [];
        if ($oneRight) {
            $keys = $left->keys;
        }
        if ($oneLeft) {
            array_push($keys, ...$right->keys);
        }
        if ([] === $keys) {
            foreach (\array_slice($left->keys, 0, 3) as $a) {
                foreach (\array_slice($right->keys, 0, 3) as $b) {
                    $keys[] = $a + $b;
                }
            }
        }

        return new Flow($step, 'rows', $left->places + $right->places, $keys);
    }

    /**
     * Whether a reference that may not be empty leads there.
     *
     * @param list<array{string, string}> $equal
     */
    private function isSure(Flow $left, Flow $right, array $equal): bool
    {
        $target = array_values($right->places)[0] ?? '';
        foreach ($left->places as $alias => $place) {
            foreach ($this->all->tables[$place]->foreignKeys ?? [] as $key) {
                $pairs = [];
                foreach ($key->columns as $i => $column) {
                    $pairs[] = [
                        $alias.'.'.$this->all->fold($column),
                        array_key_first($right->places).'.'.$this->all->fold($key->references->columns[$i] ?? ''),
                    ];
                }
                $required = [] === array_filter($key->columns, fn (string $column): bool => $this->all->tables[$place]->column($column)->nullable ?? true);
                if ($required && $target === (new Place($key->references->schema, $key->references->table))->key()
                    && [] === array_udiff($pairs, $equal, static fn (array $a, array $b): int => $a <=> $b)) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * @param list<array<string, true>> $keys
     * @param array<string, true>       $fields
     */
    private static function covers(array $keys, array $fields): bool
    {
        foreach ($keys as $key) {
            if ([] === array_diff_key($key, $fields)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param list<Expression> $conditions
     *
     * @return list<array{string, string}> fields of the left and of the right that must be equal
     */
    private function equalities(array $conditions, Flow $left, Flow $right): array
    {
        $found = [];
        foreach ($conditions as $condition) {
            if (!$condition instanceof Operation || '=' !== $condition->sign || 2 !== \count($condition->operands)) {
                continue;
            }
            [$a, $b] = $condition->operands;
            $pair = [$this->fieldOf($a, $left), $this->fieldOf($b, $right)];
            if (null === $pair[0] || null === $pair[1]) {
                $pair = [$this->fieldOf($b, $left), $this->fieldOf($a, $right)];
            }
            if (null !== $pair[0] && null !== $pair[1]) {
                $found[] = [$pair[0], $pair[1]];
            }
        }

        return $found;
    }

    /**
     * Fields of the right that must equal a value which does not depend on it.
     *
     * @param list<Expression> $conditions
     *
     * @return list<array{string, string}>
     */
    private function fixed(array $conditions, Flow $right): array
    {
        $found = [];
        foreach ($conditions as $condition) {
            if ($condition instanceof Operation && '=' === $condition->sign && 2 === \count($condition->operands)) {
                foreach ([0, 1] as $side) {
                    $field = $this->fieldOf($condition->operands[$side], $right);
                    $other = $condition->operands[1 - $side];
                    if (null !== $field && ($other instanceof Literal || ($other instanceof Call && [] === $other->arguments))) {
                        $found[] = ['', $field];
                    }
                }
            }
        }

        return $found;
    }

    /** @return ?string `alias.field` where an expression is a field of these rows */
    public function fieldOf(Expression $expression, Flow $flow): ?string
    {
        if (!$expression instanceof Ref) {
            return null;
        }
        $name = $this->all->fold($expression->names[\count($expression->names) - 1]);
        if (\count($expression->names) > 1) {
            $alias = $this->all->fold($expression->names[\count($expression->names) - 2]);

            return isset($flow->places[$alias]) ? "$alias.$name" : null;
        }
        $place = ($this->all->reading->fieldAt[$expression->at] ?? null)?->place()->key();
        $aliases = array_keys(array_filter($flow->places, static fn (string $of): bool => $of === $place));
        if (1 === \count($aliases)) {
            return $aliases[0].'.'.$name;
        }

        return null === $place && 1 === \count($flow->places) ? array_key_first($flow->places).'.'.$name : null;
    }

    private function inEither(Flow $flow, string $name): string
    {
        $name = $this->all->fold($name);
        foreach ($flow->places as $alias => $place) {
            foreach ($this->all->tables[$place]->columns ?? [] as $column) {
                if ($this->all->fold($column->name) === $name) {
                    return "$alias.$name";
                }
            }
        }

        return array_key_last($flow->places).'.'.$name;
    }

    /** @return list<Expression> */
    public static function conjuncts(Expression $condition): array
    {
        if (!$condition instanceof Operation || 'AND' !== $condition->sign) {
            return [$condition];
        }
        $all = [];
        foreach ($condition->operands as $operand) {
            array_push($all, ...self::conjuncts($operand));
        }

        return $all;
    }
}
