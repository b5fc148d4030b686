<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/**
 * What the data says about one field.
 *
 * `values` is how many were not null; `blank` how many of those were empty or only blanks. `distinct` is null where it was
 * not counted. Of a personal field no value is kept: `least`, `greatest` and `frequent` are empty.
 */
final readonly class FieldProfile
{
    /**
     * @param array<string, int>                                    $frequent  value → rows, the most frequent first
     * @param int                                                   $frequentOf how many values those counts were taken from
     * @param list<array{from: string, to: string, count: int}> $histogram of numbers and dates: equal steps
     * @param array<string, int>                                    $shapes    of text: `AA-999` → how many of the values looked at
     * @param string                                                $likely    what it is likely to be, '' where nothing stands out
     * @param int                                                   $percent   of the values looked at that fit `likely`
     * @param string                                                $personal  why it is taken for personal data, '' where it is not
     * @param string                                                $allowed   what a person says is allowed in it, as it was checked; '' for nothing
     * @param ?int                                                  $broken    values that are not allowed; null where nobody looked
     * @param array<string, int>                                    $breaking  some of those, with how many rows have each; 0 where that was not counted
     * @param array{lists: int, empty: int, fewest: int, most: int, average: float}|null $lists of documents: how many items are in each; null for none
     * @param int                                                   $beyond    values so far off that the histogram leaves them out
     */
    public function __construct(
        public int $rows,
        public int $values,
        public int $blank = 0,
        public ?int $distinct = null,
        public ?string $least = null,
        public ?string $greatest = null,
        public ?int $shortest = null,
        public ?int $longest = null,
        public ?float $average = null,
        public array $frequent = [],
        public int $frequentOf = 0,
        public array $histogram = [],
        public array $shapes = [],
        public string $likely = '',
        public int $percent = 0,
        public string $personal = '',
        public int $beyond = 0,
        public string $allowed = '',
        public ?int $broken = null,
        public array $breaking = [],
        public ?array $lists = null,
    ) {
    }

    /**
     * The histogram as bars side by side.
     *
     * @param float $width  of the drawing, in px
     * @param float $height in px; the highest bar keeps 2 px from its top, and one of a single value is still seen
     *
     * @return list<array{x: float, y: float, width: float, height: float, from: string, to: string, count: int}>
     */
    public function bars(float $width, float $height): array
    {
        $most = max([1, ...array_column($this->histogram, 'count')]);
        $step = round($width / max(1, \count($this->histogram)), 2);
        $bars = [];
        foreach ($this->histogram as $i => $one) {
            $high = 0 === $one['count'] ? 0.0 : round(max(1.5, ($height - 2) * $one['count'] / $most), 2);
            $bars[] = ['x' => round($i * $step, 2), 'y' => $height - $high, 'width' => round(max(1, $step - 1), 2), 'height' => $high] + $one;
        }

        return $bars;
    }

    public function filled(): int
    {
        return max(0, $this->values - $this->blank);
    }
}
