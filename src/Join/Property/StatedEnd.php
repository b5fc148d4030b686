<?php

declare(strict_types=1);

namespace Fasti\Join\Property;

use Fasti\Core\Join\End;
use Fasti\Text\Editor;
use Fasti\Text\Property;

abstract class StatedEnd extends Property
{
    public function topic(): string
    {
        return 'join';
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
        $choices = ['' => 'as the constraints say'];
        foreach (End::cases() as $end) {
            $choices[$end->value] = $end->inWords();
        }

        return $choices;
    }
}
