<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/**
 * What a value is: its type, whether it may be empty, and where it comes from. Fields are keys of FieldPlace, as the keys of
 * arrays. With a name it is a column of what a query gives.
 */
final class Meaning
{
    /**
     * @param array<string, true> $values     fields that it is computed from
     * @param array<string, true> $conditions fields that decide about it: its windows, filters and queries within
     * @param ?string             $direct     the one field that it is, unchanged
     * @param int                 $instance   of that field's table within the query; 0 where there is none
     * @param ?string             $reference  the field that naming it refers to
     */
    public function __construct(
        public string $name = '',
        public ?string $type = null,
        public ?bool $nullable = null,
        public array $values = [],
        public array $conditions = [],
        public ?string $direct = null,
        public int $instance = 0,
        public ?string $reference = null,
    ) {
    }

    public function named(string $name): self
    {
        if ($name === $this->name) {
            return $this;
        }
        $copy = clone $this;
        $copy->name = $name;

        return $copy;
    }
}
