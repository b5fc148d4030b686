<?php

declare(strict_types=1);

namespace Fasti\Register;

/** How much of an entry, or of a schema, is described. */
final readonly class EntryCoverage
{
    public function __construct(
        public int $source,
        public string $schema,
        public int $fields,
        public int $described,
    ) {
    }
}
