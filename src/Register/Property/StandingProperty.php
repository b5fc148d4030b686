<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Standing;
use Fasti\Text\Editor;
use Fasti\Text\Property;

/** Where something is in its review. */
abstract class StandingProperty extends Property
{
    public function name(): string
    {
        return 'standing';
    }

    public function label(): string
    {
        return 'standing';
    }

    public function column(): string
    {
        return 'standing';
    }

    public function most(): int
    {
        return 12;
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        return Standing::words();
    }
}
