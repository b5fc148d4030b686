<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/** Phrases for types, with the range that people would otherwise have to work out. Dialects say their types with them. */
final class TypeWords
{
    public static function whole(int $bits, bool $unsigned): string
    {
        if (64 === $bits) {
            return $unsigned ? 'whole number, 0 or more' : 'whole number';
        }
        if (32 === $bits) {
            return $unsigned ? 'whole number, up to 4.29 billion' : 'whole number, to ±2.14 billion';
        }
        $most = 2 ** ($unsigned ? $bits : $bits - 1);

        return 'whole number, '.($unsigned ? '0' : Amount::decimal('-'.$most)).' to '.Amount::count($most - 1);
    }

    /** @param int $digits before and after the point together */
    public static function number(int $digits, int $scale, bool $unsigned): string
    {
        $scale = min($scale, $digits);
        $most = self::greatest($digits, $scale);
        if ($digits - $scale > 12) {
            $said = $scale > 0 ? 'number, '.($digits - $scale).' digits and '.Amount::of($scale, 'decimal') : 'whole number, '.$digits.' digits';

            return $said.($unsigned ? ', not negative' : '');
        }

        return (0 === $scale ? 'whole number, ' : 'number, ').($unsigned ? '0' : Amount::decimal('-'.$most)).' to '.Amount::decimal($most);
    }

    /** The greatest number of so many digits: 6 and 2 give "9999.99". */
    public static function greatest(int $digits, int $scale): string
    {
        $most = str_repeat('9', max(0, $digits - $scale));

        return ('' === $most ? '0' : $most).($scale > 0 ? '.'.str_repeat('9', $scale) : '');
    }

    public static function text(?int $most): string
    {
        return null === $most ? 'text' : 'text, up to '.Amount::of($most, 'character');
    }

    public static function fixedText(int $length): string
    {
        return $length <= 1 ? '1 character' : 'text of '.Amount::count($length).' characters';
    }

    /** @param int $decimals of the second */
    public static function fraction(int $decimals): string
    {
        return match ($decimals) {
            0 => '',
            3 => ', to the millisecond',
            6 => ', to the microsecond',
            default => ', to '.Amount::of($decimals, 'decimal').' of a second',
        };
    }

    /** @param list<string> $members */
    public static function members(array $members, bool $several): string
    {
        $shown = \array_slice($members, 0, 6);
        $more = \count($members) - \count($shown);
        $said = array_map(static fn (string $member): string => '' === $member ? '“”' : $member, $shown);

        return ($several ? 'any of ' : 'one of ').implode(', ', $said).($more > 0 ? ' and '.$more.' more' : '');
    }
}
