<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * Looks for the cheapest way of a line along lanes: short, with few bends, through channels that have room. A* (Hart, Nilsson, Raphael
 * 1968) over lanes; how full a channel is becomes dearer the fuller it is (McMurchie, Ebeling: PathFinder, 1995).
 *
 * @internal
 */
final class Search
{
    private const BEND = 30.0;
    private const STUB = 18.0;
    /** What is still ahead counts for more than its length: a line crosses others on its way, and far fewer ways have to be looked at. */
    private const AHEAD = 1.1;
    /** What crossing another line costs, and running beside one; and, each px that is lacking where a channel is full. */
    private const CROSSING = 22.0;
    private const SHARED = 1.5;
    private const FULL = 30.0;
    /** The room that a line takes in a channel. */
    private const APART = 8.0;
    /** So many lanes are looked at from a row to either side. */
    private const SEEN = 40;

    /** @var array<int, array<int, int>> lane → lines in each of its stretches, which the lanes that cross it bound */
    private array $load = [];

    /** @param list<Rect> $rects */
    public function __construct(private readonly array $rects, private readonly Lanes $lanes)
    {
        foreach ($lanes->meets as $lane => $meets) {
            $this->load[$lane] = array_fill(0, \count($meets) + 1, 0);
        }
    }

    /**
     * Says that a line runs so, so that those after it take it into account.
     *
     * @param int $by 1, or −1 where it does so no longer
     */
    public function use(Trace $trace, int $by = 1): void
    {
        foreach ($trace->lanes as $piece => $lane) {
            if ($lane >= 0) {
                [$from, $to] = $trace->span($piece);
                $last = $this->lanes->place($lane, max($from, $to));
                for ($k = $this->lanes->place($lane, min($from, $to)); $k <= $last; ++$k) {
                    $this->load[$lane][$k] += $by;
                }
            }
        }
    }

