<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\Property;

final class CodeValidFrom extends Property
{
    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'validFrom';
    }

    public function label(): string
    {
        return 'valid from';
    }

    public function column(): string
    {
        return 'valid_from';
    }

    public function most(): int
    {
        return 10;
    }

    public function blank(): string
    {
        return 'from';
    }

    public function check(string $value, int $id): void
    {
        Day::check($value);
    }
}
