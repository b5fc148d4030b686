<?php

declare(strict_types=1);

namespace Fasti\Register;

/** How much of some entries is described. */
final readonly class RegisterCoverage
{
    public function __construct(
        public int $entries,
        public int $fields,
        public int $described,
    ) {
    }
}
