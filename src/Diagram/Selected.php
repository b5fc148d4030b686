<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** Entries that something is to be begun from, and what it could be called. */
final readonly class Selected
{
    /** @param list<int> $entries */
    public function __construct(
        public array $entries,
        public string $name = '',
        public string $purpose = '',
    ) {
    }
}
