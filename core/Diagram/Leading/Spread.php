<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * Moves the pieces of lines apart that run in one channel: each within the room that it has, in their order, by at least the same gap.
 * The gap gives way where there is no room for it, there only. The least coordinates that are possible and the greatest come from one
 * pass forwards and one backwards over the order (longest paths over difference constraints); any place between the results of two
 * greedy passes keeps all constraints, and their middle is taken.
 *
 * @internal
 */
final class Spread
{
    private const GAPS = [10.0, 8.0, 6.0, 5.0, 4.0, 3.0, 2.4, 1.8, 1.3, 0.9, 0.5, 0.0];
    /** Coordinates that count as the same. */
    private const SAME = 0.75;
    /** Pieces count as side by side when one begins so soon after the other ends. */
    private const BESIDE = 7.0;
    private const CLEAR = 6.0;
    /** A line runs on so far before it turns, so that the sign at its end stands clear; less where there is no room. */
    private const STUB = 22.0;
    /** The gap that a line gives its stub for. */
    private const FAIR = 2;
    private const ROUNDS = 80;
    /** A piece moves no farther than this at a time. */
    private const ROOM = 120.0;
    private const BUCKET = 64;
    private const CREEP = 0.6;
    /** When nothing moves farther than this, the room is shared. */
    private const STILL = 0.02;

    /** @var array<int, array<int, list<array{float, float, float, float}>>> axis → bucket → rectangles: from, to across, and along */
    private array $near = [[], []];

    /** @var list<array{int, int}> trace and piece */
    private array $pieces = [];
    /** @var array<int, float> */
    private array $at = [];
    /** @var array<int, float> */
    private array $low = [];
    /** @var array<int, float> */
    private array $high = [];
    /** @var array<int, float> how far the room of a piece goes where its stub is cut short */
    private array $lowest = [];
    /** @var array<int, float> */
    private array $highest = [];
    /** @var array<int, float> */
    private array $begin = [];
    /** @var array<int, float> */
    private array $end = [];

    /**
     * @param list<Rect>  $rects
     * @param list<Trace> $traces
     * @param list<Rect>  $frames on whose borders no line is to lie, though lines cross them
     */
    public function __construct(array $rects, private readonly array $traces, private readonly array $frames = [])
    {
        foreach ($rects as $rect) {
            $box = [[$rect->x, $rect->y], [$rect->x + $rect->width, $rect->y + $rect->height]];
            foreach ([0, 1] as $axis) {
                $last = (int) floor(($box[1][$axis] + self::ROOM) / self::BUCKET);
                for ($bucket = (int) floor(($box[0][$axis] - self::ROOM) / self::BUCKET); $bucket <= $last; ++$bucket) {
                    $this->near[$axis][$bucket][] = [$box[0][$axis], $box[1][$axis], $box[0][1 - $axis], $box[1][1 - $axis]];
                }
            }
        }
    }

    /** @return int how many pairs are nearer to one another than lines should be */
    public function settle(): int
    {
        $tight = $this->apart(1) + $this->apart(0);
        $kept = \count(array_filter($this->traces, static fn (Trace $trace): bool => $trace->kept));
        for ($round = 0; $round < 2 && 2 * $kept < \count($this->traces); ++$round) {
            // Lines that are new have far to go; that those which are led again stay, they have to come to rest.
            $tight = $this->apart(1) + $this->apart(0);
        }
        $touch = $this->touching(0) + $this->touching(1);
        for ($round = 0; $round < 3 && $touch > 0; ++$round) {
            $tight = $this->apart(1) + $this->apart(0);
            $left = $this->touching(0) + $this->touching(1);
            if ($round > 0 && $left >= $touch) {
                break;
            }
            $touch = $left;
        }

        return $tight;
    }

    private function apart(int $axis): int
    {
        $this->collect($axis);
        $walk = $this->ordered();
        [$before, $after, $count] = $this->visible($walk);
        [$least, $most, $gap] = $this->bounds($walk, $before, $after, $count);
        $forth = $back = [];
        foreach ($walk as $p) {
            $at = $this->at[$p];
            $at = match (true) {
                $at < $least[$p] => $least[$p],
                $at > $most[$p] => $most[$p],
                default => $at,
            };
            foreach ($before[$p] ?? [] as $k => $q) {
                $pushed = $forth[$q] + self::GAPS[$gap[$k]];
                $at = $pushed > $at ? $pushed : $at;
            }
            $forth[$p] = min($most[$p], $at);
        }
        foreach (array_reverse($walk) as $p) {
            $at = $this->at[$p];
            $at = match (true) {
                $at < $least[$p] => $least[$p],
                $at > $most[$p] => $most[$p],
                default => $at,
            };
            foreach ($after[$p] ?? [] as $k => $q) {
                $pushed = $back[$q] - self::GAPS[$gap[$k]];
                $at = $pushed < $at ? $pushed : $at;
            }
            $back[$p] = max($least[$p], $at);
        }
        $at = [];
        foreach ($walk as $p) {
            $at[$p] = ($forth[$p] + $back[$p]) / 2;
        }
        $at = $this->even($walk, $at, $before, $after, $gap);
        foreach ($this->pieces as $p => [$t, $i]) {
            if ($t < 0) {
                continue;
            }
            $trace = $this->traces[$t];
            // A line that is led again is not to creep.
            $trace->at[$i] = abs($at[$p] - $trace->at[$i]) < self::CREEP ? $trace->at[$i] : round($at[$p], 1);
        }

        return \count(array_filter($gap, static fn (int $level): bool => $level > 5));
    }

