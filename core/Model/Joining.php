<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/** What stands after FROM: a fact, and what each of its rows leads to, at most one row each. */
final class Joining
{
    /** @var array<string, string> keys of the joins that lead there → alias */
    private array $aliases = [];
    /** @var array<string, list<Way>> alias → route */
    private array $routes = [];
    /** @var array<string, string> alias → alias from which its last step goes */
    private array $before = [];
    /** @var array<string, array<string, true>> alias → fields that are needed of it, where its rows are made different first */
    private array $needed = [];
    /** @var array<string, true> */
    private array $taken = [];

    public readonly string $base;

    public function __construct(
        private readonly Ground $ground,
        private readonly AskSql $sql,
        public readonly string $fact,
        private readonly bool $trusting = false,
        public readonly ?Shift $shift = null,
        private readonly string $prefix = '',
    ) {
        $this->base = $this->alias($fact);
        $this->aliases[''] = $this->base;
        $this->routes[$this->base] = [];
    }

    private function alias(string $role): string
    {
        $plain = $this->prefix.trim(mb_strtolower((string) preg_replace('/[^A-Za-z0-9]+/', '_', $role)), '_');
        $plain = 1 === preg_match('/^[a-z]/', $plain) ? substr($plain, 0, 40) : 'r_'.substr($plain, 0, 40);
        $alias = $plain;
        for ($n = 2; isset($this->taken[$alias]); ++$n) {
            $alias = $plain.'_'.$n;
        }
        $this->taken[$alias] = true;

        return $alias;
    }

    /**
     * The alias of what a route leads to; joined where it is not yet.
     *
     * @param list<Way> $route
     */
    public function at(array $route): string
    {
        $key = implode("\n", array_map(
            static fn (Way $way): string => ($way->forth ? '+' : '-').(null === $way->shift ? '' : 'later '.$way->shift->only.' ').$way->join->key(),
            $route,
        ));
        if (isset($this->aliases[$key])) {
            return $this->aliases[$key];
        }
        $last = $route[\count($route) - 1];
        $before = $this->at(\array_slice($route, 0, -1));
        $alias = $this->alias($last->to());
        $this->aliases[$key] = $alias;
        $this->routes[$alias] = $route;
        $this->before[$alias] = $before;
        foreach ($last->pairs() as [$here, $there]) {
            $this->need($before, $here);
            $this->need($alias, $there);
        }
        if ([] !== $last->join->where) {
            $this->need($last->forth ? $before : $alias, $last->join->where[0]);
        }

        return $alias;
    }

    /** A field, as it stands in the query. */
    public function field(string $alias, string $column): string
    {
        $this->need($alias, $column);

        return $this->sql->name($alias).'.'.$this->sql->name($column);
    }

    private function need(string $alias, string $column): void
    {
        $this->needed[$alias][$column] = true;
    }

    /** @return list<SqlLine> */
    public function lines(string $indent): array
    {
        $lines = [new SqlLine($indent.'FROM '.$this->named($this->ground->role($this->fact)->entry, $this->base), 'every row of '.$this->fact)];
        if (null !== $this->shift) {
            $does = 'each once as it is, and once more for each time that it is looked at from later';
            $lines[] = new SqlLine("$indent  CROSS JOIN ".$this->shift->times(), $does);
        }
        foreach ($this->routes as $alias => $route) {
            if ([] === $route) {
                continue;
            }
            $way = $route[\count($route) - 1];
            if (null !== $way->shift?->only) {
                continue;
            }
            $on = $this->on($alias, $way);
            $table = $this->withLater($alias, $this->table($alias, $way));
            $lines[] = new SqlLine("$indent  LEFT JOIN $table ON $on", match (true) {
                null !== $way->sharing => $way->sharing->inWords(),
                $way->proven || $this->trusting => 'at most one '.$way->to().' to each row: '.($way->proven ? 'its key sees to that' : 'so it is believed'),
                default => 'no key keeps '.$way->to().' from standing twice, so it is looked at before the answer',
            });
        }

        return $lines;
    }

