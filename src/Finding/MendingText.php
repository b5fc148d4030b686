<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** A text that mends a finding, and what it takes the place of. */
final readonly class MendingText
{
    public function __construct(
        public string $topic,
        public int $id,
        public string $property,
        public string $base,
        public string $value,
    ) {
    }
}
