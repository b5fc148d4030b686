<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What of a trial is taken of one fact in one query. */
final class Branch
{
    /** @var list<Measure> */
    public array $measures = [];
    /** What is looked at from later, where any of them is. */
    public ?Shift $shift = null;
    /** By what its rows are shared, where what the answer is split by belongs to several. */
    public ?Sharing $sharing = null;

    /**
     * @param string          $special    '' for aggregates alone; `ranked` where rows are put in order first; `points` for what stands at instants
     * @param list<Condition> $conditions
     */
    public function __construct(public readonly string $fact, public readonly string $special, public readonly array $conditions)
    {
    }
}
