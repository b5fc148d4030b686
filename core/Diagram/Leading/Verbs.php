<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/** Finds a place on its line for the words of each, where they cover nothing: best above the end that holds the reference. */
final class Verbs
{
    private const MARK = 26.0;
    private const HEIGHT = 10;
    private const ABOVE = 13.0;
    private const BELOW = 4.0;
    private const BESIDE = 6.0;
    private const CELL = 80;
    private const FRAME = 4.0;

    /** @var array<string, list<array{float, float, float, float}>> cell → what must not be covered */
    private array $taken = [];

    /**
     * @param list<Rect>  $rects
     * @param list<Trace> $traces
     *
     * @return array<int, array{x: float, y: float, width: float, height: int}> by id of the line; those for which there is no room are missing
     */
    public static function place(array $rects, array $traces): array
    {
        $verbs = new self();
        foreach ($rects as $rect) {
            // A fact has a second frame around it.
            $verbs->take($rect->x - self::FRAME, $rect->y - self::FRAME, $rect->right() + self::FRAME, $rect->bottom() + self::FRAME);
        }
        foreach ($traces as $trace) {
            foreach ($trace->at as $i => $at) {
                [$from, $to] = $trace->span($i);
                $low = min($from, $to);
                $high = max($from, $to);
                if (1 === $i % 2) {
                    $verbs->take($at - 1, $low, $at + 1, $high);
                } else {
                    $verbs->take($low, $at - 1, $high, $at + 1);
                }
            }
            // The signs at the ends stand out a little to both sides.
            foreach ([[0, 0], [\count($trace->at) - 1, 1]] as [$i, $end]) {
                $x = $trace->edges[$end];
                $y = $trace->at[$i];
                $out = 1 === $trace->sides[$end] ? 22.0 : -22.0;
                $verbs->take(min($x, $x + $out), $y - 6, max($x, $x + $out), $y + 6);
            }
        }
        $places = [];
        foreach ($traces as $trace) {
            if ($trace->ends->verb > 0) {
                $place = $verbs->find($trace);
                if (null !== $place) {
                    $places[$trace->ends->id] = $place;
                }
            }
        }

        return $places;
    }

    /** @return array{x: float, y: float, width: float, height: int}|null */
    private function find(Trace $trace): ?array
    {
        $width = $trace->ends->verb;
        foreach ($this->candidates($trace, $width) as [$x, $y]) {
            if ($this->free($x, $y, $x + $width, $y + self::HEIGHT)) {
                $this->take($x - 2, $y - 1, $x + $width + 2, $y + self::HEIGHT + 1);

                return ['x' => round($x, 1), 'y' => round($y, 1), 'width' => $width, 'height' => self::HEIGHT];
            }
        }

        return null;
    }

    /** @return iterable<array{float, float}> top left corners, the best first */
    private function candidates(Trace $trace, float $width): iterable
    {
        $last = \count($trace->at) - 1;
        foreach ($trace->at as $i => $at) {
            [$from, $to] = $trace->span($i);
            if (0 === $i % 2) {
                $sign = $to <=> $from;
                $start = 0 === $i ? self::MARK : 4.0;
                $room = abs($to - $from) - $start - ($i === $last ? self::MARK : 4.0);
                // At its own end the words may reach beyond the corner, where nothing else is; further on they stay over their piece.
                $ways = 0 === $i ? [0.0, max(0.0, ($room - $width) / 2), max(0.0, $room - $width)] : [($room - $width) / 2, 0.0, $room - $width];
                foreach ($room >= $width || 0 === $i ? array_unique($ways) : [] as $off) {
                    $near = $from + $sign * ($start + $off);
                    foreach ([$at - self::ABOVE, $at + self::BELOW] as $y) {
                        yield [$sign >= 0 ? $near : $near - $width, $y];
                    }
                }
            } else {
                foreach ([0.5, 0.3, 0.7, 0.15, 0.85] as $share) {
                    $y = $from + ($to - $from) * $share - self::HEIGHT / 2;
                    yield [$at + self::BESIDE, $y];
                    yield [$at - self::BESIDE - $width, $y];
                }
            }
        }
    }

    private function take(float $x1, float $y1, float $x2, float $y2): void
    {
        for ($cx = (int) floor($x1 / self::CELL), $toX = (int) floor($x2 / self::CELL); $cx <= $toX; ++$cx) {
            for ($cy = (int) floor($y1 / self::CELL), $toY = (int) floor($y2 / self::CELL); $cy <= $toY; ++$cy) {
                $this->taken[$cx.' '.$cy][] = [$x1, $y1, $x2, $y2];
            }
        }
    }

    private function free(float $x1, float $y1, float $x2, float $y2): bool
    {
        for ($cx = (int) floor($x1 / self::CELL), $toX = (int) floor($x2 / self::CELL); $cx <= $toX; ++$cx) {
            for ($cy = (int) floor($y1 / self::CELL), $toY = (int) floor($y2 / self::CELL); $cy <= $toY; ++$cy) {
                foreach ($this->taken[$cx.' '.$cy] ?? [] as [$a1, $b1, $a2, $b2]) {
                    if ($x1 < $a2 && $a1 < $x2 && $y1 < $b2 && $b1 < $y2) {
                        return false;
                    }
                }
            }
        }

        return true;
    }
}
