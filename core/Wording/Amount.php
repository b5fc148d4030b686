<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/** Figures as people read them. */
final class Amount
{
    /** A decimal of any length with its thousands separated and a true minus sign: "-9999.99" → "−9,999.99". */
    public static function decimal(string $number): string
    {
        $negative = str_starts_with($number, '-');
        [$whole, $fraction] = explode('.', ltrim($number, '-'), 2) + [1 => ''];
        $whole = preg_replace('/\B(?=(\d{3})+$)/', ',', $whole) ?? $whole;

        return ($negative ? '−' : '').$whole.('' === $fraction ? '' : '.'.$fraction);
    }

    public static function count(int $number): string
    {
        return self::decimal((string) $number);
    }

    /** "1 table", "2,000 tables" */
    public static function of(int $number, string $noun): string
    {
        return self::count($number).' '.(1 === $number ? $noun : Noun::plural($noun));
    }

    /** Binary units, rounded to what one would say: "1.4 MB", "312 KB". */
    public static function bytes(int $bytes): string
    {
        foreach (['TB' => 1024 ** 4, 'GB' => 1024 ** 3, 'MB' => 1024 ** 2, 'KB' => 1024] as $unit => $size) {
            if ($bytes >= $size) {
                return number_format($bytes / $size, $bytes / $size < 10 ? 1 : 0).' '.$unit;
            }
        }

        return $bytes.' bytes';
    }

    /** A share as a whole per cent that says 100 only for all, and 0 only for none. */
    public static function percent(int $part, int $whole): int
    {
        if ($whole <= 0 || $part <= 0) {
            return 0;
        }

        return $part >= $whole ? 100 : max(1, min(99, (int) round(100 * $part / $whole)));
    }
}
