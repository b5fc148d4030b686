<?php

declare(strict_types=1);

namespace Fasti\Design;

/** How much there is in a design; `asked` are questions without an answer. */
final readonly class DesignTally
{
    public function __construct(
        public int $things,
        public int $attributes,
        public int $joins,
        public int $asked,
    ) {
    }
}
