<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;

/** What people wrote about an entry, or about a field of it; the name is that of the field, or of the entry. */
final readonly class WrittenText
{
    /** @param array<string, string> $texts by property */
    public function __construct(
        public int $entry,
        public ?int $field,
        public Place $place,
        public string $name,
        public array $texts,
    ) {
    }
}
