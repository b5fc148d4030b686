<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/** Keeps what stands on a diagram apart: what is set down on another is moved beside it, as little as possible. */
final class Apart
{
    public const ACROSS = 40.0;
    public const DOWN = 20.0;
    private const GRID = 10.0;
    private const ROUNDS = 12;

    /**
     * The place nearest to the one that is wished for where a rectangle has room, on the grid.
     *
     * @param iterable<Rect> $others
     */
    public static function beside(Rect $wished, iterable $others): Rect
    {
        $wished = new Rect(self::snapped($wished->x), self::snapped($wished->y), $wished->width, $wished->height);
        $all = [];
        foreach ($others as $other) {
            $all[] = $other;
        }
        if (self::fits($wished, $all)) {
            return $wished;
        }
        $xs = [$wished->x];
        $ys = [$wished->y];
        foreach ($all as $other) {
            array_push($xs, self::up($other->right() + self::ACROSS), self::down($other->x - self::ACROSS - $wished->width));
            array_push($ys, self::up($other->bottom() + self::DOWN), self::down($other->y - self::DOWN - $wished->height));
        }
        $xs = self::near($xs, $wished->x);
        $ys = self::near($ys, $wished->y);
        $best = null;
        $bestOff = \INF;
        foreach ($xs as $x) {
            if (abs($x - $wished->x) >= $bestOff) {
                break;
            }
            foreach ($ys as $y) {
                $off = hypot($x - $wished->x, $y - $wished->y);
                if ($off >= $bestOff) {
                    break;
                }
                $tried = new Rect($x, $y, $wished->width, $wished->height);
                if (self::fits($tried, $all)) {
                    $best = $tried;
                    $bestOff = $off;
                    break;
                }
            }
        }

        return $best ?? throw new \LogicException('At the outermost sides there is always room.');
    }

    /**
     * @param list<float> $all
     *
     * @return list<float> each once, the nearest first
     */
    private static function near(array $all, float $to): array
    {
        $all = array_values(array_unique($all, \SORT_NUMERIC));
        usort($all, static fn (float $a, float $b): int => abs($a - $to) <=> abs($b - $to));

        return $all;
    }

    /**
     * Pushes apart what has come to stand on one another because it has grown: to the right or down, whichever is the shorter way, so
     * that the order in which things stand is kept.
     *
     * @param array<int|string, Rect> $rects
     *
     * @return array<int|string, Rect>
     */
    public static function pushed(array $rects): array
    {
        $keys = array_keys($rects);
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            usort(
                $keys,
                static fn (int|string $a, int|string $b): int => [$rects[$a]->y + $rects[$a]->x, (string) $a] <=> [$rects[$b]->y + $rects[$b]->x, (string) $b],
            );
            $met = false;
            foreach ($keys as $i => $key) {
                $own = $rects[$key];
                foreach (\array_slice($keys, 0, $i) as $before) {
                    $other = $rects[$before];
                    if ($own->meets($other, self::ACROSS, self::DOWN)) {
                        $met = true;
                        $right = self::up($other->right() + self::ACROSS) - $own->x;
                        $down = self::up($other->bottom() + self::DOWN) - $own->y;
                        $aside = $own->x > $other->x && $right < $down;
                        $own = new Rect($own->x + ($aside ? $right : 0), $own->y + ($aside ? 0 : $down), $own->width, $own->height);
                    }
                }
                $rects[$key] = $own;
            }
            if (!$met) {
                return $rects;
            }
        }
        $settled = [];
        foreach ($keys as $key) {
            $settled[$key] = self::beside($rects[$key], $settled);
        }

        return array_replace($rects, $settled);
    }

    /** @param list<Rect> $others */
    private static function fits(Rect $rect, array $others): bool
    {
        foreach ($others as $other) {
            if ($rect->meets($other, self::ACROSS, self::DOWN)) {
                return false;
            }
        }

        return true;
    }

    public static function snapped(float $value): float
    {
        return round($value / self::GRID) * self::GRID;
    }

    private static function up(float $value): float
    {
        return ceil($value / self::GRID) * self::GRID;
    }

    private static function down(float $value): float
    {
        return floor($value / self::GRID) * self::GRID;
    }
}
