<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * Which of two lines that share a channel runs at its left, or on top: as they part at its ends, so that they cross no more often than
 * they must (the ordering step of Wybrow, Marriott, Stuckey 2009).
 *
 * @internal
 */
final class Order
{
    private const SAME = 0.75;

    /**
     * Of two pieces with the same coordinate.
     *
     * @return int −1 where the piece of A is to have the smaller coordinate, 1 where that of B
     */
    public static function of(Trace $a, int $i, Trace $b, int $j): int
    {
        if ($a->kept && $b->kept && $a->at[$i] !== $b->at[$j]) {
            return $a->at[$i] <=> $b->at[$j];
        }
        if ($a->lanes[$i] !== $b->lanes[$j]) {
            return self::byCrossings($a, $i, $b, $j);
        }
        $step = self::heading($a, $i) * self::heading($b, $j);
        if (0 === $step) {
            return self::byCrossings($a, $i, $b, $j);
        }
        $left = self::parting($a, $i, $b, $j, 1, $step) ?? self::parting($a, $i, $b, $j, -1, $step) ?? true;

        return self::side($left, 1 === $i % 2, self::heading($a, $i));
    }

    /** Whether A runs at the left of B, seen in the direction of A, as told by where they part ahead (1) or behind (-1); null where they do not. */
    private static function parting(Trace $a, int $i, Trace $b, int $j, int $way, int $step): ?bool
    {
        $lastA = \count($a->at) - 1;
        $lastB = \count($b->at) - 1;
        while (true) {
            $nextA = $i + $way;
            $nextB = $j + $way * $step;
            if ($nextA < 0 || $nextA > $lastA || $nextB < 0 || $nextB > $lastB) {
                return null;
            }
            if ($a->lanes[$nextA] !== $b->lanes[$nextB]) {
                break;
            }
            $i = $nextA;
            $j = $nextB;
        }
        $along = self::heading($a, $i) * $way;
        $turnA = self::heading($a, $nextA) * $way;
        $turnB = self::heading($b, $nextB) * $way * $step;
        if ($turnA !== $turnB) {
            $smaller = $turnA < $turnB;
        } else {
            $ahead = ($b->at[$nextB] - $a->at[$nextA]) * $along;
            if (abs($ahead) < self::SAME || 0 === $along) {
                return null;
            }
            // Who turns first runs on the side to which both turn.
            $smaller = ($ahead > 0) === ($turnA < 0);
        }

        return (1 === $i % 2) === ($smaller === (self::heading($a, $i) < 0));
    }

    /** The sign of the coordinate for a side: y grows downwards, so that the left of who goes down is the greater x. */
    private static function side(bool $left, bool $upright, int $heading): int
    {
        return $upright === ($left === ($heading > 0)) ? 1 : -1;
    }

    /** 1 where a piece runs towards greater coordinates, −1 towards smaller ones. */
    private static function heading(Trace $trace, int $piece): int
    {
        [$from, $to] = $trace->span($piece);

        return $to <=> $from;
    }

    private static function byCrossings(Trace $a, int $i, Trace $b, int $j): int
    {
        $first = self::crossings($a, $i, $b, $j);
        $second = self::crossings($b, $j, $a, $i);

        return match (true) {
            $first === $second => ($a->at[$i] <=> $b->at[$j]) ?: -1,
            $first < $second => -1,
            default => 1,
        };
    }

    /** How often two pieces meet what leads on from the other when the first has the smaller coordinate. */
    private static function crossings(Trace $a, int $i, Trace $b, int $j): int
    {
        $spanA = $a->span($i);
        $spanB = $b->span($j);
        $lowA = min($spanA);
        $highA = max($spanA);
        $lowB = min($spanB);
        $highB = max($spanB);
        $sum = 0;
        foreach ([0, 1] as $end) {
            // What leads on from A to greater coordinates meets B, what leads on from B to smaller ones meets A.
            $sum += self::leads($a, $i, $end) > 0 && $spanA[$end] > $lowB && $spanA[$end] < $highB ? 1 : 0;
            $sum += self::leads($b, $j, $end) < 0 && $spanB[$end] > $lowA && $spanB[$end] < $highA ? 1 : 0;
        }

        return $sum;
    }

    private static function leads(Trace $trace, int $piece, int $end): int
    {
        $next = $piece + (0 === $end ? -1 : 1);
        if ($next < 0 || $next >= \count($trace->at)) {
            return 0;
        }
        [$from, $to] = $trace->span($next);

        return 0 === $end ? $from <=> $to : $to <=> $from;
    }
}
