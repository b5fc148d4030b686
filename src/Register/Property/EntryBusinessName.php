<?php

declare(strict_types=1);

namespace Fasti\Register\Property;

use Fasti\Register\Topic\EntryTopic;

final class EntryBusinessName extends BusinessName
{
    public function topic(): string
    {
        return EntryTopic::NAME;
    }
}
