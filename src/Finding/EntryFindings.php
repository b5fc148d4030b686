<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** The findings of one entry that ask for attention, by what they are about. */
final readonly class EntryFindings
{
    /** @param list<FoundAt> $all */
    public function __construct(public array $all)
    {
    }

    /** @return list<FoundAt> about the entry itself */
    public function ofEntry(): array
    {
        return array_values(array_filter($this->all, static fn (FoundAt $finding): bool => null === $finding->field));
    }

    /** @return list<FoundAt> */
    public function ofField(int $field): array
    {
        return array_values(array_filter($this->all, static fn (FoundAt $finding): bool => $finding->field === $field));
    }
}
