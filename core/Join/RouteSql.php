<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialect;

/** A route as one statement in the dialect of its source. */
final readonly class RouteSql
{
    /** @param array<int, Place> $places of the nodes */
    public function __construct(private Dialect $dialect, private array $places)
    {
    }

    /** @param int $steps only so many of its joins; all where it is below 0 */
    public function select(Route $route, int $steps = -1, string $what = '*'): string
    {
        $taken = $steps < 0 ? $route->steps : \array_slice($route->steps, 0, $steps);
        $aliases = $this->aliases($route);
        $first = $route->steps[0]->from();
        $lines = ['SELECT '.$what, 'FROM '.$this->table($first, $aliases)];
        foreach ($taken as $step) {
            $lines[] = 'JOIN '.$this->table($step->to(), $aliases).' ON '.$this->on($step, $aliases);
        }

        return implode("\n", $lines);
    }

    /** @param array<int, string> $aliases */
    private function table(int $node, array $aliases): string
    {
        $place = $this->places[$node];
        $alias = $this->dialect->quoted($aliases[$node]);

        return $this->dialect->placed($place).($aliases[$node] === $place->name ? '' : ' AS '.$alias).('' !== $place->schema
            && $aliases[$node] === $place->name ? ' AS '.$alias : '');
    }

    /** @param array<int, string> $aliases */
    private function on(Step $step, array $aliases): string
    {
        $of = fn (int $node, string $field): string => $this->dialect->quoted($aliases[$node]).'.'.$this->dialect->quoted($field);
        $link = $step->link;
        $parts = array_map(
            static fn (array $pair): string => $step->forth
                ? $of($link->to, $pair[1]).' = '.$of($link->from, $pair[0])
                : $of($link->from, $pair[0]).' = '.$of($link->to, $pair[1]),
            $link->pairs,
        );
        if (null !== $link->where) {
            $parts[] = $of($link->from, $link->where[0])." = '".str_replace("'", "''", $link->where[1])."'";
        }

        return implode(' AND ', $parts);
    }

    /** @return array<int, string> the name of each table, with a number where two have the same */
    private function aliases(Route $route): array
    {
        $aliases = $times = [];
        foreach ($route->nodes() as $node) {
            $name = $this->places[$node]->name;
            $times[strtolower($name)] = ($times[strtolower($name)] ?? 0) + 1;
            $aliases[$node] = 1 === $times[strtolower($name)] ? $name : $name.'_'.$times[strtolower($name)];
        }

        return $aliases;
    }
}
