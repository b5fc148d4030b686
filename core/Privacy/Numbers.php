<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/** Numbers that tell by their check digits what they are. */
final class Numbers
{
    /** A card: 13 to 19 digits, of which the last is right (Luhn, ISO/IEC 7812-1), beginning as those of payment do. */
    public static function isCard(string $value): bool
    {
        $digits = (string) preg_replace('/[ -]/', '', trim($value));
        if (1 !== preg_match('/^(?:4\d{12}(?:\d{3}){0,2}|5[0-9]\d{14}|2[2-7]\d{14}|3[4-9]\d{12,14}|6\d{15,18})$/', $digits)) {
            return false;
        }
        $sum = 0;
        foreach (array_reverse(str_split($digits)) as $i => $digit) {
            $double = (int) $digit * (1 + $i % 2);
            $sum += $double > 9 ? $double - 9 : $double;
        }

        return 0 === $sum % 10;
    }

    /** A bank account: a country, two check digits, and the rest (ISO 13616, remainder by 97). */
    public static function isIban(string $value): bool
    {
        $plain = strtoupper((string) preg_replace('/\s+/', '', $value));
        if (1 !== preg_match('/^[A-Z]{2}\d{2}[A-Z0-9]{11,30}$/', $plain)) {
            return false;
        }
        $rest = 0;
        foreach (str_split(substr($plain, 4).substr($plain, 0, 4)) as $sign) {
            $number = ctype_alpha($sign) ? (string) (\ord($sign) - 55) : $sign;
            foreach (str_split($number) as $digit) {
                $rest = ($rest * 10 + (int) $digit) % 97;
            }
        }

        return 1 === $rest;
    }
}
