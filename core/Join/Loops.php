<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/**
 * The loops among joins: wherever a row finds another in two ways, always from the end that holds the reference. Loops of one
 * are tables that refer to themselves.
 */
final class Loops
{
    private const LONGEST = 4;
    /** Ways from one node that are looked at. */
    private const WAYS = 400;
    private const MOST = 500;

    /**
     * @param list<Link> $links
     *
     * @return list<Loop> the shortest first
     */
    public static function of(array $links): array
    {
        $out = $loops = [];
        foreach ($links as $link) {
            if ($link->from === $link->to) {
                $loops[] = new Loop($link->from, $link->to, [], [new Step($link, true)]);
            } else {
                $out[$link->from][] = new Step($link, true);
            }
        }
        foreach (array_keys($out) as $from) {
            $ways = self::ways($from, $out);
            foreach ($ways as $to => $of) {
                for ($i = 0, $n = \count($of); $i < $n; ++$i) {
                    for ($k = $i + 1; $k < $n; ++$k) {
                        if (self::apart($of[$i], $of[$k])) {
                            $loops[] = new Loop($from, $to, $of[$i], $of[$k]);
                        }
                    }
                }
            }
        }
        usort($loops, static fn (Loop $a, Loop $b): int => $a->length() <=> $b->length() ?: [$a->from, $a->to] <=> [$b->from, $b->to]);

        return \array_slice($loops, 0, self::MOST);
    }

    /**
     * @param array<int, list<Step>> $out
     *
     * @return array<int, list<non-empty-list<Step>>> by the node they lead to, the shortest first
     */
    private static function ways(int $from, array $out): array
    {
        $ways = [];
        $wave = [[]];
        $many = 0;
        for ($length = 1; $length <= self::LONGEST && [] !== $wave; ++$length) {
            $next = [];
            foreach ($wave as $way) {
                $end = [] === $way ? $from : $way[\count($way) - 1]->to();
                $passed = [$from => true];
                foreach ($way as $step) {
                    $passed[$step->to()] = true;
                }
                foreach ($out[$end] ?? [] as $step) {
                    if (!isset($passed[$step->to()]) && $many < self::WAYS) {
                        $next[] = $longer = [...$way, $step];
                        $ways[$step->to()][] = $longer;
                        ++$many;
                    }
                }
            }
            $wave = $next;
        }

        return $ways;
    }

    /**
     * @param list<Step> $one
     * @param list<Step> $other
     */
    private static function apart(array $one, array $other): bool
    {
        $between = [];
        foreach (\array_slice($one, 0, -1) as $step) {
            $between[$step->to()] = true;
        }
        foreach (\array_slice($other, 0, -1) as $step) {
            if (isset($between[$step->to()])) {
                return false;
            }
        }

        // Two cases of one field never hold for the same row.
        $here = $one[0]->link->where ?? null;
        $there = $other[0]->link->where ?? null;
        if (null !== $here && null !== $there && $here[0] === $there[0] && $here[1] !== $there[1]) {
            return false;
        }

        return $one[0] !== $other[0] && $one[\count($one) - 1]->link !== $other[\count($other) - 1]->link;
    }
}
