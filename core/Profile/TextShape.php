<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** The shape of a text: `A` for a capital, `a` for a small letter, `9` for a digit; a run of more than four is shortened. */
final class TextShape
{
    public static function of(string $text): string
    {
        $shape = (string) preg_replace(['/\p{Lu}/u', '/\p{Ll}|\p{Lo}|\p{Lm}/u', '/\p{Nd}/u', '/\s+/u'], ["\x01", "\x02", '9', ' '], mb_substr($text, 0, 120));
        $shape = (string) preg_replace_callback('/(\x01|\x02|9)\1{4,}/', static fn (array $m): string => $m[1].'…', $shape);
        $shape = strtr($shape, ["\x01" => 'A', "\x02" => 'a']);

        return mb_strimwidth((string) preg_replace('/(?:[Aa][a…]*[ ,.]+){4,}/u', 'words … ', $shape), 0, 48, '…');
    }

    /**
     * @param list<string> $values
     *
     * @return array<string, int> the most frequent shapes with how many values have each
     */
    public static function counted(array $values, int $most = 10): array
    {
        $counts = [];
        foreach ($values as $value) {
            $shape = self::of($value);
            $counts[$shape] = ($counts[$shape] ?? 0) + 1;
        }
        arsort($counts);
        $shapes = [];
        foreach (\array_slice($counts, 0, $most, true) as $shape => $count) {
            $shapes[(string) $shape] = $count;
        }

        return $shapes;
    }
}
