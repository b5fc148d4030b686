<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

/** What people call a thing when they talk. */
abstract class BusinessName extends Property
{
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
