<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class JoinVerbBack extends Property
{
    public function topic(): string
    {
        return 'join';
    }

    public function name(): string
    {
        return 'verbBack';
    }

    public function label(): string
    {
        return 'verb back';
    }

    public function column(): string
    {
        return 'verb_back';
    }

    public function most(): int
    {
        return 190;
    }
}
