<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Term\Terms;
use Fasti\Text\Property;

final class TermBroader extends Property
{
    public function __construct(private readonly Terms $terms)
    {
    }

    public function topic(): string
    {
        return 'term';
    }

    public function name(): string
    {
        return 'broader';
    }

    public function label(): string
    {
        return 'broader terms';
    }

    public function column(): string
    {
        return 'broader';
    }

    public function most(): int
    {
        return 2000;
    }

    public function blank(): string
    {
        return 'of what is it a kind or a part?';
    }

    public function check(string $value, int $id): void
    {
        $this->terms->checkNames($value, $id);
    }
}
