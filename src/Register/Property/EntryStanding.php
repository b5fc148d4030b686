<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

final class EntryStanding extends StandingProperty
{
    public function topic(): string
    {
        return 'entry';
    }
}
