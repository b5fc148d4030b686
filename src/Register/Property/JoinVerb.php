<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class JoinVerb extends Property
{
    public function topic(): string
    {
        return 'join';
    }

    public function name(): string
    {
        return 'verb';
    }

    public function label(): string
    {
        return 'verb';
    }

    public function column(): string
    {
        return 'verb';
    }

    public function most(): int
    {
        return 190;
    }
}
