<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/** What stands after FROM, put together: the relations by their names, and what `*` and plain names mean. */
final class Frame
{
    /**
     * @param list<Relation>                                                                       $relations
     * @param list<array{0: ?Relation, 1: ?Meaning, 2: array<string, true>}> $parts a relation without the columns that are
     *                                                                              hidden in it, or a column that two have in common
     */
    public function __construct(public array $relations = [], public array $parts = [])
    {
    }

    public static function of(Relation $relation): self
    {
        return new self([$relation], [[$relation, null, []]]);
    }

    public function beside(self $other): self
    {
        return new self([...$this->relations, ...$other->relations], [...$this->parts, ...$other->parts]);
    }

    /** @return list<Meaning> what `*` means */
    public function all(bool $anyCase): array
    {
        $all = [];
        foreach ($this->parts as [$relation, $merged, $hidden]) {
            if (null !== $merged) {
                $all[] = $merged;
                continue;
            }
            foreach ($relation?->all() ?? [] as $column) {
                if ([] === $hidden || !isset($hidden[$anyCase ? mb_strtolower($column->name) : $column->name])) {
                    $all[] = $column;
                }
            }
        }

        return $all;
    }

    /** @param string $name folded */
    public function column(string $name, bool $anyCase): ?Meaning
    {
        foreach ($this->parts as [$relation, $merged, $hidden]) {
            if (null !== $merged) {
                if ($name === ($anyCase ? mb_strtolower($merged->name) : $merged->name)) {
                    return $merged;
                }
            } elseif (!isset($hidden[$name]) && null !== ($column = $relation?->column($name))) {
                return $column;
            }
        }

        return null;
    }

    /** Whether a name that nothing has may yet be a column of something whose columns are not known. */
    public function isOpen(): bool
    {
        foreach ($this->relations as $relation) {
            if ($relation->open) {
                return true;
            }
        }

        return false;
    }

    public function outer(): void
    {
        foreach ($this->relations as $relation) {
            $relation->outer = true;
        }
        foreach ($this->parts as $i => [, $merged]) {
            if (null !== $merged && true !== $merged->nullable) {
                $this->parts[$i][1] = clone $merged;
                $this->parts[$i][1]->nullable = true;
            }
        }
    }
}
