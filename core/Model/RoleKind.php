<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What an entry is to a model. */
enum RoleKind: string
{
    case Fact = 'fact';
    case Dimension = 'dimension';
    case Link = 'link';
}
