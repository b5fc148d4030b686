<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** A finding in its place, with what a person decided about it. */
final readonly class FoundAt
{
    public function __construct(
        public int $id,
        public string $check,
        public string $group,
        public int $entry,
        public ?int $field,
        public string $property,
        public string $title,
        public string $since,
        public string $severity,
        public bool $aside,
        public string $because,
        public ?string $until,
        public ?string $by,
    ) {
    }
}
