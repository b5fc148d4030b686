<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class FieldPersonal extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'personal';
    }

    public function label(): string
    {
        return 'personal data';
    }

    public function column(): string
    {
        return 'personal';
    }

    public function most(): int
    {
        return 3;
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        return ['' => 'as it seems', 'yes' => 'yes, never show values', 'no' => 'no, values may be shown'];
    }
}
