<?php

declare(strict_types=1);

namespace Fasti\Register;

/** What a schema holds, and how much of it is described. */
final readonly class SchemaCoverage
{
    public function __construct(
        public string $schema,
        public int $tables,
        public int $views,
        public int $collections,
        public int $fields,
        public int $described,
    ) {
    }
}
