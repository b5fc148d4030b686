<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Rows that lead to nothing at a step, found in an answer. */
final readonly class Lost
{
    /** @param list<array<string, ?string>> $shown the first of them */
    public function __construct(
        public string $words,
        public int $rows,
        public string $sql,
        public string $fact,
        public Way $way,
        public array $shown = [],
    ) {
    }
}
