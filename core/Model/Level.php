<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** One step of a hierarchy: an attribute of a role. */
final readonly class Level
{
    public function __construct(public string $role, public string $attribute)
    {
    }
}
