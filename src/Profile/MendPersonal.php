<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Finding\FoundAt;
use Fasti\Finding\Mending;
use Fasti\Finding\MendingText;

final class MendPersonal implements Mending
{
    public function check(): string
    {
        return 'personal-unclassed';
    }

    public function words(): string
    {
        return 'class it as confidential';
    }

    public function text(FoundAt $place): ?MendingText
    {
        return null === $place->field ? null : new MendingText('field', $place->field, 'sensitivity', '', 'confidential');
    }
}
