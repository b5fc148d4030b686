<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

/** What a thing means, in Markdown. */
abstract class Meaning extends Property
{
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

    public function editor(): Editor
    {
        return Editor::Long;
    }
}
