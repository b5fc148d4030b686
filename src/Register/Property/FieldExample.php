<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldExample extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'example';
    }

    public function label(): string
    {
        return 'example';
    }

    public function blank(): string
    {
        return 'an example';
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
