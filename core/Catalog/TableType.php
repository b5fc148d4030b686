<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** What an entry is in its source. */
enum TableType: string
{
    case Table = 'table';
    case View = 'view';
    case MaterializedView = 'materialized view';
    case Collection = 'collection';

    /** Its rows come from a query rather than from people or programs. */
    public function isView(): bool
    {
        return self::View === $this || self::MaterializedView === $this;
    }
}
