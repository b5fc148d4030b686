<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * A routed part of a diagram with its top left corner at 0, 0.
 *
 * @internal
 */
final class Block
{
    public readonly float $width;
    public readonly float $height;

    /**
     * @param list<TabletShape> $shapes
     * @param list<Path>  $paths
     */
    public function __construct(public readonly array $shapes, public readonly array $paths, float $width, public readonly int $crossings)
    {
        $top = \PHP_INT_MAX;
        $bottom = \PHP_INT_MIN;
        foreach ($shapes as $shape) {
            $top = min($top, $shape->y);
            $bottom = max($bottom, $shape->y + $shape->height);
        }
        foreach ($paths as $path) {
            foreach ($path->points as [$x, $y]) {
                $top = min($top, $y);
                $bottom = max($bottom, $y);
                $width = max($width, $x);
            }
        }
        $this->width = $width;
        $this->height = $bottom - $top;
        $this->move(0, -$top);
    }

    public function move(float $dx, float $dy): void
    {
        foreach ($this->shapes as $shape) {
            $shape->x += $dx;
            $shape->y += (int) $dy;
        }
        foreach ($this->paths as $path) {
            foreach ($path->points as $i => [$x, $y]) {
                $path->points[$i] = [$x + $dx, $y + (int) $dy];
            }
        }
    }

    /** Lower is better: short lines, few crossings, and a shape between a tower and a ribbon. */
    public function cost(): float
    {
        $length = 0.0;
        foreach ($this->paths as $path) {
            $length += $path->length();
        }
        $ratio = $this->width / max(1.0, $this->height);
        $off = max(0.0, abs(log($ratio / 1.35)) - 0.3);

        return ($length + 60 * $this->crossings + 200) * (1 + 1.5 * $off + ($ratio > 1.9 || $ratio < 0.6 ? 2 : 0));
    }
}
