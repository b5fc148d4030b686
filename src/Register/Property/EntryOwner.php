<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryOwner extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'owner';
    }

    public function label(): string
    {
        return 'owner';
    }

    public function blank(): string
    {
        return 'who answers for it?';
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
