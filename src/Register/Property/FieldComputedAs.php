<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldComputedAs extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'computedAs';
    }

    public function label(): string
    {
        return 'how it is computed';
    }

    public function blank(): string
    {
        return 'how is it computed?';
    }

    public function most(): int
    {
        return 2000;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
