<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Term\Terms;
use Fasti\Text\Property;

final class TermRelated extends Property
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
        return 'related';
    }

    public function label(): string
    {
        return 'related terms';
    }

    public function column(): string
    {
        return 'related';
    }

    public function most(): int
    {
        return 2000;
    }

    public function blank(): string
    {
        return 'which terms belong with it?';
    }

    public function check(string $value, int $id): void
    {
        $this->terms->checkNames($value, $id);
    }
}
