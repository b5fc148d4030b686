<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Where an entry is in its review. */
enum Standing: string
{
    case Draft = 'draft';
    case InReview = 'in review';
    case Agreed = 'agreed';
    case Retired = 'retired';
}