    /**
     * Where gaps had to give way, pieces move to the middle between their neighbours, so that whatever room is left is shared.
     *
     * @param list<int>                   $walk
     * @param array<int, float>           $at
     * @param array<int, array<int, int>> $before
     * @param array<int, array<int, int>> $after
     * @param list<int>                   $gap
     *
     * @return array<int, float>
     */
    private function even(array $walk, array $at, array $before, array $after, array $gap): array
    {
        $tight = [];
        foreach ($walk as $p) {
            foreach (($before[$p] ?? []) + ($after[$p] ?? []) as $k => $q) {
                if ($gap[$k] > self::FAIR) {
                    $tight[] = $p;
                    break;
                }
            }
        }
        for ($round = 0, $most = 1.0; $round < self::ROUNDS && [] !== $tight && $most > self::STILL; ++$round) {
            $farthest = 0.0;
            foreach ($tight as $p) {
                $least = -\INF;
                $greatest = \INF;
                foreach ($before[$p] ?? [] as $q) {
                    $least = $at[$q] > $least ? $at[$q] : $least;
                }
                foreach ($after[$p] ?? [] as $q) {
                    $greatest = $at[$q] < $greatest ? $at[$q] : $greatest;
                }
                $here = $at[$p];
                $down = $here - $least;
                $up = $greatest - $here;
                if ($down < self::GAPS[0] || $up < self::GAPS[0]) {
                    // Towards a neighbour that is farther away than a whole gap there is no need to go on.
                    $to = $here + (min($up, self::GAPS[0]) - min($down, self::GAPS[0])) / 2;
                    $at[$p] = min($this->highest[$p], max($this->lowest[$p], $to));
                    $moved = abs($at[$p] - $here);
                    $farthest = $moved > $farthest ? $moved : $farthest;
                }
            }
            $most = $farthest;
            $tight = array_reverse($tight);
        }

        return $at;
    }

    /** @param bool $rooms whether it is asked how far each may move */
    private function collect(int $axis, bool $rooms = true): void
    {
        $this->pieces = $this->at = $this->low = $this->high = $this->lowest = $this->highest = $this->begin = $this->end = [];
        foreach ($this->traces as $t => $trace) {
            for ($i = 1 - $axis, $n = \count($trace->at); $i < $n; $i += 2) {
                $span = $trace->span($i);
                [$begin, $end] = $span[0] < $span[1] ? $span : [$span[1], $span[0]];
                $isEnd = 0 === $i || $n - 1 === $i;
                [$lowest, $highest] = match (true) {
                    !$rooms => [$trace->at[$i], $trace->at[$i]],
                    $isEnd => self::row($trace, $i),
                    default => $this->room($axis, $trace->at[$i], $begin, $end),
                };
                [$low, $high] = 0 === $axis ? self::withStubs($trace, $i, $lowest, $highest) : [$lowest, $highest];
                if ($low > $high) {
                    $low = $high = min($highest, max($lowest, ($low + $high) / 2));
                }
                $this->pieces[] = [$t, $i];
                $this->at[] = min($high, max($low, $trace->at[$i]));
                $this->low[] = $low;
                $this->high[] = $high;
                $this->lowest[] = min($low, $lowest);
                $this->highest[] = max($high, $highest);
                $this->begin[] = $begin;
                $this->end[] = $end;
            }
        }
        $this->collectBorders($axis);
    }

    /** The borders of frames run along like lines that stay where they are. */
    private function collectBorders(int $axis): void
    {
        foreach ($this->frames as $f => $frame) {
            $sides = 0 === $axis ? [$frame->x, $frame->right()] : [$frame->y, $frame->bottom()];
            foreach ($sides as $s => $at) {
                $this->pieces[] = [-1 - 2 * $f - $s, 0];
                $this->at[] = $this->low[] = $this->high[] = $this->lowest[] = $this->highest[] = $at;
                $this->begin[] = 0 === $axis ? $frame->y : $frame->x;
                $this->end[] = 0 === $axis ? $frame->bottom() : $frame->right();
            }
        }
    }