    public function trace(Ends $ends): Trace
    {
        $leave = $this->ways($ends->from, $ends->leaves);
        $enter = $this->ways($ends->to, $ends->enters);
        $best = $this->straight($ends);
        $bestCost = null === $best ? \INF : abs($best->edges[1] - $best->edges[0]);
        $lanes = $this->lanes;
        $at = $this->lanes->at;
        $load = $this->load;
        $upright = $lanes->upright;
        $to = $this->rects[$ends->to];
        $yFrom = ($ends->leaves[0] + $ends->leaves[1]) / 2;
        $yTo = ($ends->enters[0] + $ends->enters[1]) / 2;
        $left = $to->x;
        $right = $to->x + $to->width;
        $queue = new \SplPriorityQueue();
        $queue->setExtractFlags(\SplPriorityQueue::EXTR_DATA);
        /** @var array<int, float> $f */
        $f = $g = $entry = $side = [];
        /** @var array<int, int> $parent −1 where the line begins */
        $parent = [];
        foreach ($leave as $lane => [$s, $edge, $toll]) {
            $x = $at[$lane];
            $g[$lane] = abs($x - $edge) + self::BEND + $toll;
            $f[$lane] = $g[$lane] + self::AHEAD * (self::left($x, $left, $right) + abs($yFrom - $yTo)) + self::BEND;
            $entry[$lane] = $yFrom;
            $parent[$lane] = -1;
            $side[$lane] = $s;
            $queue->insert($lane, -$f[$lane]);
        }
        $closed = [];
        $last = null;
        while (!$queue->isEmpty()) {
            /** @var int $lane */
            $lane = $queue->extract();
            if (isset($closed[$lane])) {
                continue;
            }
            if ($f[$lane] >= $bestCost) {
                break;
            }
            $closed[$lane] = true;
            $here = $entry[$lane];
            $own = $at[$lane];
            $stretches = $load[$lane];
            $meets = $lanes->meets[$lane];
            $back = $lanes->back[$lane];
            $room = $lanes->room[$lane];
            $isUpright = $lane < $upright;
            $place = $lanes->place($lane, $here);
            $goal = $isUpright && isset($enter[$lane]) ? $lanes->place($lane, $yTo) : -1;
            if ($goal === $place) {
                $whole = $g[$lane] + abs($here - $yTo) + abs($own - $enter[$lane][1]) + self::BEND + $enter[$lane][2];
                if ($whole < $bestCost) {
                    $bestCost = $whole;
                    $last = $lane;
                }
            }
            $n = \count($meets);
            foreach ([1, -1] as $step) {
                $cost = $g[$lane];
                for ($k = 1 === $step ? $place : $place - 1; $k >= 0 && $k < $n; $k += $step) {
                    $next = $meets[$k];
                    $stretch = 1 === $step ? $k : $k + 1;
                    $used = $stretches[$stretch];
                    if ($used > 0) {
                        $over = ($used + 2) * self::APART - $room[$stretch];
                        $cost += $used * self::SHARED + ($over > 0 ? $over * self::FULL : 0.0);
                    }
                    $where = $at[$next];
                    if (!isset($closed[$next])) {
                        $spent = $cost + ($where > $here ? $where - $here : $here - $where) + self::BEND;
                        $whole = $spent + ($isUpright
                            ? self::AHEAD * (self::left($own, $left, $right) + ($where > $yTo ? $where - $yTo : $yTo - $where)) + 2 * self::BEND
                            : self::AHEAD * (self::left($where, $left, $right) + ($own > $yTo ? $own - $yTo : $yTo - $own)) + self::BEND);
                        if ($whole < $bestCost && $whole < ($f[$next] ?? \INF)) {
                            $f[$next] = $whole;
                            $g[$next] = $spent;
                            $entry[$next] = $own;
                            $parent[$next] = $lane;
                            $queue->insert($next, -$whole);
                        }
                    }
                    $b = $back[$k];
                    $across = $load[$next];
                    $cost += self::CROSSING * ($across[$b] < $across[$b + 1] ? $across[$b] : $across[$b + 1]);
                    if ($goal >= 0 && $goal === (1 === $step ? $k + 1 : $k)) {
                        $whole = $cost + abs($here - $yTo) + abs($own - $enter[$lane][1]) + self::BEND + $enter[$lane][2];
                        if ($whole < $bestCost) {
                            $bestCost = $whole;
                            $last = $lane;
                        }
                    }
                }
            }
        }
        if (null === $last) {
            return $best ?? $this->forced($ends);
        }
        $way = self::way($last, $parent);

        return $this->found($ends, $way, [$yFrom, $yTo], [$side[$way[0]], $enter[$last][0]]);
    }

    /**
     * @param array<int, int> $parent
     *
     * @return non-empty-list<int> lanes from where it begins to the last
     */
    private static function way(int $last, array $parent): array
    {
        $way = [$last];
        while ($parent[$way[0]] >= 0) {
            array_unshift($way, $parent[$way[0]]);
        }

        return $way;
    }

    /**
     * @param non-empty-list<int> $way
     * @param array{float, float} $y     where it leaves and where it enters
     * @param array{int, int}     $sides
     */
    private function found(Ends $ends, array $way, array $y, array $sides): Trace
    {
        $from = $this->rects[$ends->from];
        $to = $this->rects[$ends->to];

        return new Trace(
            $ends,
            [$y[0], ...array_map(fn (int $lane): float => $this->lanes->at[$lane], $way), $y[1]],
            [self::row($ends->from, $ends->leaves, $sides[0]), ...$way, self::row($ends->to, $ends->enters, $sides[1])],
            $sides,
            [0 === $sides[0] ? $from->x : $from->right(), 0 === $sides[1] ? $to->x : $to->right()],
        );
    }

    private static function left(float $x, float $left, float $right): float
    {
        $a = $x > $left ? $x - $left : $left - $x;
        $b = $x > $right ? $x - $right : $right - $x;

        return $a < $b ? $a : $b;
    }

    /** @param array{float, float} $row */
    public static function row(int $rect, array $row, int $side): int
    {
        return -1 - 2 * ($rect * 65536 + ((int) round($row[0]) & 65535)) - $side;
    }

