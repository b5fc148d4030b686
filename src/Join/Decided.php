<?php

declare(strict_types=1);

namespace Fasti\Join;

/** What came of deciding about a join: how it stands now and, where somebody was quicker, who. */
final readonly class Decided
{
    /** @param list<int> $changes by their numbers */
    public function __construct(
        public bool $saved,
        public ?string $by,
        public string $now,
        public array $changes,
    ) {
    }
}
