<?php

declare(strict_types=1);

namespace Fasti\Core\Wording;

/**
 * English nouns for sentences about rows. Endings follow the regular rules and a short list of exceptions; a noun that is
 * already plural (tables are named either way) is first brought to its singular.
 */
final class Noun
{
    private const IRREGULAR = [
        'person' => 'people', 'child' => 'children', 'man' => 'men', 'woman' => 'women', 'foot' => 'feet', 'datum' => 'data',
        'analysis' => 'analyses', 'basis' => 'bases', 'criterion' => 'criteria', 'index' => 'indexes', 'life' => 'lives', 'half' => 'halves',
    ];
    /** What ends in `ie` alone, and not in `y`. */
    private const ENDS_IN_IE = '/(?:^|[^a-z])(?:t|p|l|d|mov|cook|calor|zomb|self|prair|gen|hood|brown|budg|rook|eyr|neckt)ies$/';
    private const UNCHANGED = ['species', 'series', 'fish', 'sheep', 'equipment', 'information', 'staff', 'news', 'metadata', 'status', 'history', 'means'];

    /** @var array<string, string> */
    private static array $plurals = [];

    public static function singular(string $noun): string
    {
        [$head, $last] = self::split($noun);
        if (\in_array($last, self::UNCHANGED, true) || isset(self::IRREGULAR[$last]) || self::stands($last)) {
            return $noun;
        }
        $irregular = array_search($last, self::IRREGULAR, true);
        $found = match (true) {
            false !== $irregular => $irregular,
            isset(EnglishNouns::SINGULAR[$last]) => EnglishNouns::SINGULAR[$last],
            1 === preg_match('/[^z]zes$/', $last) => substr($last, 0, -1),
            1 === preg_match(self::ENDS_IN_IE, $last) => substr($last, 0, -1),
            1 === preg_match('/[^aeiou]ies$/', $last) => substr($last, 0, -3).'y',
            1 === preg_match('/(ss|(?<![aeo])us|sh|ch|x|z)es$/', $last) => substr($last, 0, -2),
            1 === preg_match('/[^sui]s$/', $last) => substr($last, 0, -1),
            default => $last,
        };

        return $head.$found;
    }

    /** Whether it ends in `s` without being several: a word such as lens, or a short form such as CRS. */
    private static function stands(string $word): bool
    {
        return \in_array($word, EnglishNouns::AS_THEY_STAND, true) || 'os' === strtolower($word)
            || 1 === preg_match('/^[^aeiouy]{1,3}$/i', $word) || 1 === preg_match('/^[A-Z]{2,4}S$/', $word);
    }

    public static function plural(string $noun): string
    {
        [$head, $last] = self::split($noun);
        $irregular = self::irregular();
        $found = match (true) {
            isset($irregular[$last]) => $irregular[$last],
            // What is several already stays so.
            $last !== self::singular($last) && !isset(self::IRREGULAR[$last]) && self::plural(self::singular($last)) === $last => $last,
            \in_array($last, ['status', 'history'], true) => 'status' === $last ? 'statuses' : 'histories',
            \in_array($last, self::UNCHANGED, true) => $last,
            isset(self::IRREGULAR[$last]) => self::IRREGULAR[$last],
            1 === preg_match('/[^aeiou]y$/', $last) => substr($last, 0, -1).'ies',
            1 === preg_match('/(s|sh|ch|x|z)$/', $last) => $last.'es',
            1 === preg_match('/\d$/', $last) => $last.' rows',
            default => $last.'s',
        };

        return $head.$found;
    }

    /** @return array<string, string> singular → plural, where it is no regular one */
    private static function irregular(): array
    {
        if ([] === self::$plurals) {
            self::$plurals = self::IRREGULAR;
            foreach (EnglishNouns::SINGULAR as $plural => $singular) {
                self::$plurals[$singular] ??= $plural;
            }
        }

        return self::$plurals;
    }

    /** "a" or "an", by the sound the noun begins with, with the capital a sentence needs. */
    public static function withArticle(string $noun, bool $capital = false): string
    {
        $first = (string) preg_replace('/[^\p{L}\p{N}].*$/su', '', $noun);
        // Short forms are read letter by letter.
        $vowel = 1 === preg_match('/^[^aeiouy]{2,}$/i', $first) || 1 === preg_match('/^[B-DF-HJ-NP-TV-Z]{2}[A-Z]{0,3}$/', $first)
            ? 1 === preg_match('/^[aefhilmnorsx]/i', $first)
            : 1 === preg_match('/^([aeiou]|hour|honest|honou?r|heir|[fhlmnrsx]\d|8|11\b|18\b)/i', $noun)
                && 0 === preg_match('/^(uni[^dmn]|unit|use|user|usu|usag|eu|one\b|once\b|u[rt][aei]|uuid|ubiq|ur[il]\b|usb\b|utc\b|ui\b|ux\b)/i', $noun);

        return ($capital ? 'A' : 'a').($vowel ? 'n ' : ' ').$noun;
    }

    /** @return array{string, string} everything before the last word, and the last word */
    private static function split(string $noun): array
    {
        $at = strrpos($noun, ' ');

        return false === $at ? ['', $noun] : [substr($noun, 0, $at + 1), substr($noun, $at + 1)];
    }
}
