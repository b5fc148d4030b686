<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\WhenSet;

/** By what the rows of an answer stand in order. */
final readonly class Sorting
{
    public function __construct(
        public string $what,
        #[WhenSet]
        public bool $descending = false,
    ) {
    }
}
