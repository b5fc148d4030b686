<?php

declare(strict_types=1);

namespace Fasti\Term\Property;

use Fasti\Register\Property\StandingProperty;

final class TermStanding extends StandingProperty
{
    public function topic(): string
    {
        return 'term';
    }
}
