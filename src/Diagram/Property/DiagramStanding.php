<?php

declare(strict_types=1);

namespace Fasti\Diagram\Property;

use Fasti\Register\Property\StandingProperty;

final class DiagramStanding extends StandingProperty
{
    public function topic(): string
    {
        return 'diagram';
    }
}
