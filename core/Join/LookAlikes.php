<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

/** Routes that pass the same nodes, and by which of their joins they can be told apart. */
final class LookAlikes
{
    /**
     * @param list<Route> $routes
     *
     * @return list<array<int, string>> for each route: step → the fields that refer there, where a route over the same nodes goes by others
     */
    public static function told(array $routes): array
    {
        $by = [];
        foreach ($routes as $number => $route) {
            foreach ($route->steps as $at => $step) {
                $by[implode('-', $route->nodes())][$at][self::fields($step)][] = $number;
            }
        }
        $told = array_fill(0, \count($routes), []);
        foreach ($by as $steps) {
            foreach ($steps as $at => $ways) {
                foreach (\count($ways) > 1 ? $ways : [] as $fields => $numbers) {
                    foreach ($numbers as $number) {
                        $told[$number][$at] = (string) $fields;
                    }
                }
            }
        }

        return $told;
    }

    private static function fields(Step $step): string
    {
        $link = $step->link;

        return implode(', ', array_column($link->pairs, 0)).(null === $link->where ? '' : " where {$link->where[0]} is {$link->where[1]}");
    }
}
