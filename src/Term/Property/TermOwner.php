<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Text\Property;

final class TermOwner extends Property
{
    public function topic(): string
    {
        return 'term';
    }

    public function name(): string
    {
        return 'owner';
    }

    public function label(): string
    {
        return 'owner of the definition';
    }

    public function column(): string
    {
        return 'owner';
    }

    public function most(): int
    {
        return 120;
    }

    public function blank(): string
    {
        return 'who decides what it means?';
    }
}
