<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

/** Gives each step the lane in which its rows go on, so that branches can be drawn as rails beside the list. */
final class Lanes
{
    /**
     * @param list<array{kind: string, words: string, detail: string, rows: string, inputs: list<int>, schema: string, table: string, named: string,
     *     many: bool}> $steps
     *
     * @return list<Step>
     */
    public static function of(array $steps): array
    {
        $open = $result = [];
        foreach ($steps as $i => $step) {
            $merging = [];
            $lane = null;
            foreach ($step['inputs'] as $input) {
                $of = array_search($input, $open, true);
                if (false === $of) {
                    continue;
                }
                if (null === $lane) {
                    $lane = $of;
                } else {
                    $merging[] = $of;
                    unset($open[$of]);
                }
            }
            $lane ??= self::free($open);
            $open[$lane] = $i;
            ksort($open);
            $result[] = new Step(
                $step['kind'],
                $step['words'],
                $step['detail'],
                $step['rows'],
                $step['inputs'],
                $lane,
                array_values(array_diff(array_keys($open), [$lane])),
                $merging,
                $step['schema'],
                $step['table'],
                $step['named'],
                $step['many'],
            );
        }

        return $result;
    }

    /** @param array<int, int> $open */
    private static function free(array $open): int
    {
        $lane = 0;
        while (isset($open[$lane])) {
            ++$lane;
        }

        return $lane;
    }
}
