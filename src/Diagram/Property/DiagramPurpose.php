<?php

declare(strict_types=1);

namespace Fasti\Diagram\Property;

use Fasti\Text\Property;

final class DiagramPurpose extends Property
{
    public function topic(): string
    {
        return 'diagram';
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
        return 'What is it for?';
    }
}
