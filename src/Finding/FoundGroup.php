<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** Open findings of one check that have something in common; where there is one only, its place. */
final readonly class FoundGroup
{
    public function __construct(
        public string $check,
        public string $group,
        public string $title,
        public string $why,
        public string $mend,
        public string $severity,
        public int $count,
        public string $one,
        public int $entry,
        public ?int $field,
    ) {
    }
}
