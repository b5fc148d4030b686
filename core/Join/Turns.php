<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * What it costs a route to turn round in a node. A route that only climbs (from each row to the one that it belongs to) or only descends follows what
 * rows are about. One that climbs and descends again pairs all rows that have something in common, the less to the point the more there is that
 * has it: a station, but also a status, or who wrote the row. One that descends and climbs again goes over a table that lists both: plain where it
 * links just these two, less so where it lists many things.
 */
final readonly class Turns
{
    public const LEVEL = 0;
    public const UP = 1;
    public const DOWN = 2;

    private const OF_VALLEY = 0.9;
    private const OF_LIST = 0.1;
    /** For each time that twice as many refer to where a route turns, or that it refers to. */
    private const DOUBLED = 0.25;

    /** @var array<int, int> node → nodes whose rows share its rows */
    private array $into;
    /** @var array<int, int> node → things that it refers to, each by fields of its own */
    private array $outOf;

    /** @param list<Link> $links */
    public function __construct(array $links)
    {
        $into = $outOf = [];
        foreach ($links as $link) {
            if ($link->from !== $link->to && $link->cardinality->from->many()) {
                $into[$link->to][$link->from] = true;
                // A reference to one of several tables, by the kind that stands beside it, is one reference.
                $outOf[$link->from][implode("\0", array_column($link->pairs, 0))] = true;
            }
        }
        $this->into = array_map(\count(...), $into);
        $this->outOf = array_map(\count(...), $outOf);
    }

    /** Whether a step climbs to what many rows share, descends to many rows, or stays among the same. */
    public static function way(Step $step): int
    {
        return match (true) {
            $step->multiplies() => self::DOWN,
            ($step->forth ? $step->link->cardinality->from : $step->link->cardinality->to)->many() => self::UP,
            default => self::LEVEL,
        };
    }

    /** The way that a route has after a step: among the same rows it keeps the one before. */
    public static function after(int $before, int $step): int
    {
        return self::LEVEL === $step ? $before : $step;
    }

    /** @param int $before way of the route that arrives, LEVEL where it begins here */
    public function cost(int $node, int $before, int $step): float
    {
        return match (true) {
            self::UP === $before && self::DOWN === $step => self::OF_VALLEY + self::DOUBLED * log(max(1, ($this->into[$node] ?? 0) - 1), 2),
            self::DOWN === $before && self::UP === $step => self::OF_LIST + self::DOUBLED * log(max(1, ($this->outOf[$node] ?? 0) - 1), 2),
            default => 0.0,
        };
    }
}
