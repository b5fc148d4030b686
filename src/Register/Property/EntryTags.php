<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryTags extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'tags';
    }

    public function label(): string
    {
        return 'tags';
    }

    public function blank(): string
    {
        return 'words to find it by, with commas between';
    }

    public function most(): int
    {
        return 400;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
