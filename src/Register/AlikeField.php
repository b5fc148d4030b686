<?php

declare(strict_types=1);

namespace Fasti\Register;

/** A field of the same name as another, in any naming style. */
final readonly class AlikeField
{
    public function __construct(
        public int $field,
        public int $entry,
        public bool $described,
    ) {
    }
}
