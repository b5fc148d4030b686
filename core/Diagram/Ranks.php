<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * Stands what refers below what it refers to, so that facts come to stand below their dimensions: layers by the longest chain of references
 * (circles are opened where they are met), each ordered by where what it is joined with stands (Sugiyama, Tagawa, Toda 1981).
 */
final class Ranks
{
    private const ACROSS = 70;
    private const DOWN = 80;
    private const WIDEST = 2400;
    private const SWEEPS = 8;

    /**
     * @param list<TabletShape>     $shapes get their places
     * @param list<array{int, int}> $pairs  shape that refers, shape that it refers to
     */
    public static function place(array $shapes, array $pairs): void
    {
        $above = $near = array_fill(0, \count($shapes), []);
        foreach ($pairs as [$from, $to]) {
            if ($from !== $to) {
                $above[$from][$to] = $to;
                $near[$from][] = $to;
                $near[$to][] = $from;
            }
        }
        $rank = [];
        foreach (array_keys($shapes) as $i) {
            self::rank($i, $above, $rank, []);
        }
        // What nothing holds up comes down to just above what refers to it.
        foreach ($rank as $i => $own) {
            $below = array_map(
                static fn (int $other): int => $rank[$other],
                array_filter($near[$i], static fn (int $other): bool => isset($above[$other][$i])),
            );
            if ([] === $above[$i] && [] !== $below) {
                $rank[$i] = max($own, min($below) - 1);
            }
        }
        $rows = [];
        foreach ($rank as $i => $own) {
            $rows[$own][] = $i;
        }
        ksort($rows);
        self::stand($shapes, self::ordered(array_values($rows), $near));
    }

    /**
     * @param array<int, array<int, int>> $above
     * @param array<int, int>             $rank
     * @param array<int, true>            $open
     */
    private static function rank(int $i, array $above, array &$rank, array $open): int
    {
        if (isset($rank[$i])) {
            return $rank[$i];
        }
        $open[$i] = true;
        $most = 0;
        foreach ($above[$i] as $other) {
            $most = isset($open[$other]) ? $most : max($most, 1 + self::rank($other, $above, $rank, $open));
        }

        return $rank[$i] = $most;
    }

    /**
     * @param list<list<int>>       $rows
     * @param array<int, list<int>> $near
     *
     * @return list<list<int>>
     */
    private static function ordered(array $rows, array $near): array
    {
        $at = [];
        foreach ($rows as $row) {
            foreach ($row as $k => $i) {
                $at[$i] = ($k + 0.5) / \count($row);
            }
        }
        for ($sweep = 0; $sweep < self::SWEEPS; ++$sweep) {
            foreach (0 === $sweep % 2 ? $rows : array_reverse($rows, true) as $r => $row) {
                $wish = [];
                foreach ($row as $i) {
                    $wish[$i] = [] === $near[$i] ? $at[$i] : array_sum(array_map(static fn (int $other): float => $at[$other], $near[$i])) / \count($near[$i]);
                }
                usort($row, static fn (int $a, int $b): int => [$wish[$a], $a] <=> [$wish[$b], $b]);
                $rows[$r] = $row;
                foreach ($row as $k => $i) {
                    $at[$i] = ($k + 0.5) / \count($row);
                }
            }
        }

        return $rows;
    }

    /**
     * @param list<TabletShape> $shapes
     * @param list<list<int>>   $rows
     */
    private static function stand(array $shapes, array $rows): void
    {
        $lines = [];
        foreach ($rows as $row) {
            $line = [];
            $width = 0;
            foreach ($row as $i) {
                if ([] !== $line && $width + $shapes[$i]->width > self::WIDEST) {
                    $lines[] = $line;
                    $line = [];
                    $width = 0;
                }
                $line[] = $i;
                $width += $shapes[$i]->width + self::ACROSS;
            }
            $lines[] = $line;
        }
        $y = 0;
        foreach ($lines as $line) {
            $width = array_sum(array_map(static fn (int $i): int => $shapes[$i]->width + self::ACROSS, $line)) - self::ACROSS;
            $x = Apart::snapped(-$width / 2);
            foreach ($line as $i) {
                $shapes[$i]->x = $x;
                $shapes[$i]->y = $y;
                $x += $shapes[$i]->width + self::ACROSS;
            }
            $y += max([0, ...array_map(static fn (int $i): int => $shapes[$i]->height, $line)]) + self::DOWN;
        }
    }
}
