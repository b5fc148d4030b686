<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

/** What became of a table or column between two catalogs. */
enum Fate: string
{
    case New = 'new';
    case Gone = 'gone';
    case Changed = 'changed';
    case Renamed = 'renamed';
    case Back = 'back';
}
