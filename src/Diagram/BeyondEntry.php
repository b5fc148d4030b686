<?php

declare(strict_types=1);

namespace Fasti\Diagram;

/** An entry that is not in a picture but joins some of its tablets, by their titles. */
final readonly class BeyondEntry
{
    /** @param list<string> $joins */
    public function __construct(
        public int $id,
        public string $title,
        public array $joins,
    ) {
    }
}
