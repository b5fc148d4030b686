<?php

declare(strict_types=1);

namespace Fasti\Model;

/** Entries that a model is to be begun from, those of them that are facts, and what it could be called. */
final readonly class BegunFrom
{
    /**
     * @param list<int> $entries
     * @param list<int> $facts
     */
    public function __construct(
        public array $entries,
        public array $facts,
        public string $name,
    ) {
    }
}
