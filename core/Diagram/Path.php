<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A line as it is drawn: corners from the end that holds the reference to the other, and the side each end leaves at (0 left, 1 right). */
final class Path
{
    /**
     * @param non-empty-list<array{float, float}>                              $points
     * @param array{int, int}                                                  $sides
     * @param array{x: float, y: float, width: float, height: int}|false|null  $words  where the verb stands; false for nowhere, null for where it
     *                                                                                 stands when columns are as wide as they have to be
     */
    public function __construct(public readonly Line $line, public array $points, public readonly array $sides, public array|false|null $words = null)
    {
    }

    /**
     * Where the verb stands: above the first piece, clear of the mark at its end.
     *
     * @return array{x: float, y: float, width: float, height: int}|null null when there is no verb
     */
    public function label(): ?array
    {
        if ('' === $this->line->verb || false === $this->words) {
            return null;
        }
        if (null !== $this->words) {
            return $this->words;
        }
        $width = TextWidth::text($this->line->verb, Router::LABEL_SIZE);
        [$x, $y] = $this->points[0];

        return ['x' => 1 === $this->sides[0] ? $x + Router::MARK : $x - Router::MARK - $width, 'y' => $y - 13, 'width' => $width, 'height' => 10];
    }

    public function length(): float
    {
        $sum = 0.0;
        for ($i = 1, $n = \count($this->points); $i < $n; ++$i) {
            $sum += abs($this->points[$i][0] - $this->points[$i - 1][0]) + abs($this->points[$i][1] - $this->points[$i - 1][1]);
        }

        return $sum;
    }
}
