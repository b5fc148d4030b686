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

    public static function singular(string $noun): string
    {
        [$head, $last] = self::split($noun);
        if (\in_array($last, self::UNCHANGED, true) || isset(self::IRREGULAR[$last])) {
            return $noun;
        }
        $irregular = array_search($last, self::IRREGULAR, true);
        $found = match (true) {
            false !== $irregular => $irregular,
            1 === preg_match(self::ENDS_IN_IE, $last) => substr($last, 0, -1),
            1 === preg_match('/[^aeiou]ies$/', $last) => substr($last, 0, -3).'y',
            1 === preg_match('/(ss|(?<![aeo])us|sh|ch|x|z)es$/', $last) => substr($last, 0, -2),
            1 === preg_match('/[^sui]s$/', $last) => substr($last, 0, -1),
            default => $last,
        };

        return $head.$found;
    }

    public static function plural(string $noun): string
    {
        [$head, $last] = self::split($noun);
        $found = match (true) {
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

    /** "a" or "an", by the sound the noun begins with, with the capital a sentence needs. */
    public static function withArticle(string $noun, bool $capital = false): string
    {
        $vowel = 1 === preg_match('/^([aeiou]|hour|honest|heir|[fhlmnrsx]\d)/i', $noun)
            && 0 === preg_match('/^(uni[^mn]|unit|use|user|usu|eu|one\b|u[rt][aei])/i', $noun);

        return ($capital ? 'A' : 'a').($vowel ? 'n ' : ' ').$noun;
    }

    /** @return array{string, string} everything before the last word, and the last word */
    private static function split(string $noun): array
    {
        $at = strrpos($noun, ' ');

        return false === $at ? ['', $noun] : [substr($noun, 0, $at + 1), substr($noun, $at + 1)];
    }
}
