<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Term\Terms;
use Fasti\Text\Property;

final class TermArea extends Property
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
        return 'area';
    }

    public function label(): string
    {
        return 'area in which the word means this';
    }

    public function column(): string
    {
        return 'area';
    }

    public function most(): int
    {
        return 120;
    }

    public function blank(): string
    {
        return 'everywhere';
    }

    public function check(string $value, int $id): void
    {
        $this->terms->checkName(null, $value, $id);
    }
}
