<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Joins that something already speaks of: views, routines, triggers, queries. */
final class Hints
{
    /** @var array<string, list<Hint>> */
    private array $by = [];

    /** @param list<Hint> $hints */
    public function __construct(array $hints)
    {
        foreach ($hints as $hint) {
            $this->by[$hint->from->key()][] = $hint;
        }
    }

    /**
     * @param list<string> $columns
     *
     * @return list<Hint>
     */
    public function from(string $place, array $columns): array
    {
        return array_values(array_filter($this->by[$place] ?? [], static fn (Hint $hint): bool => $hint->columns === $columns));
    }

    /** @return list<Hint> */
    public function composite(string $place): array
    {
        return array_values(array_filter($this->by[$place] ?? [], static fn (Hint $hint): bool => \count($hint->columns) > 1));
    }
}
