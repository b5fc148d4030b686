<?php

declare(strict_types=1);

namespace Fasti\Register;

/** An entry by its business name. */
final readonly class NamedEntry
{
    public function __construct(
        public int $id,
        public string $name,
    ) {
    }
}
