<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldFormat extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'format';
    }

    public function label(): string
    {
        return 'format';
    }

    public function blank(): string
    {
        return 'how is it written? AAA-000';
    }

    public function most(): int
    {
        return 400;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