    private function table(string $alias, Way $way): string
    {
        return match (true) {
            null !== $way->sharing => $this->parts($alias, $way, $way->sharing),
            // A table of its own, even where it is one row: an engine that joins the later dates last computes them for each row of the fact.
            ($way->proven || $this->trusting) && null === $way->shift => $this->named($this->ground->role($way->to())->entry, $alias),
            default => '('.$this->different($alias, $way).') AS '.$this->sql->name($alias),
        };
    }

    /** A calendar with the rows of later dates beside its own: few are brought together before many rows of a fact lead there. */
    private function withLater(string $alias, string $table): string
    {
        foreach ($this->routes as $late => $route) {
            $way = [] === $route ? null : $route[\count($route) - 1];
            if (null !== $way?->shift?->only && $this->before[$late] === $alias) {
                $table = "($table LEFT JOIN ".$this->table($late, $way).' ON '.$this->on($late, $way).')';
            }
        }

        return $table;
    }

    /** The rows of a link, each with its part of the row that is shared. */
    private function parts(string $alias, Way $way, Sharing $sharing): string
    {
        $entry = $this->sql->table($this->ground->role($way->to())->entry);
        if (Shared::InEach === $sharing->how) {
            return $this->named($this->ground->role($way->to())->entry, $alias);
        }
        $over = 'OVER (PARTITION BY '.implode(', ', array_map(fn (array $pair): string => $this->sql->name($pair[1]), $way->pairs())).')';
        $part = $this->sql->divided('1', "COUNT(*) $over");
        if (Shared::ByWeight === $sharing->how) {
            $tree = $this->ground->formula($sharing->link, $sharing->weight)->tree ?? throw new \LogicException('The planner has seen to it.');
            $weight = (new FormulaSql($this->sql, fn (Ref $ref): string => $this->sql->name(
                $this->ground->column($sharing->link, $ref->names[\count($ref->names) - 1])->name ?? '',
            )))->of($tree);
            // What weighs nothing, or less, has no part; where all weigh nothing, the parts are equal.
            $weighs = "CASE WHEN $weight > 0 THEN $weight ELSE 0 END";
            $part = "CASE WHEN SUM($weighs) $over > 0 THEN ".$this->sql->divided("($weighs)", "SUM($weighs) $over")." ELSE $part END";
        }
        $fields = array_map($this->sql->name(...), array_map(strval(...), array_keys($this->needed[$alias] ?? [])));

        return '(SELECT '.implode(', ', $fields).", $part AS shared_part FROM $entry) AS ".$this->sql->name($alias);
    }

    /** What a row of the fact counts for where it is shared; null where each counts whole. */
    public function part(): ?string
    {
        foreach ($this->routes as $alias => $route) {
            $sharing = [] === $route ? null : $route[\count($route) - 1]->sharing;
            if (null !== $sharing && Shared::InEach !== $sharing->how) {
                return 'COALESCE('.$this->sql->name($alias).'.shared_part, 1)';
            }
        }

        return null;
    }

    private function named(\Fasti\Core\Catalog\Place $entry, string $alias): string
    {
        $name = $this->sql->name($alias);

        return $this->sql->table($entry).($entry->name === $alias ? '' : " AS $name");
    }

    private function on(string $alias, Way $way): string
    {
        $before = $this->before[$alias];
        $name = fn (string $of, string $column): string => $this->sql->name($of).'.'.$this->sql->name($column);
        $here = fn (string $column): string => null === $way->shift ? $name($before, $column) : $way->shift->later($this->sql, $name($before, $column));
        $on = array_map(static fn (array $pair): string => $name($alias, $pair[1]).' = '.$here($pair[0]), $way->pairs());
        if ([] !== $way->join->where) {
            $on[] = $this->sql->name($way->forth ? $before : $alias).$this->ground->only($way->join);
        }

        return implode(' AND ', $on);
    }

    /** What is needed of a table, each different row once. */
    private function different(string $alias, Way $way): string
    {
        $fields = array_map($this->sql->name(...), array_map(strval(...), array_keys($this->needed[$alias] ?? [])));

        return 'SELECT DISTINCT '.implode(', ', $fields).' FROM '.$this->sql->table($this->ground->role($way->to())->entry);
    }

