<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

/** How much two identifiers look like names of the same thing, 0 to 1. */
final class Likeness
{
    private const KINDS = [
        'id', 'at', 'on', 'by', 'is', 'has', 'no', 'nr', 'num', 'number', 'date', 'time', 'name', 'type', 'key', 'code', 'flag', 'count', 'the', 'of', 'to',
        'from', 'in', 'text', 'value', 'url',
    ];

    /** @var array<string, array{string, list<string>, array<string, true>}> folded name, words, pairs of letters */
    private static array $known = [];

    /**
     * The greatest of: the share of letter pairs in common (Dice's coefficient), and the share of words in common, where an
     * abbreviation counts for the word it shortens (`stn_ref`, `station_reference`).
     */
    public static function of(string $a, string $b): float
    {
        if ($a === $b) {
            return 1.0;
        }
        [$foldA, $wordsA, $pairsA] = self::known($a);
        [$foldB, $wordsB, $pairsB] = self::known($b);
        if ($foldA === $foldB) {
            return 0.98;
        }
        $common = \count(array_intersect_key($pairsA, $pairsB));
        $dice = 0 === $common ? 0.0 : 2 * $common / (\count($pairsA) + \count($pairsB));
        $left = $wordsB;
        $shared = 0.0;
        foreach ($wordsA as $word) {
            foreach ($left as $i => $other) {
                $fit = match (true) {
                    $word === $other => 1.0,
                    self::shortens($word, $other) || self::shortens($other, $word) => 0.8,
                    default => 0.0,
                };
                if ($fit > 0) {
                    $shared += $fit;
                    unset($left[$i]);
                    break;
                }
            }
        }

        return max($dice, 2 * $shared / max(1, \count($wordsA) + \count($wordsB)));
    }

    /**
     * The same for what names say of their thing: words that say its kind alone (`created_at`, `deleted_at`) count for nothing.
     */
    public static function ofThings(string $a, string $b): float
    {
        if (self::known($a)[0] === self::known($b)[0]) {
            return 1.0;
        }
        $telling = static fn (string $name): string => implode('_', array_diff(self::known($name)[1], self::KINDS));
        $x = $telling($a);
        $y = $telling($b);

        return '' === $x || '' === $y ? 0.0 : self::of($x, $y);
    }

    /** Whether the letters of the one stand in the other in their order, from the first on: `qty` and `quantity`. */
    private static function shortens(string $short, string $long): bool
    {
        if (\strlen($short) < 2 || \strlen($short) >= \strlen($long) || $short[0] !== $long[0]) {
            return false;
        }
        $at = 0;
        foreach (str_split($short) as $letter) {
            $found = strpos($long, $letter, $at);
            if (false === $found) {
                return false;
            }
            $at = $found + 1;
        }

        return \strlen($short) >= 3 || \strlen($long) <= 5;
    }

    /** @return array{string, list<string>, array<string, true>} */
    private static function known(string $name): array
    {
        if (\count(self::$known) > 50000) {
            self::$known = [];
        }
        if (!isset(self::$known[$name])) {
            $words = array_values(
                array_filter(explode(
                    ' ',
                    strtolower((string) preg_replace(['/(?<=[a-z])(?=[A-Z])/', '/[^A-Za-z0-9]+/', '/(?<=[A-Za-z])(?=\d)/'], ' ', $name)),
                )),
            );
            $fold = implode('', $words);
            $pairs = [];
            for ($i = 0, $n = \strlen($fold) - 1; $i < $n; ++$i) {
                $pairs[substr($fold, $i, 2)] = true;
            }
            self::$known[$name] = [$fold, $words, $pairs];
        }

        return self::$known[$name];
    }
}
