<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

use Fasti\Core\Catalog\Place;

/** Something a check noticed in one place. */
final readonly class Finding
{
    /**
     * @param string $group what several findings of a check have in common besides the check: the name that stands with two types; '' for none
     * @param string $title what it is, of this place alone: "No primary key"
     */
    public function __construct(public string $group, public string $title, public Place $place, public ?string $field = null)
    {
    }
}
