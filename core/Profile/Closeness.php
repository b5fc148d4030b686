<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

/** How much two fields look alike by what they hold, 0 to 1. */
final class Closeness
{
    /** @return ?float null where there is too little to go by */
    public static function of(FieldProfile $a, FieldProfile $b): ?float
    {
        if ($a->filled() < 10 || $b->filled() < 10) {
            return null;
        }
        $parts = [1 - min(1.0, 4 * abs($a->filled() / max(1, $a->rows) - $b->filled() / max(1, $b->rows)))];
        if (null !== $a->distinct && null !== $b->distinct) {
            $parts[] = min($a->distinct, $b->distinct) / max(1, $a->distinct, $b->distinct);
        }
        if ([] !== $a->frequent && [] !== $b->frequent) {
            $parts[] = $parts[] = self::overlap($a->frequent, $b->frequent);
        }
        if ([] !== $a->shapes && [] !== $b->shapes) {
            $parts[] = self::overlap($a->shapes, $b->shapes);
        }
        if (null !== $a->least && null !== $b->least) {
            $parts[] = (($a->least === $b->least ? 1 : 0) + ($a->greatest === $b->greatest ? 1 : 0)) / 2;
        }
        if ('' !== $a->likely || '' !== $b->likely) {
            $parts[] = $a->likely === $b->likely ? 1.0 : 0.0;
        }

        return array_sum($parts) / \count($parts);
    }

    /**
     * The share that two distributions have in common: the sum of the lesser of both shares.
     *
     * @param array<string, int> $a
     * @param array<string, int> $b
     */
    private static function overlap(array $a, array $b): float
    {
        $common = 0.0;
        foreach ($a as $key => $count) {
            $common += min($count / array_sum($a), ($b[$key] ?? 0) / array_sum($b));
        }

        return $common;
    }
}
