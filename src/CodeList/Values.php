<?php

declare(strict_types=1);

namespace Fasti\CodeList;

/** The values of one field, as they were counted. */
final readonly class Values
{
    /**
     * @param array<array-key, int> $counts   value → rows, the most frequent first; 0 where the rows were not counted
     * @param bool                  $complete whether these are all values there are
     */
    public function __construct(public array $counts, public bool $complete, public string $at, public bool $personal = false)
    {
    }
}
