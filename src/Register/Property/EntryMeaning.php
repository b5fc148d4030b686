<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Topic\EntryTopic;

final class EntryMeaning extends Meaning
{
    public function topic(): string
    {
        return EntryTopic::NAME;
    }
}
