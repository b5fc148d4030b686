<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class ListMeaning extends Property
{
    public function topic(): string
    {
        return 'code-list';
    }

    public function name(): string
    {
        return 'meaning';
    }

    public function label(): string
    {
        return 'what the list is for';
    }

    public function column(): string
    {
        return 'meaning';
    }

    public function most(): int
    {
        return 15000;
    }

    public function blank(): string
    {
        return 'What are these codes for, and who decides them?';
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }
}
