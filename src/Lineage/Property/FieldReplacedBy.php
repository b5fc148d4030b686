<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

final class FieldReplacedBy extends ReplacedBy
{
    public function topic(): string
    {
        return 'field';
    }
}
