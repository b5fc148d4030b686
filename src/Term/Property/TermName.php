<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Term\Terms;
use Fasti\Text\Property;

final class TermName extends Property
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
        return 'name';
    }

    public function label(): string
    {
        return 'term';
    }

    public function column(): string
    {
        return 'name';
    }

    public function most(): int
    {
        return 190;
    }

    public function check(string $value, int $id): void
    {
        $this->terms->checkName($value, null, $id);
    }
}
