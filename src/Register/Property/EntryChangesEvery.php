<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryChangesEvery extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'changesEvery';
    }

    public function label(): string
    {
        return 'changes';
    }

    public function blank(): string
    {
        return 'how often does it change?';
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