    /**
     * The room of a piece between the rectangles at both of its sides.
     *
     * @return array{float, float}
     */
    private function room(int $axis, float $at, float $begin, float $end): array
    {
        $low = $at - self::ROOM;
        $high = $at + self::ROOM;
        foreach ($this->near[$axis][(int) floor($at / self::BUCKET)] ?? [] as [$from, $to, $first, $last]) {
            if ($first < $end + 2 && $last > $begin - 2) {
                if ($to <= $at) {
                    $low = $to > $low ? $to : $low;
                } elseif ($from >= $at) {
                    $high = $from < $high ? $from : $high;
                }
            }
        }
        $clear = min(self::CLEAR, ($high - $low) / 4);

        return [$low + $clear, $high - $clear];
    }

    /** @return array{float, float} */
    private static function withStubs(Trace $trace, int $i, float $low, float $high): array
    {
        foreach ([[1, 0], [\count($trace->at) - 2, 1]] as [$piece, $end]) {
            if ($piece === $i) {
                $edge = $trace->edges[$end];
                if (1 === $trace->sides[$end]) {
                    $low = max($low, min($edge + self::STUB, ($edge + $high) / 2));
                } else {
                    $high = min($high, max($edge - self::STUB, ($edge + $low) / 2));
                }
            }
        }

        return [$low, $high];
    }

    /**
     * A line may leave its row anywhere within it.
     *
     * @return array{float, float}
     */
    private static function row(Trace $trace, int $i): array
    {
        $ends = $trace->ends;
        [$top, $bottom] = match (true) {
            1 === \count($trace->at) => [max($ends->leaves[0], $ends->enters[0]), min($ends->leaves[1], $ends->enters[1])],
            0 === $i => $ends->leaves,
            default => $ends->enters,
        };
        $inside = min(5.0, ($bottom - $top) / 3);

        return [$top + $inside, $bottom - $inside];
    }

    /** @return list<int> the pieces by coordinate; those that have the same as they are to run beside each other */
    private function ordered(): array
    {
        $byAt = $this->at;
        asort($byAt, \SORT_NUMERIC);
        $sorted = array_keys($byAt);
        $order = [];
        for ($x = 0, $n = \count($sorted); $x < $n; $x = $y) {
            $most = $this->at[$sorted[$x]] + self::SAME;
            for ($y = $x + 1; $y < $n && $this->at[$sorted[$y]] <= $most; ++$y) {
            }
            foreach (1 === $y - $x ? [$sorted[$x]] : $this->sideBySide(\array_slice($sorted, $x, $y - $x)) as $p) {
                $order[] = $p;
            }
        }

        return $order;
    }

    /**
     * An order that agrees with Order for those that overlap; where that goes round in a circle, whoever has to wait for the fewest goes first.
     *
     * @param list<int> $some
     *
     * @return list<int>
     */
    private function sideBySide(array $some): array
    {
        $waits = array_fill_keys($some, 0);
        $frees = [];
        foreach ($some as $x => $p) {
            $begin = $this->begin[$p] - self::BESIDE;
            $end = $this->end[$p] + self::BESIDE;
            $t = $this->pieces[$p][0];
            for ($y = $x + 1, $n = \count($some); $y < $n; ++$y) {
                $q = $some[$y];
                if ($this->begin[$q] < $end && $this->end[$q] > $begin && $this->pieces[$q][0] !== $t && $t >= 0 && $this->pieces[$q][0] >= 0) {
                    [$a, $b] = $t < $this->pieces[$q][0] ? [$p, $q] : [$q, $p];
                    $first = Order::of($this->traces[$this->pieces[$a][0]], $this->pieces[$a][1], $this->traces[$this->pieces[$b][0]], $this->pieces[$b][1]);
                    [$a, $b] = $first < 0 ? [$a, $b] : [$b, $a];
                    ++$waits[$b];
                    $frees[$a][] = $b;
                }
            }
        }
        $order = [];
        while ([] !== $waits) {
            $p = array_search(min($waits), $waits, true);
            $order[] = (int) $p;
            unset($waits[$p]);
            foreach ($frees[$p] ?? [] as $q) {
                if (isset($waits[$q])) {
                    --$waits[$q];
                }
            }
        }

        return $order;
    }

