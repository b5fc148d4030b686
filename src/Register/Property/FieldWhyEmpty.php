<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Text\Property;

final class FieldWhyEmpty extends Property
{
    public function topic(): string
    {
        return 'field';
    }

    public function name(): string
    {
        return 'whyEmpty';
    }

    public function label(): string
    {
        return 'why it may be empty';
    }

    public function blank(): string
    {
        return 'when is it empty?';
    }

    public function most(): int
    {
        return 1000;
    }

    public function shownAmongFacts(): bool
    {
        return true;
    }
}
