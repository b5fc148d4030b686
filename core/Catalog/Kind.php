<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** What an entry is in its source. */
enum Kind: string
{
    case Table = 'table';
    case View = 'view';
}
