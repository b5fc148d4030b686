<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What a figure that must not be added up over a dimension is there instead, such as a stock over time. */
enum Instead: string
{
    case Nothing = '';
    case Last = 'last';
    case First = 'first';
    case Average = 'average';
    case Least = 'least';
    case Greatest = 'greatest';
}
