<?php

declare(strict_types=1);

namespace Fasti\Core\Search;

/** Distance between two words in single-letter slips: insert, delete, replace, swap of neighbours. */
final class Typo
{
    /**
     * Optimal string alignment distance (Damerau 1964, restricted form), abandoned as soon as it must exceed `$most`.
     *
     * @return int|null null when the distance is greater than `$most`
     */
    public static function distance(string $a, string $b, int $most): ?int
    {
        $a = mb_str_split($a);
        $b = mb_str_split($b);
        $n = \count($a);
        $m = \count($b);
        if (abs($n - $m) > $most) {
            return null;
        }
        $before = [];
        $above = range(0, $m);
        for ($i = 1; $i <= $n; ++$i) {
            $row = [$i];
            for ($j = 1; $j <= $m; ++$j) {
                $row[$j] = min($above[$j] + 1, $row[$j - 1] + 1, $above[$j - 1] + ($a[$i - 1] === $b[$j - 1] ? 0 : 1));
                if ($i > 1 && $j > 1 && $a[$i - 1] === $b[$j - 2] && $a[$i - 2] === $b[$j - 1]) {
                    $row[$j] = min($row[$j], $before[$j - 2] + 1);
                }
            }
            if (min($row) > $most) {
                return null;
            }
            $before = $above;
            $above = $row;
        }

        return $above[$m] <= $most ? $above[$m] : null;
    }

    /** How many slips are forgiven in a word of this length. */
    public static function allowance(int $length): int
    {
        return match (true) {
            $length < 4 => 0,
            $length < 8 => 1,
            default => 2,
        };
    }
}
