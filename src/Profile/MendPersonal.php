<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Finding\Mending;

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

    public function text(array $place): ?array
    {
        return null === $place['field'] ? null : ['topic' => 'field', 'id' => $place['field'], 'property' => 'sensitivity', 'base' => '',
            'value' => 'confidential'];
    }
}
