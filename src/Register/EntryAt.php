<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;

/** Where an entry stands in the register, and what it is called. */
final readonly class EntryAt
{
    public function __construct(
        public int $source,
        public Place $place,
        public string $title,
        public bool $view,
    ) {
    }
}
