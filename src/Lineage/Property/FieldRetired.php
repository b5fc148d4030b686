<?php

declare(strict_types=1);

namespace Fasti\Lineage\Property;

use Fasti\Text\Editor;
use Fasti\Text\Property;

final class FieldRetired extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'retired';
    }

    public function label(): string
    {
        return 'standing of the field';
    }

    public function most(): int
    {
        return 7;
    }

    public function editor(): Editor
    {
        return Editor::Choice;
    }

    public function choices(): array
    {
        return ['' => 'in use', 'retired' => 'retired: not to be used any more'];
    }
}
