<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

final class EntryRetiresOn extends RetiresOn
{
    public function topic(): string
    {
        return 'entry';
    }
}
