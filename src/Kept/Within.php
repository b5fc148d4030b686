<?php

declare(strict_types=1);

namespace Fasti\Kept;

/** Something within a kept thing that is called as was asked, and where on its page it stands. */
final readonly class Within
{
    public function __construct(
        public string $words,
        public int $id,
        public string $fragment,
    ) {
    }
}
