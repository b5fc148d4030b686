<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Profile\TableProfile;

/** An entry for which drafts are made. */
final readonly class Entry
{
    public function __construct(
        public Material $material,
        public int $entry,
        public Table $table,
        public Said $said,
        public ?TableProfile $profile,
    ) {
    }

    /** @return list<Lead> */
    public function leads(): array
    {
        return $this->material->leads[$this->entry] ?? [];
    }

    public function noun(): string
    {
        return $this->material->noun($this->entry);
    }
}
