<?php

declare(strict_types=1);

namespace Fasti\Finding;

/** Findings of one check as build servers are told them. */
final readonly class Told
{
    /** @param list<array{schema: string, table: string, column: ?string}> $where */
    public function __construct(
        public string $check,
        public string $severity,
        public array $where,
        public string $what,
        public string $why,
        public string $mend,
    ) {
    }
}
