<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

use Fasti\Text\Property;

/** What takes the place of something that is retired. */
abstract class ReplacedBy extends Property
{
    public function name(): string
    {
        return 'replacedBy';
    }

    public function label(): string
    {
        return 'replaced by';
    }

    public function most(): int
    {
        return 400;
    }

    public function blank(): string
    {
        return 'what replaces it?';
    }
}
