<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** A code of a list, and what is said of it. */
final readonly class SaidCode
{
    public function __construct(
        public int $id,
        public string $code,
        public string $label,
        public string $meaning,
        public int $position,
        public string $validFrom,
        public string $validTo,
        public string $replacedBy,
    ) {
    }
}
