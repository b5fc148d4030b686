<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\BadText;
use Fasti\Text\Property;

final class CodePosition extends Property
{
    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'position';
    }

    public function label(): string
    {
        return 'place in the order';
    }

    public function column(): string
    {
        return 'position';
    }

    public function most(): int
    {
        return 6;
    }

    public function blank(): string
    {
        return '1';
    }

    public function check(string $value, int $id): void
    {
        if (1 !== preg_match('/^\d{1,6}$/D', $value)) {
            throw new BadText('The place in the order is a number: 1 comes first.');
        }
    }
}
