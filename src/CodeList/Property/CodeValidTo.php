<?php

declare(strict_types=1);

namespace Fasti\CodeList\Property;

use Fasti\Text\Property;

final class CodeValidTo extends Property
{
    public function topic(): string
    {
        return 'code';
    }

    public function name(): string
    {
        return 'validTo';
    }

    public function label(): string
    {
        return 'valid to';
    }

    public function column(): string
    {
        return 'valid_to';
    }

    public function most(): int
    {
        return 10;
    }

    public function blank(): string
    {
        return 'to';
    }

    public function check(string $value, int $id): void
    {
        Day::check($value);
    }
}
