<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

/** Pairs what is gone with what is new. */
final class Pairing
{
    /**
     * Takes a pair when each is the best match of the other, the score is high enough, and no second candidate comes near:
     * a rename that is not beyond doubt is not offered.
     *
     * @param array<int, array<int, float>> $scores gone → new → score
     *
     * @return array<int, int> gone → new
     */
    public static function mutual(array $scores, float $least, float $lead): array
    {
        $byNew = [];
        foreach ($scores as $gone => $row) {
            foreach ($row as $new => $score) {
                $byNew[$new][$gone] = $score;
            }
        }
        $pairs = [];
        foreach ($scores as $gone => $row) {
            [$new, $score, $second] = self::best($row);
            if (null === $new || $score < $least || $score - $second < $lead) {
                continue;
            }
            [$back, , $other] = self::best($byNew[$new]);
            if ($back === $gone && $score - $other >= $lead) {
                $pairs[$gone] = $new;
            }
        }

        return $pairs;
    }

    /**
     * @param array<int, float> $row
     *
     * @return array{?int, float, float} the best, its score, and the score of the second
     */
    private static function best(array $row): array
    {
        $best = null;
        $score = $second = 0.0;
        foreach ($row as $key => $value) {
            if ($value > $score || null === $best) {
                $second = $score;
                $score = $value;
                $best = $key;
            } elseif ($value > $second) {
                $second = $value;
            }
        }

        return [$best, $score, $second];
    }
}