    /**
     * Questions that must find nothing: rows of what no key tells apart that differ in what is asked for.
     *
     * @return list<Guard>
     */
    public function guards(): array
    {
        $guards = [];
        foreach ($this->routes as $alias => $route) {
            $way = [] === $route ? null : $route[\count($route) - 1];
            if (null !== $way && [] !== $route && null !== ($route[\count($route) - 2] ?? null)?->sharing) {
                $guards += $this->twice($route[\count($route) - 2], $way);
            }
            if (null === $way || $way->proven || $this->trusting) {
                continue;
            }
            $keys = array_map(static fn (array $pair): string => $pair[1], $way->pairs());
            $names = array_map($this->sql->name(...), $keys);
            $where = array_map(static fn (string $name): string => "$name IS NOT NULL", $names);
            if ([] !== $way->join->where && !$way->forth) {
                [$field, $value] = $way->join->where;
                $where[] = $this->sql->name($field).' = '.$this->sql->text($value);
            }
            $list = implode(', ', $names);
            $sql = "SELECT $list, COUNT(*) AS stands FROM (".$this->different($alias, $way).') AS d WHERE '.implode(' AND ', $where)
                ." GROUP BY $list HAVING COUNT(*) > 1";
            $on = implode(' AND ', array_map(static fn (string $name): string => "d.$name = g.$name", $names));
            $shown = 'SELECT d.* FROM ('.$this->different($alias, $way).") AS d JOIN ($sql) AS g ON $on ORDER BY ".implode(', ', array_map(
                static fn (string $name): string => "d.$name",
                $names,
            )).' '.$this->sql->limited(20);
            $guards[$sql] = new Guard($way, $keys, $sql, array_map(strval(...), array_keys($this->needed[$alias] ?? [])), $shown);
        }

        return array_values($guards);
    }

    /**
     * What a link says twice would count twice.
     *
     * @return array<string, Guard>
     */
    private function twice(Way $step, Way $on): array
    {
        $here = array_map(static fn (array $pair): string => $pair[1], $step->pairs());
        $there = array_map(static fn (array $pair): string => $pair[0], $on->pairs());
        $fields = array_values(array_unique([...$here, ...$there]));
        if ($this->ground->unique($step->to(), $fields)) {
            return [];
        }
        $names = array_map($this->sql->name(...), $fields);
        $list = implode(', ', $names);
        $entry = $this->sql->table($this->ground->role($step->to())->entry);
        $where = implode(' AND ', array_map(static fn (string $name): string => "$name IS NOT NULL", $names));
        $sql = "SELECT $list, COUNT(*) AS stands FROM $entry WHERE $where GROUP BY $list HAVING COUNT(*) > 1";

        return [$sql => new Guard($step, $fields, $sql, $fields, "$sql ORDER BY $list ".$this->sql->limited(20))];
    }

    /**
     * For each step, the condition that a row of the fact comes to its beginning and finds nothing at its end.
     *
     * @return list<array{Way, list<Way>, string, string}> the step, the route to it, the condition, and that with a reference that leads nowhere
     */
    public function losing(): array
    {
        $losing = [];
        foreach ($this->routes as $alias => $route) {
            if ([] === $route) {
                continue;
            }
            $way = $route[\count($route) - 1];
            if (null !== $way->sharing) {
                continue;
            }
            $before = $this->before[$alias];
            $conditions = [$this->field($alias, $way->pairs()[0][1]).' IS NULL'];
            $earlier = $this->routes[$before];
            if ([] !== $earlier) {
                $conditions[] = $this->field($before, $earlier[\count($earlier) - 1]->pairs()[0][1]).' IS NOT NULL';
            }
            $lost = implode(' AND ', $conditions);
            $held = implode(' AND ', array_map(fn (array $pair): string => $this->field($before, $pair[0]).' IS NOT NULL', $way->pairs()));
            $losing[] = [$way, $route, $lost, "$lost AND $held"];
        }

        return $losing;
    }
}