    /**
     * The upright lanes that a line can turn into when it leaves a row, or out of when it enters one.
     *
     * @param array{float, float} $row
     *
     * @return array<int, array{int, float, float}> lane → side, x of that side, what is crossed on the way to it
     */
    private function ways(int $rect, array $row): array
    {
        $ways = [];
        $own = $this->rects[$rect];
        $y = ($row[0] + $row[1]) / 2;
        [$left, $right] = $this->free($rect, $row);
        $lanes = $this->lanes;
        $toll = 0.0;
        for ($v = $lanes->firstFrom($own->right() + 4), $n = 0; $v < $lanes->upright && $lanes->at[$v] < $right && $n < self::SEEN; ++$v) {
            if ($lanes->start[$v] <= $y && $lanes->end[$v] >= $y) {
                $ways[$v] = [1, $own->right(), $toll];
                $toll += self::CROSSING * $this->load[$v][$lanes->place($v, $y)];
                ++$n;
            }
        }
        $toll = 0.0;
        for ($v = $lanes->firstFrom($own->x - 4) - 1, $n = 0; $v >= 0 && $lanes->at[$v] > $left && $n < self::SEEN; --$v) {
            if ($lanes->start[$v] <= $y && $lanes->end[$v] >= $y) {
                $ways[$v] = [0, $own->x, $toll];
                $toll += self::CROSSING * $this->load[$v][$lanes->place($v, $y)];
                ++$n;
            }
        }

        return $ways;
    }

    /**
     * How far one sees from a row to the left and to the right.
     *
     * @param array{float, float} $row
     *
     * @return array{float, float, int, int} and the rectangles that are seen there; -1 for none
     */
    private function free(int $rect, array $row): array
    {
        $own = $this->rects[$rect];
        $left = -\INF;
        $right = \INF;
        $atLeft = -1;
        $atRight = -1;
        foreach ($this->rects as $i => $other) {
            if ($i !== $rect && $other->y < $row[1] && $other->y + $other->height > $row[0]) {
                if ($other->x >= $own->x + $own->width && $other->x < $right) {
                    $right = $other->x;
                    $atRight = $i;
                } elseif ($other->x + $other->width <= $own->x && $other->x + $other->width > $left) {
                    $left = $other->x + $other->width;
                    $atLeft = $i;
                }
            }
        }

        return [$left, $right, $atLeft, $atRight];
    }

    /** A line without a bend, where both rows see one another. */
    private function straight(Ends $ends): ?Trace
    {
        $top = max($ends->leaves[0], $ends->enters[0]);
        $bottom = min($ends->leaves[1], $ends->enters[1]);
        if ($ends->from === $ends->to || $bottom - $top < 8) {
            return null;
        }
        $from = $this->rects[$ends->from];
        $to = $this->rects[$ends->to];
        $toRight = $to->x >= $from->right();
        [, , $atLeft, $atRight] = $this->free($ends->from, [$top, $bottom]);
        if (($toRight ? $atRight : $atLeft) !== $ends->to) {
            return null;
        }
        $lane = self::row($ends->from, $ends->leaves, $toRight ? 1 : 0);

        return new Trace(
            $ends,
            [($top + $bottom) / 2],
            [$lane],
            $toRight ? [1, 0] : [0, 1],
            $toRight ? [$from->right(), $to->x] : [$from->x, $to->right()],
        );
    }

    /** Where rectangles leave no way at all, the line is led as if they were not there: better seen than lost. */
    private function forced(Ends $ends): Trace
    {
        $from = $this->rects[$ends->from];
        $to = $this->rects[$ends->to];
        $x = max($from->right(), $to->right()) + self::STUB;

        return new Trace(
            $ends,
            [array_sum($ends->leaves) / 2, $x, array_sum($ends->enters) / 2],
            [self::row($ends->from, $ends->leaves, 1), \PHP_INT_MIN, self::row($ends->to, $ends->enters, 1)],
            [1, 1],
            [$from->right(), $to->right()],
        );
    }
}
