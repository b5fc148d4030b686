<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;

/** An entry stands in another place of its source now. Whatever else knows it by its place follows. */
final readonly class EntryRenamed
{
    public function __construct(public int $entry, public int $source, public Place $from, public Place $to)
    {
    }
}
