<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class CodeMeaning extends Property
{
    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'meaning';
    }

    public function label(): string
    {
        return 'meaning of the code';
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
        return 'What does it mean?';
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }
}
