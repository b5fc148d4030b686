<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * The free channels between rectangles, each with one lane in its middle: beside every side of every rectangle, as far as nothing is
 * in the way. Together they are a sparse orthogonal visibility graph (Wybrow, Marriott, Stuckey: Orthogonal Connector Routing,
 * Graph Drawing 2009), in which a lane, not a crossing of two, is what a search steps through.
 *
 * @internal
 */
final class Lanes
{
    /** A lane keeps so far away from what bounds its channel, where the channel is wide. */
    private const AWAY = [36.0, 20.0];
    /** A channel that is narrower than this has no lane. */
    private const LEAST = 16.0;
    private const CLEAR = 3.0;
    private const WORLD = 60.0;
    /** More room than this to one side of a lane belongs to other lanes. */
    private const MOST = 40.0;

    /** @var list<float> x of an upright lane, y of a level one */
    public array $at = [];
    /** @var list<float> */
    public array $start = [];
    /** @var list<float> */
    public array $end = [];
    /** @var list<list<float>> lane → how wide its channel is in each of its stretches, which the lanes that cross it bound */
    public array $room = [];
    /** @var list<list<int>> lane → lanes that cross it, in the order in which they stand along it */
    public array $meets = [];
    /** @var list<list<int>> lane → for each that crosses it, the place of the lane among those which that one crosses */
    public array $back = [];
    /** How many of them are upright; they come first, from left to right. */
    public int $upright = 0;

    /** @param list<Rect> $rects */
    public function __construct(array $rects)
    {
        $low = $high = [[], []];
        foreach ($rects as $rect) {
            $low[0][] = $rect->x;
            $high[0][] = $rect->x + $rect->width;
            $low[1][] = $rect->y;
            $high[1][] = $rect->y + $rect->height;
        }
        if ([] === $rects) {
            return;
        }
        foreach ([0, 1] as $axis) {
            foreach ($this->along($low[$axis], $high[$axis], $low[1 - $axis], $high[1 - $axis], self::AWAY[$axis]) as [$at, $start, $end]) {
                $this->at[] = $at;
                $this->start[] = $start;
                $this->end[] = $end;
            }
            $this->upright = 0 === $axis ? \count($this->at) : $this->upright;
        }
        $this->cross();
        $this->measure(0, $this->upright, $low[0], $high[0], $low[1], $high[1]);
        $this->measure($this->upright, \count($this->at), $low[1], $high[1], $low[0], $high[0]);
    }

    /**
     * @param non-empty-list<float> $low  where rectangles begin across the lanes
     * @param non-empty-list<float> $high
     * @param non-empty-list<float> $from where they begin along the lanes
     * @param non-empty-list<float> $to
     *
     * @return list<array{float, float, float}> in order
     */
    private function along(array $low, array $high, array $from, array $to, float $away): array
    {
        $lanes = [];
        $n = \count($low);
        $first = min($from) - self::WORLD;
        $last = max($to) + self::WORLD;
        for ($i = 0; $i < $n; ++$i) {
            $left = -\INF;
            $right = \INF;
            $a = $from[$i] - self::CLEAR;
            $b = $to[$i] + self::CLEAR;
            for ($j = 0; $j < $n; ++$j) {
                if ($from[$j] < $b && $to[$j] > $a && $j !== $i) {
                    if ($low[$j] >= $high[$i]) {
                        $right = $low[$j] < $right ? $low[$j] : $right;
                    } elseif ($high[$j] <= $low[$i]) {
                        $left = $high[$j] > $left ? $high[$j] : $left;
                    }
                }
            }
            foreach ([[$low[$i], -1, $low[$i] - $left], [$high[$i], 1, $right - $high[$i]]] as [$edge, $sign, $room]) {
                if ($room >= self::LEAST) {
                    $at = round($edge + $sign * min($room / 2, $away), 2);
                    $lane = $this->reach($at, ($from[$i] + $to[$i]) / 2, $low, $high, $from, $to, $first, $last);
                    $lanes[$at.' '.$lane[0]] = [$at, ...$lane];
                }
            }
        }
        $lanes = array_values($lanes);
        sort($lanes);

        return $lanes;
    }

