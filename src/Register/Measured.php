<?php

declare(strict_types=1);

namespace Fasti\Register;

/** What a map needs of an entry. */
final readonly class Measured
{
    public function __construct(
        public string $name,
        public string $title,
        public int $fields,
    ) {
    }
}
