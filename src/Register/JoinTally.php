<?php

declare(strict_types=1);

namespace Fasti\Register;

/** How many joins there are, by how they stand. */
final readonly class JoinTally
{
    public function __construct(
        public int $proposed,
        public int $declared,
        public int $documented,
        public int $dismissed,
    ) {
    }
}
