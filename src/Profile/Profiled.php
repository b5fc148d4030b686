<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;

/** A profile and when it was taken, in UTC as the database writes it. */
final readonly class Profiled
{
    public function __construct(public TableProfile $profile, public string $at)
    {
    }

    public function field(string $name): ?FieldProfile
    {
        return $this->profile->fields[$name] ?? null;
    }
}
