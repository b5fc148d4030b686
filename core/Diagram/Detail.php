<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** How much a tablet shows: its name; its key and the fields at which lines end; also those that lead out of the picture; all fields. */
enum Detail: string
{
    case Names = 'names';
    case Keys = 'keys';
    case Leads = 'leads';
    case All = 'all';
}
