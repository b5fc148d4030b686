<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

final class EntryReplacedBy extends ReplacedBy
{
    public function topic(): string
    {
        return 'entry';
    }
}
