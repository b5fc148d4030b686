<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;

/** What is known of the lineage of an entry. */
final readonly class Traced
{
    /**
     * @param array<int, FieldTrace>     $fields     by field
     * @param array<string, int>         $entries    key of a place → entry, of what its query names
     * @param array<string, array{int, int}> $fieldIds key of a field's place → entry and field, of what its query names
     * @param list<\Fasti\Register\FieldAt>       $conditions fields that decide which rows it has
     * @param array<int, string>         $users      views that are made of it: entry → name
     */
    public function __construct(
        public ?ViewReading $reading,
        public array $fields,
        public array $entries,
        public array $fieldIds,
        public array $conditions,
        public array $users,
        public Retirement $retirement,
    ) {
    }

    public function field(int $id): ?FieldTrace
    {
        return $this->fields[$id] ?? null;
    }

    public function entryAt(string $schema, string $table): ?int
    {
        return $this->entries[(new Place($schema, $table))->key()] ?? null;
    }

    /** @return array{int, int}|null entry and field */
    public function fieldAt(string $schema, string $table, string $column): ?array
    {
        return $this->fieldIds[(new FieldPlace($schema, $table, $column))->key()] ?? null;
    }
}