    /**
     * How far a lane goes from a point on it.
     *
     * @param non-empty-list<float> $low
     * @param non-empty-list<float> $high
     * @param non-empty-list<float> $from
     * @param non-empty-list<float> $to
     *
     * @return array{float, float}
     */
    private function reach(float $at, float $middle, array $low, array $high, array $from, array $to, float $first, float $last): array
    {
        $before = $at - self::CLEAR;
        $after = $at + self::CLEAR;
        foreach ($low as $j => $edge) {
            if ($edge < $after && $high[$j] > $before) {
                if ($to[$j] <= $middle) {
                    $first = $to[$j] > $first ? $to[$j] : $first;
                } elseif ($from[$j] >= $middle) {
                    $last = $from[$j] < $last ? $from[$j] : $last;
                }
            }
        }

        return [$first + self::CLEAR, $last - self::CLEAR];
    }

    private function cross(): void
    {
        $n = \count($this->at);
        $meets = $back = array_fill(0, $n, []);
        for ($h = $this->upright; $h < $n; ++$h) {
            $y = $this->at[$h];
            $start = $this->start[$h];
            $end = $this->end[$h];
            for ($v = $this->firstFrom($start); $v < $this->upright && $this->at[$v] <= $end; ++$v) {
                if ($this->start[$v] <= $y && $this->end[$v] >= $y) {
                    $back[$v][] = \count($meets[$h]);
                    $back[$h][] = \count($meets[$v]);
                    $meets[$v][] = $h;
                    $meets[$h][] = $v;
                }
            }
        }
        $this->meets = $meets;
        $this->back = $back;
    }

    /**
     * @param non-empty-list<float> $low
     * @param non-empty-list<float> $high
     * @param non-empty-list<float> $from
     * @param non-empty-list<float> $to
     */
    private function measure(int $first, int $last, array $low, array $high, array $from, array $to): void
    {
        for ($lane = $first; $lane < $last; ++$lane) {
            $at = $this->at[$lane];
            $below = $above = array_fill(0, \count($this->meets[$lane]) + 1, self::MOST);
            foreach ($low as $j => $edge) {
                if ($edge < $at + self::MOST && $high[$j] > $at - self::MOST && $from[$j] < $this->end[$lane] && $to[$j] > $this->start[$lane]) {
                    $until = $this->place($lane, $to[$j]);
                    for ($k = $this->place($lane, $from[$j]); $k <= $until; ++$k) {
                        if ($edge > $at) {
                            $above[$k] = min($above[$k], $edge - $at);
                        } else {
                            $below[$k] = min($below[$k], $at - $high[$j]);
                        }
                    }
                }
            }
            $this->room[$lane] = array_map(static fn (float $a, float $b): float => 2 * min($a, $b), $below, $above);
        }
    }

    /** @return int how many of the lanes that cross a lane stand before a point on it */
    public function place(int $lane, float $at): int
    {
        $meets = $this->meets[$lane];
        $low = 0;
        $high = \count($meets);
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            if ($this->at[$meets[$middle]] < $at) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    /** @return int the lane that is nearest to a piece of a line, −1 for none within reach */
    public function nearest(bool $upright, float $at, float $middle): int
    {
        [$first, $last] = $upright ? [0, $this->upright] : [$this->upright, \count($this->at)];
        $start = $this->firstFrom($at, $first, $last);
        $best = -1;
        $bestOff = self::MOST;
        foreach ([1, -1] as $step) {
            for ($lane = 1 === $step ? $start : $start - 1; $lane >= $first && $lane < $last && abs($this->at[$lane] - $at) < $bestOff; $lane += $step) {
                if ($this->start[$lane] <= $middle && $this->end[$lane] >= $middle) {
                    $best = $lane;
                    $bestOff = abs($this->at[$lane] - $at);
                }
            }
        }

        return $best;
    }

    /** @return int the number of the first upright lane at or right of an x, or of the first among some at or after a coordinate */
    public function firstFrom(float $x, int $low = 0, ?int $high = null): int
    {
        $high ??= $this->upright;
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            if ($this->at[$middle] < $x) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }
}
