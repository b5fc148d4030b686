<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** An entry that depends on what changes, with the fields that are computed or filled from it. */
final readonly class Dependant
{
    /** @param list<string> $fields */
    public function __construct(
        public int $id,
        public string $name,
        public array $fields,
    ) {
    }
}
