<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * Stands shapes in columns of about equal height, keeping the neighbourhoods that the placing engine found, then moves
 * single shapes as long as that brings joined ones nearer to each other.
 *
 * @internal
 */
final class Columns
{
    /** What a join costs by how many columns apart its ends stand: next to each other is best. */
    private const APART = [1.25, 1.0, 2.1, 3.3];
    private const GAP = 40;

    /**
     * @param list<TabletShape>                $shapes
     * @param list<array{float, float}>  $places
     * @param list<list<int>>            $near   shape → shapes it is joined with
     *
     * @return list<list<int>> column → shapes from top to bottom
     */
    public static function slice(array $shapes, array $places, array $near, int $count): array
    {
        $order = array_keys($shapes);
        usort($order, static fn (int $a, int $b): int => [$places[$a][0], $a] <=> [$places[$b][0], $b]);
        $total = 0;
        foreach ($shapes as $shape) {
            $total += $shape->height + self::GAP;
        }
        $most = $total / $count;
        $of = [];
        $filled = 0.0;
        foreach ($order as $shape) {
            $of[$shape] = min($count - 1, (int) (($filled + ($shapes[$shape]->height + self::GAP) / 2) / $most));
            $filled += $shapes[$shape]->height + self::GAP;
        }
        $of = self::improve($shapes, $near, $of, $count, $most);
        $columns = array_fill(0, $count, []);
        foreach ($of as $shape => $column) {
            $columns[$column][] = $shape;
        }
        $columns = array_values(array_filter($columns));
        foreach ($columns as $i => $column) {
            usort($columns[$i], static fn (int $a, int $b): int => [$places[$a][1], $a] <=> [$places[$b][1], $b]);
        }

        return self::untangle($shapes, $near, $columns);
    }

    /**
     * @param list<TabletShape>               $shapes
     * @param list<list<int>>           $near
     * @param array<int, int>           $of     shape → column
     *
     * @return array<int, int>
     */
    private static function improve(array $shapes, array $near, array $of, int $count, float $most): array
    {
        $heights = array_fill(0, $count, 0);
        foreach ($of as $shape => $column) {
            $heights[$column] += $shapes[$shape]->height + self::GAP;
        }
        for ($round = 0; $round < 8; ++$round) {
            $moved = false;
            foreach ($of as $shape => $column) {
                $own = $shapes[$shape]->height + self::GAP;
                $best = $column;
                $bestCost = self::cost($near[$shape], $of, $column) + self::crowded($heights[$column], $most);
                for ($c = max(0, $column - 2); $c <= min($count - 1, $column + 2); ++$c) {
                    if ($c === $column) {
                        continue;
                    }
                    $cost = self::cost($near[$shape], $of, $c) + self::crowded($heights[$c] + $own, $most);
                    if ($cost < $bestCost - 0.01) {
                        $best = $c;
                        $bestCost = $cost;
                    }
                }
                if ($best !== $column) {
                    $heights[$column] -= $own;
                    $heights[$best] += $own;
                    $of[$shape] = $best;
                    $moved = true;
                }
            }
            if (!$moved) {
                break;
            }
        }

        return $of;
    }

    /**
     * @param list<int>       $near
     * @param array<int, int> $of
     */
    private static function cost(array $near, array $of, int $column): float
    {
        $sum = 0.0;
        foreach ($near as $other) {
            $apart = abs($of[$other] - $column);
            $sum += self::APART[$apart] ?? 1.2 * $apart;
        }

        return $sum;
    }

    private static function crowded(float $height, float $most): float
    {
        $over = $height / $most - 1.0;

        return $over <= 0 ? 0.0 : $over * 6;
    }

    /**
     * Orders each column by where the joined shapes stand (barycentre method, Sugiyama et al. 1981), then swaps
     * neighbours while that shortens the joins.
     *
     * @param list<TabletShape>     $shapes
     * @param list<list<int>> $near
     * @param list<list<int>> $columns
     *
     * @return list<list<int>>
     */
    private static function untangle(array $shapes, array $near, array $columns): array
    {
        $middle = [];
        foreach ($columns as $column) {
            self::stack($shapes, $column, $middle);
        }
        for ($round = 0; $round < 8; ++$round) {
            foreach ($columns as $i => $column) {
                $want = [];
                foreach ($column as $shape) {
                    $sum = 0.0;
                    foreach ($near[$shape] as $other) {
                        $sum += $middle[$other];
                    }
                    $want[$shape] = [] === $near[$shape] ? $middle[$shape] : $sum / \count($near[$shape]);
                }
                $sorted = $column;
                usort($sorted, static fn (int $a, int $b): int => [$want[$a], $a] <=> [$want[$b], $b]);
                $before = self::length($column, $near, $middle);
                self::stack($shapes, $sorted, $middle);
                if (self::length($sorted, $near, $middle) < $before) {
                    $columns[$i] = $sorted;
                } else {
                    self::stack($shapes, $column, $middle);
                }
                $columns[$i] = self::swap($shapes, $columns[$i], $near, $middle);
            }
        }

        return $columns;
    }

    /**
     * @param list<TabletShape>       $shapes
     * @param list<int>         $column
     * @param list<list<int>>   $near
     * @param array<int, float|int> $middle
     *
     * @return list<int>
     */
    private static function swap(array $shapes, array $column, array $near, array &$middle): array
    {
        for ($i = 0, $last = \count($column) - 1; $i < $last; ++$i) {
            $a = $column[$i];
            $b = $column[$i + 1];
            $before = self::length([$a, $b], $near, $middle);
            $wasA = $middle[$a];
            $wasB = $middle[$b];
            $top = $wasA - $shapes[$a]->height / 2;
            $middle[$b] = $top + $shapes[$b]->height / 2;
            $middle[$a] = $top + $shapes[$b]->height + self::GAP + $shapes[$a]->height / 2;
            if (self::length([$a, $b], $near, $middle) < $before - 1) {
                $column[$i] = $b;
                $column[$i + 1] = $a;
            } else {
                $middle[$a] = $wasA;
                $middle[$b] = $wasB;
            }
        }

        return array_values($column);
    }

    /**
     * @param list<int>         $some
     * @param list<list<int>>   $near
     * @param array<int, float|int> $middle
     */
    private static function length(array $some, array $near, array $middle): float
    {
        $sum = 0.0;
        foreach ($some as $shape) {
            foreach ($near[$shape] as $other) {
                $sum += abs($middle[$shape] - $middle[$other]);
            }
        }

        return $sum;
    }

    /**
     * @param list<TabletShape>       $shapes
     * @param list<int>         $column
     * @param array<int, float|int> $middle
     */
    private static function stack(array $shapes, array $column, array &$middle): void
    {
        $total = -self::GAP;
        foreach ($column as $shape) {
            $total += $shapes[$shape]->height + self::GAP;
        }
        $at = -$total / 2;
        foreach ($column as $shape) {
            $middle[$shape] = $at + $shapes[$shape]->height / 2;
            $at += $shapes[$shape]->height + self::GAP;
        }
    }
}
