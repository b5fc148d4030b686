<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** A code list by its name; of its codes, how many have neither label nor meaning. */
final readonly class ListedCodes
{
    public function __construct(
        public int $id,
        public string $name,
        public string $meaning,
        public int $codes,
        public int $unsaid,
    ) {
    }
}
