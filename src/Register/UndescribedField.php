<?php

declare(strict_types=1);

namespace Fasti\Register;

/** A field that nobody has described, and how many fields are called as it is. */
final readonly class UndescribedField
{
    public function __construct(
        public int $id,
        public int $entry,
        public string $name,
        public int $alike,
    ) {
    }
}
