<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldSensitivity extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'sensitivity';
    }

    public function label(): string
    {
        return 'sensitivity';
    }

    public function blank(): string
    {
        return '';
    }

    public function most(): int
    {
        return 12;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }

    public function editor(): \Fasti\Text\Editor
    {
        return \Fasti\Text\Editor::Choice;
    }

    public function choices(): array
    {
        return [
            '' => 'not said', 'open' => 'open: anybody may see it', 'internal' => 'internal: for those who work here',
            'confidential' => 'confidential: for those who need it', 'secret' => 'secret: for nobody without a reason that is kept',
        ];
    }
}
