<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What belongs together by its joins; the middle is what most of it joins, and comes first. */
final readonly class Area
{
    /** @param list<int> $nodes */
    public function __construct(
        public int $middle,
        public array $nodes,
    ) {
    }
}
