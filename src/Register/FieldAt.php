<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\FieldPlace;

/** Where a field stands in the register, what it and its entry are called, and how its meaning begins. */
final readonly class FieldAt
{
    public function __construct(
        public int $id,
        public int $entry,
        public int $source,
        public FieldPlace $place,
        public string $businessName,
        public string $entryBusinessName,
        public string $entryType,
        public bool $entryRetired,
        public bool $gone,
        public string $meaning = '',
    ) {
    }

    public function isOfView(): bool
    {
        return str_contains($this->entryType, 'view');
    }

    public function entryTitle(): string
    {
        return '' === $this->entryBusinessName ? $this->place->table : $this->entryBusinessName;
    }
}
