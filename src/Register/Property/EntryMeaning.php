<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class EntryMeaning extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'meaning';
    }

    public function label(): string
    {
        return 'meaning';
    }

    public function column(): string
    {
        return 'meaning';
    }

    public function most(): int
    {
        return 15000;
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }
}
