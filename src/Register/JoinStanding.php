<?php

declare(strict_types=1);

namespace Fasti\Register;

/** How a join stands: as it was read, as people have stated, as it was proposed. */
final readonly class JoinStanding
{
    public function __construct(
        public string $readAs,
        public string $stated,
        public string $proposed,
        public bool $gone,
    ) {
    }
}
