<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class EntryBusinessName extends Property
{
    public function topic(): string
    {
        return 'entry';
    }

    public function name(): string
    {
        return 'businessName';
    }

    public function label(): string
    {
        return 'business name';
    }

    public function column(): string
    {
        return 'business_name';
    }

    public function most(): int
    {
        return 190;
    }
}
