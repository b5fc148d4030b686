<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** What an entry is for. */
enum EntryKind: string
{
    case Fact = 'fact';
    case Dimension = 'dimension';
    case Link = 'link';
    case Code = 'code table';
    case Log = 'log';
    case Staging = 'staging';
    case Other = 'other';
}
