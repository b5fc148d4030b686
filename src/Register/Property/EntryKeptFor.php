<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryKeptFor extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'keptFor';
    }

    public function label(): string
    {
        return 'kept for';
    }

    public function blank(): string
    {
        return 'how long are its rows kept?';
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
