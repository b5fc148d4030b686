<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** What an account may read, before anything is read: the objects of each schema by name and kind. */
final readonly class Inventory
{
    /** @param array<string, array<string, string>> $schemas schema → object → value of Kind */
    public function __construct(public string $server, public array $schemas)
    {
    }

    public function tables(): int
    {
        return $this->count('table');
    }

    public function views(): int
    {
        return $this->count('view') + $this->count('materialized view');
    }

    public function collections(): int
    {
        return $this->count('collection');
    }

    /** @return array<array<string, string>> schema → object → kind, of what the choice takes; a schema of which it takes nothing is left out */
    public function chosen(Choice $choice): array
    {
        $chosen = [];
        foreach ($this->schemas as $schema => $objects) {
            foreach ($objects as $name => $kind) {
                if ($choice->takes((string) $schema, (string) $name)) {
                    $chosen[$schema][$name] = $kind;
                }
            }
        }

        return $chosen;
    }

    private function count(string $kind): int
    {
        return array_sum(array_map(static fn (array $objects): int => \count(array_keys($objects, $kind, true)), $this->schemas));
    }
}
