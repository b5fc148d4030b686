<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * A line as it is led: level and upright pieces in turn, of which the first and the last are level and end at a side of a rectangle.
 *
 * `at` holds the height of the first piece, the x of the second, the height of the third, and so on: an odd number of figures.
 *
 * @internal
 */
final class Trace
{
    /**
     * @param non-empty-array<int, float> $at
     * @param list<int>       $lanes the lane of each piece; those at the ends have a number of their row and side
     * @param array{int, int} $sides at which it leaves and enters: 0 left, 1 right
     * @param array{float, float} $edges x of those sides
     */
    public function __construct(
        public readonly Ends $ends,
        public array $at,
        public array $lanes,
        public array $sides,
        public array $edges,
        public bool $kept = false,
    ) {
    }

    /**
     * A way that was found before, if it still leads from the one row to the other, level and upright in turn, and through no rectangle.
     *
     * @param list<array{float, float}> $points
     * @param list<Rect>                $rects
     */
    public static function along(Ends $ends, array $points, array $rects): ?self
    {
        $n = \count($points);
        $side = static fn (Rect $rect, float $x): ?int => match (true) {
            abs($x - $rect->x) < 0.2 => 0,
            abs($x - $rect->right()) < 0.2 => 1,
            default => null,
        };
        $sides = [$side($rects[$ends->from], $points[0][0]), $side($rects[$ends->to], $points[$n - 1][0])];
        $inside = static fn (float $y, array $row): bool => $y > $row[0] && $y < $row[1];
        if (null === $sides[0] || null === $sides[1] || !$inside($points[0][1], $ends->leaves) || !$inside($points[$n - 1][1], $ends->enters)) {
            return null;
        }
        $at = [];
        for ($i = 1; $i < $n; ++$i) {
            [$x1, $y1] = $points[$i - 1];
            [$x2, $y2] = $points[$i];
            // Level pieces and upright ones take turns; the first and the last are level.
            $level = 1 === $i % 2;
            if (abs($level ? $y2 - $y1 : $x2 - $x1) > 0.05 || self::crosses([$x1, $x2], [$y1, $y2], $rects)) {
                return null;
            }
            $at[] = $level ? $y1 : $x1;
        }

        return 0 === $n % 2 && [] !== $at ? new self($ends, $at, [], $sides, [$points[0][0], $points[$n - 1][0]], true) : null;
    }

    /**
     * @param array{float, float} $x
     * @param array{float, float} $y
     * @param list<Rect>          $rects
     */
    private static function crosses(array $x, array $y, array $rects): bool
    {
        $left = min($x);
        $right = max($x);
        $top = min($y);
        $bottom = max($y);
        foreach ($rects as $rect) {
            if ($left < $rect->x + $rect->width && $right > $rect->x && $top < $rect->y + $rect->height && $bottom > $rect->y) {
                return true;
            }
        }

        return false;
    }

    /**
     * Where a level piece begins and ends, or an upright one; in the order in which the line runs.
     *
     * @return array{float, float}
     */
    public function span(int $piece): array
    {
        return [
            0 === $piece ? $this->edges[0] : $this->at[$piece - 1],
            $piece === \count($this->at) - 1 ? $this->edges[1] : $this->at[$piece + 1],
        ];
    }

    /** @return non-empty-list<array{float, float}> */
    public function points(): array
    {
        $points = [[$this->edges[0], $this->at[0]]];
        for ($i = 1, $n = \count($this->at); $i < $n; ++$i) {
            $points[] = 1 === $i % 2 ? [$this->at[$i], $this->at[$i - 1]] : [$this->at[$i - 1], $this->at[$i]];
        }
        $points[] = [$this->edges[1], $this->at[\count($this->at) - 1]];

        return $points;
    }
}