    /**
     * Who sees whom when all pieces, in their order, are looked at from the side: only between these a gap has to be kept.
     *
     * @param list<int> $walk
     *
     * @return array{array<int, array<int, int>>, array<int, array<int, int>>, int} before and after each: number of the pair → piece; how many pairs
     */
    private function visible(array $walk): array
    {
        $before = $after = [];
        $pairs = 0;
        /** @var list<array{float, float, int}> $front begin, end and piece, by begin: what is seen from the next */
        $front = [];
        foreach ($walk as $p) {
            $begin = $this->begin[$p] - self::BESIDE / 2;
            $end = $this->end[$p] + self::BESIDE / 2;
            // The first that does not end before this one begins.
            $low = 0;
            $high = \count($front);
            while ($low < $high) {
                $middle = ($low + $high) >> 1;
                if ($front[$middle][1] <= $begin) {
                    $low = $middle + 1;
                } else {
                    $high = $middle;
                }
            }
            $new = [];
            $seen = [];
            for ($i = $low, $n = \count($front); $i < $n && $front[$i][0] < $end; ++$i) {
                [$a, $b, $q] = $front[$i];
                if (!isset($seen[$q]) && $this->pieces[$q][0] !== $this->pieces[$p][0]) {
                    $seen[$q] = true;
                    if ($this->high[$q] + self::GAPS[0] > $this->low[$p]) {
                        $before[$p][$pairs] = $q;
                        $after[$q][$pairs] = $p;
                        ++$pairs;
                    }
                }
                if ($a < $begin) {
                    $new[] = [$a, $begin, $q];
                }
                if ($b > $end) {
                    $tail = [$end, $b, $q];
                }
            }
            $new[] = [$begin, $end, $p];
            if (isset($tail)) {
                $new[] = $tail;
                unset($tail);
            }
            array_splice($front, $low, $i - $low, $new);
        }

        return [$before, $after, $pairs];
    }

    /**
     * The least and the greatest coordinate of each piece, and the gap of each pair, which is made smaller where there is no room.
     *
     * @param list<int>                   $walk
     * @param array<int, array<int, int>> $before
     * @param array<int, array<int, int>> $after
     *
     * @return array{array<int, float>, array<int, float>, list<int>}
     */
    private function bounds(array $walk, array $before, array $after, int $count): array
    {
        $gap = array_fill(0, $count, 0);
        $back = array_reverse($walk);
        do {
            $least = $most = [];
            foreach ($walk as $p) {
                $at = $this->low[$p];
                foreach ($before[$p] ?? [] as $k => $q) {
                    $pushed = $least[$q] + self::GAPS[$gap[$k]];
                    $at = $pushed > $at ? $pushed : $at;
                }
                $least[$p] = $at;
            }
            foreach ($back as $p) {
                $at = $this->high[$p];
                foreach ($after[$p] ?? [] as $k => $q) {
                    $pushed = $most[$q] - self::GAPS[$gap[$k]];
                    $at = $pushed < $at ? $pushed : $at;
                }
                $most[$p] = $at;
            }
            $narrowed = false;
            foreach ($before as $p => $those) {
                if ($least[$p] > $most[$p] + 0.001) {
                    foreach ($those as $k => $q) {
                        if ($least[$q] > $most[$q] + 0.001 && $gap[$k] < \count(self::GAPS) - 1) {
                            $gives = $gap[$k] >= self::FAIR && ($this->giveStub($p) + $this->giveStub($q) > 0);
                            $gap[$k] += $gives ? 0 : 1;
                            $narrowed = true;
                        }
                    }
                }
            }
        } while ($narrowed);
        foreach ($least as $p => $at) {
            if ($at > $most[$p]) {
                // Their order and their rooms contradict each other: the room counts, since it keeps lines out of rectangles.
                $least[$p] = $most[$p] = min($this->high[$p], max($this->low[$p], ($at + $most[$p]) / 2));
            }
        }

        return [$least, $most, $gap];
    }

    /** @return int 1 where a piece has cut its stub short by a little, 0 where it can give no more */
    private function giveStub(int $p): int
    {
        if ($this->low[$p] <= $this->lowest[$p] && $this->high[$p] >= $this->highest[$p]) {
            return 0;
        }
        $this->low[$p] = max($this->lowest[$p], $this->low[$p] - 3);
        $this->high[$p] = min($this->highest[$p], $this->high[$p] + 3);

        return 1;
    }

    /** How many pieces have come to lie within a hair of another that was too far away to be looked at. */
    private function touching(int $axis): int
    {
        $this->collect($axis, false);
        $byAt = $this->at;
        asort($byAt, \SORT_NUMERIC);
        $sorted = array_keys($byAt);
        $found = 0;
        for ($x = 0, $n = \count($sorted); $x < $n; ++$x) {
            $p = $sorted[$x];
            for ($y = $x + 1; $y < $n && $this->at[$sorted[$y]] < $this->at[$p] + self::SAME; ++$y) {
                $q = $sorted[$y];
                $found += $this->begin[$q] < $this->end[$p] + 2 && $this->end[$q] > $this->begin[$p] - 2
                    && $this->pieces[$q][0] !== $this->pieces[$p][0] ? 1 : 0;
            }
        }

        return $found;
    }
}
