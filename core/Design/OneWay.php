<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * What may follow a deletion or a change where an engine wants one way only from each row to each table that it reaches: the ways must form
 * trees (SQL Server, “Cascading referential integrity”). What makes a second way, or a loop, is refused instead.
 */
final class OneWay
{
    private const FOLLOWS = ['CASCADE', 'SET NULL', 'SET DEFAULT'];

    /**
     * Ways that delete are kept before those that only empty a field; among equals, the first.
     *
     * @param array<string, WorkedTable> $tables
     *
     * @return array<int, true> ids of the references that would make a second way
     */
    public static function beyond(array $tables): array
    {
        $beyond = [];
        foreach (['onDelete', 'onUpdate'] as $on) {
            foreach (self::among($tables, $on) as $id => $true) {
                $beyond[$id] = $true;
            }
        }

        return $beyond;
    }

    /**
     * @param array<string, WorkedTable> $tables
     *
     * @return array<int, true>
     */
    private static function among(array $tables, string $on): array
    {
        $ways = [];
        foreach (self::FOLLOWS as $rank => $action) {
            foreach ($tables as $key => $table) {
                foreach ($table->references as $reference) {
                    if ($action === ('onDelete' === $on ? $reference->onDelete : $reference->onUpdate)) {
                        $ways[] = [$rank, $reference->to, (string) $key, spl_object_id($reference)];
                    }
                }
            }
        }
        usort($ways, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $down = $up = $beyond = [];
        foreach ($ways as [, $from, $to, $id]) {
            if (self::meet(self::reached($from, $up), self::reached($to, $down), $down)) {
                $beyond[$id] = true;
                continue;
            }
            $down[$from][$to] = $up[$to][$from] = true;
        }

        return $beyond;
    }

    /**
     * Whether what stands above reaches already what would be reached from below, or stands there itself: a loop.
     *
     * @param array<string, true>                $above
     * @param array<string, true>                $below
     * @param array<string, array<string, true>> $down
     */
    private static function meet(array $above, array $below, array $down): bool
    {
        foreach ($above as $from => $true) {
            if ([] !== array_intersect_key(self::reached((string) $from, $down), $below)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param array<string, array<string, true>> $ways
     *
     * @return array<string, true> itself included
     */
    private static function reached(string $from, array $ways): array
    {
        $reached = [$from => true];
        for ($next = [$from]; [] !== $next;) {
            foreach ($ways[array_pop($next)] ?? [] as $to => $true) {
                if (!isset($reached[$to])) {
                    $reached[$to] = true;
                    $next[] = (string) $to;
                }
            }
        }

        return $reached;
    }
}
