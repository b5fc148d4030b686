<?php

declare(strict_types=1);

namespace Fasti\Lineage;

/** What a field has to do with one that depends on it. */
enum Part: string
{
    /** It is computed from it. */
    case Value = 'value';
    /** It decides about it: by a filter, a join, a group, an order. */
    case Condition = 'condition';
    /** It is named, and nothing that is shown depends on it. */
    case Named = 'named';
}
