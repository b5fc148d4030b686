<?php

declare(strict_types=1);

namespace Fasti\Register;

final readonly class EntryList implements RegisterList
{
    public function __construct(private EntryStore $entries)
    {
    }

    public function name(): string
    {
        return 'Entries';
    }

    public function route(): string
    {
        return 'register';
    }

    public function count(): int
    {
        return $this->entries->coverage()->entries;
    }

    public function place(): int
    {
        return 10;
    }
}
