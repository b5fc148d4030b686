<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Register\RegisterList;

final readonly class KeyList implements RegisterList
{
    public function __construct(private EntryRoles $roles)
    {
    }

    public function name(): string
    {
        return 'Keys and kinds';
    }

    public function route(): string
    {
        return 'keys';
    }

    public function count(): int
    {
        return $this->roles->count();
    }

    public function place(): int
    {
        return 30;
    }
}
