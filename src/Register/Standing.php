<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Where an entry is in its review. */
enum Standing: string
{
    case Open = 'open';
    case InReview = 'in review';
    case Agreed = 'agreed';
    case Retired = 'retired';
}
