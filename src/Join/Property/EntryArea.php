<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

use Fasti\Text\Property;

final class EntryArea extends Property
{
    public const NAME = 'area';

    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return 'subject area';
    }

    public function most(): int
    {
        return 120;
    }

    public function blank(): string
    {
        return 'in no area yet';
    }
}
