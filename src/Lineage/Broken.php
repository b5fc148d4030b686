<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** A view that depends on fields which are asked about. */
final class Broken
{
    /** @var array<int, array<int, true>> the field that it depends on → its own fields that are computed from it */
    public array $values = [];
    /** @var array<int, true> fields that only decide about its rows or its fields, or are named */
    public array $conditions = [];

    /** @param int $away how many views lie between, and one */
    public function __construct(public readonly int $view, public readonly int $away)
    {
    }

    public function by(int $from, int $field, Part $part): void
    {
        if (Part::Value === $part && $field > 0) {
            $this->values[$from][$field] = true;
        } else {
            $this->conditions[$from] = true;
        }
    }

    /** @return list<int> all fields that it depends on among those asked about */
    public function on(): array
    {
        return array_values(array_unique([...array_keys($this->values), ...array_keys($this->conditions)]));
    }
}
