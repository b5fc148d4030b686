<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** How much a tablet shows: its name, the fields of keys and joins, or all fields. */
enum Detail: string
{
    case Names = 'names';
    case Keys = 'keys';
    case All = 'all';
}
