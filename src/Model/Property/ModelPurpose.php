<?php

declare(strict_types=1);

namespace Fasti\Model\Property;

use Fasti\Text\Property;

final class ModelPurpose extends Property
{
    public function topic(): string
    {
        return 'model';
    }

    public function name(): string
    {
        return 'purpose';
    }

    public function label(): string
    {
        return 'purpose';
    }

    public function column(): string
    {
        return 'purpose';
    }

    public function most(): int
    {
        return 400;
    }

    public function blank(): string
    {
        return 'Which questions is it for?';
    }
}
