<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\RegisterList;

final readonly class AreaList implements RegisterList
{
    public function __construct(private EntryRoles $roles)
    {
    }

    public function name(): string
    {
        return 'Areas';
    }

    public function route(): string
    {
        return 'areas';
    }

    public function count(): int
    {
        return \count($this->roles->areas());
    }

    public function place(): int
    {
        return 40;
    }
}
