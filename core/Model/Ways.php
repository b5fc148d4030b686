<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** The routes of a model along which no row becomes two: at each step there is one row at the most on the other side. */
final class Ways
{
    /** Routes between two roles that are told apart; more of them are no clearer. */
    private const MOST = 8;
    private const LONGEST = 12;

    /** @var array<string, list<Way>> */
    private array $out = [];
    /** @var array<string, list<string>> role → roles from which one step leads to it */
    private array $back = [];
    /** @var array<string, array<string, list<string>>> from → to → keys of joins */
    private array $chosen = [];
    /** @var array<string, list<list<Way>>> */
    private array $known = [];
    /** @var array<string, list<ModelJoin>> joins that have many rows at the other end, by the role at this one */
    private array $many = [];

    public function __construct(private readonly Ground $ground)
    {
        $model = $ground->model;
        foreach ($model->joins as $join) {
            if ($join->from === $join->to || !self::stands($ground, $join->from, [...$join->fields, ...\array_slice($join->where, 0, 1)])
                || !self::stands($ground, $join->to, $join->keys)) {
                continue;
            }
            // A reference is to one row; where the model says otherwise, its figures are believed and not its meaning.
            $this->put(new Way($join, true, $ground->unique($join->to, $join->keys)), !$join->toEnd->many());
            $this->put(new Way($join, false, $ground->unique($join->from, $join->fields)), !$join->fromEnd->many());
        }
        foreach ($model->choices as $choice) {
            $this->chosen[$choice->from][$choice->to] = $choice->by;
        }
    }

    /**
     * Whether a role is there, with such fields.
     *
     * @param list<string> $fields
     */
    private static function stands(Ground $ground, string $role, array $fields): bool
    {
        return [] === array_filter($fields, static fn (string $field): bool => null === $ground->table($role)?->column($field));
    }

    private function put(Way $way, bool $single): void
    {
        if ($single) {
            $this->out[$way->from()][] = $way;
            $this->back[$way->to()][] = $way->from();
        } else {
            $this->many[$way->from()][] = $way->join;
        }
    }

    /**
     * All routes that the model leaves open, the shortest first.
     *
     * @return list<list<Way>> the empty route where both are the same
     */
    public function between(string $from, string $to): array
    {
        if ($from === $to) {
            return [[]];
        }

        return $this->known["$from\0$to"] ??= $this->found($from, $to);
    }

    /** @return list<list<Way>> */
    private function found(string $from, string $to): array
    {
        $leads = [$to => true];
        for ($wave = [$to]; [] !== $wave;) {
            $next = [];
            foreach ($wave as $role) {
                foreach ($this->back[$role] ?? [] as $before) {
                    if (!isset($leads[$before])) {
                        $leads[$before] = true;
                        $next[] = $before;
                    }
                }
            }
            $wave = $next;
        }
        if (!isset($leads[$from])) {
            return [];
        }
        $routes = [];
        $this->walk($from, $to, $leads, [], [$from => true], $routes, $from);
        usort($routes, static fn (array $a, array $b): int => \count($a) <=> \count($b));

        return $routes;
    }

    /**
     * @param array<string, bool> $leads
     * @param list<Way>           $so
     * @param array<string, bool> $passed
     * @param list<list<Way>>     $routes
     */
    private function walk(string $at, string $to, array $leads, array $so, array $passed, array &$routes, string $start): void
    {
        foreach ($this->out[$at] ?? [] as $way) {
            $next = $way->to();
            if (!isset($leads[$next]) || isset($passed[$next]) || \count($routes) >= self::MOST || \count($so) >= self::LONGEST) {
                continue;
            }
            $longer = [...$so, $way];
            if (!$this->allowed($start, $next, $longer)) {
                continue;
            }
            if ($next === $to) {
                $routes[] = $longer;
            } else {
                $this->walk($next, $to, $leads, $longer, $passed + [$next => true], $routes, $start);
            }
        }
    }

    /** @param list<Way> $route */
    private function allowed(string $from, string $to, array $route): bool
    {
        $chosen = $this->chosen[$from][$to] ?? null;

        return null === $chosen || $chosen === self::keys($route);
    }

    /**
     * @param list<Way> $route
     *
     * @return list<string>
     */
    public static function keys(array $route): array
    {
        return array_map(static fn (Way $way): string => $way->join->key(), $route);
    }

    /**
     * Routes on which a row is shared among several, as the model says: there is none where one leads there that shares nothing.
     *
     * @return list<list<Way>>
     */
    public function shared(string $from, string $to): array
    {
        if ([] !== $this->between($from, $to)) {
            return [];
        }
        $routes = [];
        foreach ($this->ground->model->sharings as $sharing) {
            $there = $this->between($from, $sharing->of);
            $on = $this->between($sharing->link, $to);
            foreach ($this->stepsTo($sharing) as $step) {
                if (1 === \count($there) && 1 === \count($on)) {
                    $routes[] = [...$there[0], $step, ...$on[0]];
                }
            }
        }

        return $routes;
    }

    /** @return list<Way> from what is shared to the rows of the link */
    public function stepsTo(Sharing $sharing): array
    {
        $steps = [];
        foreach ($this->ground->model->joins as $join) {
            if ($join->from === $sharing->link && $join->to === $sharing->of && self::stands($this->ground, $join->from, $join->fields)
                && self::stands($this->ground, $join->to, $join->keys)) {
                $steps[] = new Way($join, false, true, sharing: $sharing);
            }
        }

        return $steps;
    }

    /** @return list<string> roles that a row of one leads to, by whatever routes; itself first */
    public function reached(string $from): array
    {
        $seen = [$from => true];
        for ($wave = [$from]; [] !== $wave;) {
            $next = [];
            foreach ($wave as $role) {
                foreach ($this->out[$role] ?? [] as $way) {
                    if (!isset($seen[$way->to()])) {
                        $seen[$way->to()] = true;
                        $next[] = $way->to();
                    }
                }
            }
            $wave = $next;
        }

        return array_map(strval(...), array_keys($seen));
    }

    /** @return list<ModelJoin> those at whose other end several rows stand */
    public function multiplying(string $from): array
    {
        return $this->many[$from] ?? [];
    }

    /** @param list<Way> $route */
    public static function inWords(array $route): string
    {
        if ([] === $route) {
            return 'itself';
        }
        $names = [$route[0]->from()];
        foreach ($route as $way) {
            $names[] = $way->to().' (by '.implode(' and ', array_map(static fn (array $pair): string => $pair[0], $way->pairs())).')';
        }

        return implode(' → ', $names);
    }
}
