<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * Sets of nodes that belong together, from the joins between them: the greatest modularity, found by moving nodes and then
 * whole communities (V. Blondel et al., "Fast unfolding of communities in large networks", 2008). What everything refers to
 * counts for less, so that a code table does not bind strangers.
 */
final class Areas
{
    private const LEAST = 3;

    /**
     * @param list<int>  $nodes
     * @param list<Link> $links
     *
     * @return list<Area> the largest first, its middle first among its nodes; what stands alone is in none
     */
    public static function of(array $nodes, array $links): array
    {
        $led = $edges = [];
        foreach ($links as $link) {
            if ($link->from !== $link->to) {
                $led[$link->to] = ($led[$link->to] ?? 0) + 1;
            }
        }
        $known = array_fill_keys($nodes, true);
        foreach ($links as $link) {
            if ($link->from !== $link->to && isset($known[$link->from], $known[$link->to])) {
                $weight = $link->certainty / sqrt(max(1, $led[$link->to]));
                $edges[$link->from][$link->to] = ($edges[$link->from][$link->to] ?? 0.0) + $weight;
                $edges[$link->to][$link->from] = ($edges[$link->to][$link->from] ?? 0.0) + $weight;
            }
        }
        $member = array_combine($nodes, $nodes);
        $graph = $edges;
        for ($round = 0; $round < 20; ++$round) {
            $moved = self::move($graph);
            $places = [];
            foreach ($member as $node => $at) {
                $places[$node] = $moved[$at] ?? $at;
            }
            if (\count(array_unique($places)) === \count(array_unique($member))) {
                $member = $places;
                break;
            }
            $member = $places;
            $graph = self::folded($graph, $moved);
        }
        $areas = [];
        foreach ($member as $node => $at) {
            $areas[$at][] = $node;
        }
        $found = [];
        foreach ($areas as $of) {
            if (\count($of) >= self::LEAST) {
                $inside = array_fill_keys($of, true);
                $degree = [];
                foreach ($of as $node) {
                    $degree[$node] = array_sum(array_map(static fn (int $other): int => isset($inside[$other]) ? 1 : 0, array_keys($edges[$node] ?? [])));
                }
                usort($of, static fn (int $a, int $b): int => $degree[$b] <=> $degree[$a] ?: $a <=> $b);
                $found[] = new Area($of[0], $of);
            }
        }
        usort($found, static fn (Area $a, Area $b): int => \count($b->nodes) <=> \count($a->nodes) ?: $a->middle <=> $b->middle);

        return $found;
    }

    /**
     * Moves each node to the neighbouring community that gains most, as long as anything is gained.
     *
     * @param array<int, array<int, float>> $graph
     *
     * @return array<int, int> node → community
     */
    private static function move(array $graph): array
    {
        $degree = array_map(array_sum(...), $graph);
        $twice = array_sum($degree);
        $at = array_combine(array_keys($graph), array_keys($graph));
        $total = $degree;
        for ($round = 0, $changed = true; $changed && $round < 50; ++$round) {
            $changed = false;
            foreach ($graph as $node => $neighbours) {
                $mine = $at[$node];
                $total[$mine] -= $degree[$node];
                $to = [];
                foreach ($neighbours as $other => $weight) {
                    if ($other !== $node) {
                        $to[$at[$other]] = ($to[$at[$other]] ?? 0.0) + $weight;
                    }
                }
                $best = $mine;
                $most = ($to[$mine] ?? 0.0) - $total[$mine] * $degree[$node] / $twice;
                foreach ($to as $community => $weight) {
                    $gain = $weight - $total[$community] * $degree[$node] / $twice;
                    if ($gain > $most + 1e-9) {
                        $most = $gain;
                        $best = $community;
                    }
                }
                $total[$best] += $degree[$node];
                if ($best !== $mine) {
                    $at[$node] = $best;
                    $changed = true;
                }
            }
        }

        return $at;
    }

    /**
     * @param array<int, array<int, float>> $graph
     * @param array<int, int>               $at
     *
     * @return array<int, array<int, float>> of communities
     */
    private static function folded(array $graph, array $at): array
    {
        $folded = [];
        foreach ($graph as $node => $neighbours) {
            foreach ($neighbours as $other => $weight) {
                $folded[$at[$node]][$at[$other]] = ($folded[$at[$node]][$at[$other]] ?? 0.0) + $weight;
            }
        }

        return $folded;
    }
}
