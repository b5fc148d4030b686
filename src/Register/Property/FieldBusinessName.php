<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Topic\FieldTopic;

final class FieldBusinessName extends BusinessName
{
    public function topic(): string
    {
        return FieldTopic::NAME;
    }
}
