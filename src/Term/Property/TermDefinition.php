<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class TermDefinition extends Property
{
    public function topic(): string
    {
        return 'term';
    }

    public function name(): string
    {
        return 'definition';
    }

    public function label(): string
    {
        return 'definition';
    }

    public function column(): string
    {
        return 'definition';
    }

    public function most(): int
    {
        return 15000;
    }

    public function blank(): string
    {
        return 'What is meant by it here?';
    }

    public function editor(): Editor
    {
        return Editor::Long;
    }
}
