<?php

declare(strict_types=1);

namespace Fasti\Register;

/** What is said of a field; its type as the source has it. */
final readonly class Saying
{
    public function __construct(
        public int $id,
        public int $entry,
        public int $source,
        public string $name,
        public int $identifier,
        public string $businessName,
        public string $meaning,
        public string $type,
    ) {
    }
}
