<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Catalog\Place;
use Fasti\Register\Dossier;
use Fasti\Register\EntryView;

/** An entry as it goes by, with what stands near it. */
final readonly class EntryPage
{
    /** @param array<int, EntryView> $near entries that it joins, itself included, by id */
    public function __construct(public Dossier $dossier, public array $near, public EditionLinks $links, public ?Place $before, public ?Place $after)
    {
    }

    /** Where its page stands, below the root. */
    public function path(): string
    {
        return EditionLinks::address($this->dossier->entry);
    }
}
