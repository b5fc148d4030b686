<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntrySteward extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'steward';
    }

    public function label(): string
    {
        return 'steward';
    }

    public function blank(): string
    {
        return 'who describes it?';
    }

    public function most(): int
    {
        return 190;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
