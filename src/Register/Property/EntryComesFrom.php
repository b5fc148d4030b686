<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryComesFrom extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'comesFrom';
    }

    public function label(): string
    {
        return 'comes from';
    }

    public function blank(): string
    {
        return 'where does its data come from?';
    }

    public function most(): int
    {
        return 2000;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
