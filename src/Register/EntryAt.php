<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Wording\Naming;

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

    /** What people read: its business name, or the words of its name. */
    public function words(): string
    {
        return $this->title === $this->place->name ? Naming::asName($this->title) : $this->title;
    }
}
