<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryGrain extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'grain';
    }

    public function label(): string
    {
        return 'grain';
    }

    public function column(): string
    {
        return 'grain';
    }

    public function most(): int
    {
        return 2000;
    }
}
