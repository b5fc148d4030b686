<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** How wide a text will be in the three typefaces, in px. Advance widths of ASCII were read off the fonts; the rest is estimated generously. */
final class TextWidth
{
    private const TITLE = [
        30, 25, 33, 53, 46, 87, 77, 18, 30, 30, 36, 65, 21, 41, 21, 44, 81, 29, 53, 50, 57, 47, 56, 49, 54, 55, 23, 23, 65, 65, 65, 40, 98, 68, 56, 68, 71,
        49, 47, 74, 73, 27, 25, 65, 46, 102, 74, 81, 51, 81, 59, 46, 60, 71, 66, 101, 70, 62, 64, 31, 44, 31, 50, 50, 50, 52, 58, 50, 60, 54, 32, 58, 57, 24,
        24, 49, 24, 88, 57, 60, 58, 58, 39, 35, 38, 57, 48, 75, 52, 50, 47, 31, 50, 31, 65,
    ];
    private const TEXT = [
        19, 25, 39, 69, 57, 90, 74, 21, 39, 39, 48, 59, 24, 42, 25, 45, 66, 44, 56, 57, 60, 58, 61, 54, 61, 61, 25, 25, 57, 57, 57, 44, 89, 70, 65, 68, 74,
        59, 57, 73, 75, 29, 30, 68, 57, 96, 75, 82, 64, 82, 68, 59, 64, 73, 69, 103, 69, 66, 68, 38, 45, 38, 62, 41, 60, 53, 59, 49, 58, 53, 40, 54, 57, 26,
        26, 55, 26, 87, 57, 60, 59, 59, 40, 46, 41, 56, 52, 81, 54, 53, 50, 42, 27, 42, 57,
    ];

    public static function title(string $text, float $size): float
    {
        return self::measured($text, $size, self::TITLE);
    }

    public static function text(string $text, float $size): float
    {
        return self::measured($text, $size, self::TEXT);
    }

    /** Source Code Pro: 600 of 1000 for every letter, twice that for wide East Asian ones. */
    public static function code(string $text, float $size): float
    {
        return mb_strwidth($text) * 0.6 * $size;
    }

    /**
     * Shortens a text with an ellipsis until it fits.
     *
     * @param callable(string): float $width
     */
    public static function fitted(string $text, float $most, callable $width): string
    {
        if ($width($text) <= $most) {
            return $text;
        }
        $low = 0;
        $high = mb_strlen($text);
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            if ($width(mb_substr($text, 0, $middle).'…') <= $most) {
                $low = $middle;
            } else {
                $high = $middle - 1;
            }
        }

        return rtrim(mb_substr($text, 0, $low)).'…';
    }

    /** @param list<int> $table */
    private static function measured(string $text, float $size, array $table): float
    {
        $sum = 0;
        foreach (mb_str_split($text) as $letter) {
            $sum += match (true) {
                1 === \strlen($letter) && isset($table[\ord($letter) - 32]) => $table[\ord($letter) - 32],
                mb_strwidth($letter) > 1 => 100,
                default => 70,
            };
        }

        return $sum * $size / 100;
    }
}
