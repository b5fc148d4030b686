<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;

/** An entry of a source, as it comes when all are gone through. */
final readonly class EntryPart
{
    public function __construct(
        public int $id,
        public Place $place,
    ) {
    }
}
