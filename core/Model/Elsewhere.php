<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What a condition says of rows that stand elsewhere: which rows have which, and through what they are found. */
final readonly class Elsewhere
{
    public function __construct(private Ground $ground, private Condition $condition)
    {
    }

    /** The role whose rows have something. */
    public function of(): string
    {
        return (string) $this->ground->roleNamed($this->condition->what);
    }

    /** The role of which they have a row. */
    public function sought(): string
    {
        return (string) $this->ground->roleNamed($this->condition->values[0] ?? '');
    }

    /** The role whose rows are gone over: the one that is sought, or a link that leads to both. */
    public function from(): string
    {
        return $this->links()[0] ?? $this->sought();
    }

    /** @return list<string> roles of which each row leads to a row of both by one route; the sought one, where it leads there itself */
    private function links(): array
    {
        $of = $this->of();
        $sought = $this->sought();
        if ($of === $sought) {
            return [];
        }
        $ways = $this->ground->ways();
        if ([] !== $ways->between($sought, $of)) {
            return [$sought];
        }
        $links = [];
        foreach ($this->ground->model->roles as $role) {
            $between = [$ways->between($role->name, $of), $ways->between($role->name, $sought)];
            // What leads on through another link says no more than that one.
            if ([] !== $between[0] && [] !== $between[1] && !\in_array($role->name, [$of, $sought], true)) {
                $links[$role->name] = \count($between[0][0]) + \count($between[1][0]);
            }
        }
        asort($links);
        $least = [] === $links ? 0 : min($links);

        return array_map(strval(...), array_keys(array_filter($links, static fn (int $steps): bool => $steps === $least)));
    }

    /** Why the rows of a fact cannot be told so; '' where they can. */
    public function why(string $fact): string
    {
        $of = $this->of();
        $sought = $this->sought();
        $links = $this->links();
        $ways = $this->ground->ways();
        $words = ConditionText::of($this->condition);
        foreach (array_unique([$fact, $of, $sought, ...$links]) as $role) {
            if (null === $this->ground->roleNamed($role) || null === $this->ground->table($role)) {
                return \sprintf('The condition “%s” cannot hold: the entry of “%s” is not there.', $words, $role);
            }
        }
        if (1 !== \count($ways->between($fact, $of))) {
            return \sprintf('The condition “%s” cannot hold for %s: %s leads from there to %s.', $words, $fact,
                [] === $ways->between($fact, $of) ? 'no join' : 'more than one route', $of);
        }
        if (\count($links) > 1) {
            return \sprintf('The condition “%s” may be meant through %s. Say which: “%s has …”.', $words, implode(' or ', $links), $of);
        }
        if ([] === $links) {
            return \sprintf('The condition “%s” cannot hold: no row of %s leads to a row of %s, and no link leads to both.', $words, $sought, $of);
        }
        foreach ([$of, $sought] as $end) {
            if (\count($ways->between($links[0], $end)) > 1) {
                return \sprintf('The condition “%s” cannot hold: from %s to %s there is more than one route.', $words, $links[0], $end);
            }
        }

        return '';
    }

    /**
     * Whether there is such a row, as SQL.
     *
     * @param string                          $alias of the row of the role whose rows have something
     * @param \Closure(Condition, Joining): string $held  a condition on what stands elsewhere
     * @param int                             $depth so many such conditions stand around it
     * @param list<Guard>                     $guards what must hold of the rows that are gone over is added to them
     */
    public function exists(string $alias, \Closure $held, int $depth, array &$guards): string
    {
        $sql = $this->ground->sql();
        $joining = new Joining($this->ground, $sql, $this->from(), prefix: "there_{$depth}_");
        $route = $this->ground->ways()->between($this->from(), $this->of())[0];
        $last = $route[\count($route) - 1];
        $before = $joining->at(\array_slice($route, 0, -1));
        $where = array_map(
            static fn (array $pair): string => $joining->field($before, $pair[0])." = $alias.".$sql->name($pair[1]),
            $last->pairs(),
        );
        if ([] !== $last->join->where) {
            if ($last->forth) {
                $joining->field($before, $last->join->where[0]);
            }
            $where[] = ($last->forth ? $sql->name($before) : $alias).$this->ground->only($last->join);
        }
        if ($this->from() !== $this->sought()) {
            $to = $this->ground->ways()->between($this->from(), $this->sought())[0];
            $where[] = $joining->field($joining->at($to), $to[\count($to) - 1]->pairs()[0][1]).' IS NOT NULL';
        }
        foreach ($this->condition->of as $part) {
            $where[] = $held($part, $joining);
        }
        $from = implode(' ', array_map(static fn (SqlLine $line): string => trim($line->text), $joining->lines('')));
        array_push($guards, ...$joining->guards());

        return "EXISTS (SELECT 1 $from WHERE ".implode(' AND ', $where).')';
    }
}
