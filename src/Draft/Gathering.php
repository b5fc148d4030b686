<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Core\Draft\Material;
use Fasti\Register\EntryView;

/** What drafts are made from, and of what it is. */
final readonly class Gathering
{
    /**
     * @param array<int, EntryView> $entries by their id, which is their number in the material
     * @param list<int>             $own     those of the source that drafts are made for; empty where it is one entry
     */
    public function __construct(public Material $material, public array $entries, public array $own = [])
    {
    }
}
