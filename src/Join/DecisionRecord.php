<?php

declare(strict_types=1);

namespace Fasti\Join;

/** How many proposals somebody has taken and dismissed. */
final readonly class DecisionRecord
{
    public function __construct(
        public int $taken,
        public int $dismissed,
    ) {
    }

    /** A half and more dismissed, of ten at the least. */
    public function isWary(): bool
    {
        return $this->taken + $this->dismissed >= 10 && $this->dismissed >= $this->taken;
    }
}
