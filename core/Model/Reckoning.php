<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How the total of a measure in a trial is held against the measure taken of its fact alone. */
final readonly class Reckoning
{
    /** @param string $alone SQL that gives one row with a column `total`, of the fact joined to nothing */
    public function __construct(public string $measure, public string $fact, public string $alone)
    {
    }
}
