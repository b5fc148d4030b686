<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * Figures and words as they stand in SVG.
 *
 * @internal
 */
final class SvgText
{
    public static function number(float|int $value): string
    {
        return (string) round($value, 1);
    }

    public static function escape(string $text): string
    {
        return htmlspecialchars(
            preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '', mb_scrub($text)) ?? '',
            \ENT_QUOTES | \ENT_XML1,
        );
    }

    /** @param array<string, string|float|int> $attributes */
    public static function text(string $words, array $attributes): string
    {
        return '<text'.self::attributes($attributes).'>'.self::escape($words).'</text>';
    }

    /** @param array<string, string|float|int> $attributes */
    public static function attributes(array $attributes): string
    {
        $svg = '';
        foreach ($attributes as $name => $value) {
            $svg .= ' '.$name.'="'.(\is_string($value) ? self::escape($value) : self::number($value)).'"';
        }

        return $svg;
    }
}
