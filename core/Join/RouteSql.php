<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialect;

/** A route, or a tree of joins, as one statement in the dialect of its source. */
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

        return $this->statement($route->steps[0]->from(), $taken, $this->aliases($route->nodes()), $what);
    }

    /**
     * @param int        $first the node that stands after FROM
     * @param list<Step> $steps each from a node that is there already
     */
    public function tree(int $first, array $steps, string $what = '*'): string
    {
        return $this->statement($first, $steps, $this->aliases([$first, ...array_map(static fn (Step $step): int => $step->to(), $steps)]), $what);
    }

    /**
     * @param list<Step>         $steps
     * @param array<int, string> $aliases
     */
    private function statement(int $first, array $steps, array $aliases, string $what): string
    {
        $lines = ['SELECT '.$what, 'FROM '.$this->table($first, $aliases)];
        foreach ($steps as $step) {
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
            $parts[] = $this->dialect->quoted($aliases[$link->from]).'.'.$this->where($link);
        }

        return implode(' AND ', $parts);
    }

    /** The condition of a join, without the name of its table; null where all rows take part. */
    public function where(Link $link): ?string
    {
        return null === $link->where ? null : $this->dialect->quoted($link->where[0]).' = '.$this->dialect->literal($link->where[1]);
    }

    /**
     * @param list<int> $nodes
     *
     * @return array<int, string> the name of each table, with a number where two have the same
     */
    private function aliases(array $nodes): array
    {
        $aliases = $times = [];
        foreach ($nodes as $node) {
            $name = $this->places[$node]->name;
            $times[strtolower($name)] = ($times[strtolower($name)] ?? 0) + 1;
            $aliases[$node] = 1 === $times[strtolower($name)] ? $name : $name.'_'.$times[strtolower($name)];
        }

        return $aliases;
    }
}
