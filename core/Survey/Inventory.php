<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** What an account may read, before anything is read: the objects of each schema by name and kind. */
final readonly class Inventory
{
    /** @param array<string, array<string, 'table'|'view'>> $schemas schema → object → kind */
    public function __construct(public string $server, public array $schemas)
    {
    }

    public function tables(): int
    {
        return $this->count('table');
    }

    public function views(): int
    {
        return $this->count('view');
    }

    private function count(string $kind): int
    {
        return array_sum(array_map(static fn (array $objects): int => \count(array_keys($objects, $kind, true)), $this->schemas));
    }
}
