<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How many rows of a fact lead to nothing, at each step of a trial's routes. */
final readonly class Losses
{
    /**
     * @param string       $sql   gives one row: `lost_0`, `held_0`, `lost_1` …
     * @param list<Losing> $steps
     */
    public function __construct(public string $sql, public array $steps)
    {
    }
}
