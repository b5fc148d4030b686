<?php

declare(strict_types=1);

namespace Fasti\Finding;

/**
 * The findings of one entry that ask for attention, by what they are about.
 *
 * @phpstan-import-type Place from Findings
 */
final readonly class EntryFindings
{
    /** @param list<Place> $all */
    public function __construct(public array $all)
    {
    }

    /** @return list<Place> about the entry itself */
    public function ofEntry(): array
    {
        return array_values(array_filter($this->all, static fn (array $finding): bool => null === $finding['field']));
    }

    /** @return list<Place> */
    public function ofField(int $field): array
    {
        return array_values(array_filter($this->all, static fn (array $finding): bool => $finding['field'] === $field));
    }
}
