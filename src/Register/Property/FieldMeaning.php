<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Topic\FieldTopic;

final class FieldMeaning extends Meaning
{
    public function topic(): string
    {
        return FieldTopic::NAME;
    }
}
