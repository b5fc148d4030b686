<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** Counts values in equal steps from the least to the greatest. */
final class Histogram
{
    private const STEPS = 20;

    /**
     * @param list<string> $values numbers, or dates and instants in ISO 8601
     * @param bool         $time   they are dates
     *
     * @return list<array{from: string, to: string, count: int}> empty where all values are the same
     */
    public static function of(array $values, bool $time): array
    {
        $numbers = [];
        foreach ($values as $value) {
            if ($time) {
                $stamp = strtotime($value.(1 === preg_match('/Z$|[+-]\d\d:?\d\d$/', $value) ? '' : ' UTC'));
                if (false !== $stamp) {
                    $numbers[] = $stamp;
                }
            } elseif (is_numeric($value)) {
                $numbers[] = (float) $value;
            }
        }
        if (\count($numbers) < 2 || max($numbers) <= min($numbers)) {
            return [];
        }
        $least = min($numbers);
        $whole = [] === array_filter($numbers, static fn (float|int $number): bool => floor($number) != $number);
        $span = max($numbers) - $least;
        $steps = (int) max(1, min(self::STEPS, $whole && !$time ? $span + 1 : self::STEPS));
        $width = $whole && !$time ? max(1.0, ceil(($span + 1) / $steps)) : $span / $steps;
        $counts = array_fill(0, $steps, 0);
        foreach ($numbers as $number) {
            ++$counts[min($steps - 1, (int) floor(($number - $least) / $width))];
        }
        $words = static fn (float $number): string => $time ? gmdate($span > 172800 ? 'Y-m-d' : 'Y-m-d H:i', (int) $number) : (string) round($number, $span < 1 ? 6 : 3);

        return array_map(static fn (int $i): array => ['from' => $words($least + $i * $width), 'to' => $words($least + ($i + 1) * $width), 'count' => $counts[$i]], array_keys($counts));
    }
}
