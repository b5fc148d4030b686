<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/**
 * Counts values in equal steps. Whole numbers have a step of their own each where they are few enough. Where a few values
 * lie so far off that all others would share one step, the steps end before them, and it is said how many there are.
 */
final readonly class Histogram
{
    private const STEPS = 20;
    private const WHOLE_STEPS = 40;
    /** Shares of the values, at each end, that may be left out; the smallest that is enough is taken. */
    private const TAILS = [0.01, 0.05];
    /** A tail is cut where it reaches this many times as far as the rest is wide. */
    private const FAR = 2.0;

    /** @param list<array{from: string, to: string, count: int}> $steps empty where all values are the same */
    private function __construct(public array $steps, public int $beyond)
    {
    }

    /**
     * @param list<string> $values numbers, or dates and instants in ISO 8601
     * @param bool         $time   they are dates
     */
    public static function of(array $values, bool $time): self
    {
        $numbers = [];
        foreach ($values as $value) {
            if ($time) {
                $stamp = strtotime($value.(1 === preg_match('/Z$|[+-]\d\d:?\d\d$/', $value) ? '' : ' UTC'));
                // A date of zeros is no date, though it would be reckoned as one.
                if (false !== $stamp && !str_starts_with($value, '0000-00-00')) {
                    $numbers[] = $stamp;
                }
            } elseif (is_numeric($value) && is_finite((float) $value)) {
                $numbers[] = (float) $value;
            }
        }
        sort($numbers);
        if (\count($numbers) < 2 || end($numbers) <= $numbers[0]) {
            return new self([], 0);
        }
        [$least, $greatest] = self::bulk($numbers);
        $within = array_values(array_filter($numbers, static fn (float|int $number): bool => $number >= $least && $number <= $greatest));
        $span = $greatest - $least;
        $whole = !$time && [] === array_filter($within, static fn (float|int $number): bool => floor($number) != $number);
        $width = $whole ? max(1.0, $span < self::WHOLE_STEPS ? 1.0 : ceil(($span + 1) / self::STEPS)) : $span / self::STEPS;
        $steps = $whole ? (int) ceil(($span + 1) / $width) : self::STEPS;
        $counts = array_fill(0, $steps, 0);
        foreach ($within as $number) {
            ++$counts[min($steps - 1, (int) floor(($number - $least) / $width))];
        }
        $words = static fn (float $number): string => $time ? gmdate(
            $span > 172800 ? 'Y-m-d' : 'Y-m-d H:i',
            (int) $number,
        ) : (string) round($number, $span < 1 ? 6 : 3);
        $step = static fn (int $i): array => [
            'from' => $words($least + $i * $width),
            'to' => $words(min($greatest, $least + ($i + 1) * $width - ($whole ? 1 : 0))),
            'count' => $counts[$i],
        ];

        return new self(array_map($step, array_keys($counts)), \count($numbers) - \count($within));
    }

    /**
     * @param non-empty-list<float|int> $sorted
     *
     * @return array{float, float} between what the steps run
     */
    private static function bulk(array $sorted): array
    {
        $last = \count($sorted) - 1;
        foreach ($last < self::STEPS ? [] : self::TAILS as $share) {
            $low = (float) $sorted[(int) ceil($share * $last)];
            $high = (float) $sorted[(int) floor((1 - $share) * $last)];
            $wide = $high - $low;
            $cutsHigh = $wide > 0 && $sorted[$last] - $high > self::FAR * $wide;
            $cutsLow = $wide > 0 && $low - $sorted[0] > self::FAR * $wide;
            if ($cutsHigh || $cutsLow) {
                return [$cutsLow ? $low : (float) $sorted[0], $cutsHigh ? $high : (float) $sorted[$last]];
            }
        }

        return [(float) $sorted[0], (float) $sorted[$last]];
    }
}
