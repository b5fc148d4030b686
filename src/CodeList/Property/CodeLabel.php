<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\Property;

final class CodeLabel extends Property
{
    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'label';
    }

    public function label(): string
    {
        return 'label';
    }

    public function column(): string
    {
        return 'label';
    }

    public function most(): int
    {
        return 400;
    }

    public function blank(): string
    {
        return 'label';
    }
}
