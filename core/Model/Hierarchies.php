<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Survey\Rows;

/**
 * Finds in the data which attribute of a dimension determines which, and makes hierarchies of it: functional dependencies between pairs of
 * attributes, by counting (H. Mannila, K.-J. Räihä, “Dependency inference”, 1987), ordered by how many values each has.
 */
final readonly class Hierarchies
{
    private const MOST_LEVELS = 24;
    private const MOST = 5;

    public function __construct(private Ground $ground, private Rows $source)
    {
    }

    /**
     * @return list<Hierarchy> the longest first
     *
     * @throws \Fasti\Core\Survey\SourceError
     */
    public function of(string $role): array
    {
        $splitting = new Splitting($this->ground, $role);
        $levels = $this->candidates($role, $splitting);
        [$different, $rows] = $this->counted($splitting, $levels);
        $levels = $this->kept($levels, $different, $rows, $role);
        $above = [];
        foreach ($levels as $i => $fine) {
            foreach ($levels as $j => $coarse) {
                if ($i !== $j && $different[$i] > $different[$j] && $different[$j] > 1 && !$this->breaks($splitting, $fine, $coarse)) {
                    $above[$i][$j] = true;
                }
            }
        }

        return [
            ...$this->within($role),
            ...array_map(fn (Hierarchy $one): Hierarchy => $this->told($one, $splitting), $this->chains($levels, $above, $different)),
        ];
    }

    /** @return list<Hierarchy> rows of a role that lead to rows of the same entry */
    private function within(string $role): array
    {
        $table = $this->ground->table($role);
        $dimension = $this->ground->model->dimension($this->ground->role($role));
        $label = '' === $dimension->label ? ($dimension->attributes[0]->name ?? '') : $dimension->label;
        if ('' === $label || null === $table) {
            return [];
        }
        $found = [];
        foreach ($table->foreignKeys as $key) {
            if ($key->references->place()->key() === $table->place()->key()) {
                $found[] = new Hierarchy(
                    \sprintf('%s within itself, by %s', $role, implode(' and ', $key->columns)),
                    [new Level($role, $label)],
                    true,
                    $key->columns,
                );
            }
        }

        return $found;
    }

    /** Whether some rows have a value on one level and none on the next. */
    private function told(Hierarchy $one, Splitting $splitting): Hierarchy
    {
        foreach ($one->levels as $i => $level) {
            $next = $one->levels[$i + 1] ?? null;
            foreach (null === $next ? [] : $this->source->rows($splitting->missing($level, $next)) as $row) {
                if ((int) ($row['missing'] ?? 0) > 0) {
                    return new Hierarchy($one->name, $one->levels, true);
                }
            }
        }

        return $one;
    }

    /** @return list<Level> attributes of a role and of what it leads to by one route */
    private function candidates(string $role, Splitting $splitting): array
    {
        $levels = [];
        foreach ($this->ground->ways()->reached($role) as $reached) {
            foreach ($this->ground->model->attributesOf($this->ground->role($reached)) as $attribute) {
                $level = new Level($reached, $attribute->name);
                try {
                    $splitting->of([$level]);
                    $levels[] = $level;
                } catch (ModelError) {
                    // It is a finding of its own.
                }
            }
        }

        return \array_slice($levels, 0, self::MOST_LEVELS);
    }

    /**
     * @param list<Level> $levels
     *
     * @return array{array<int, int>, int} how many values each has, and how many rows there are
     */
    private function counted(Splitting $splitting, array $levels): array
    {
        if ([] === $levels) {
            return [[], 0];
        }
        [$expressions, $from] = $splitting->of($levels);
        $counts = array_map(static fn (string $sql, int $i): string => "COUNT(DISTINCT $sql) AS n$i", $expressions, array_keys($expressions));
        foreach ($this->source->rows('SELECT COUNT(*) AS n, '.implode(', ', $counts)." $from") as $row) {
            return [array_map(static fn (int $i): int => (int) ($row["n$i"] ?? 0), array_keys($levels)), (int) $row['n']];
        }

        return [[], 0];
    }

    /**
     * Of those that tell every row apart only the label, which is what people begin with; none of a single value.
     *
     * @param list<Level>     $levels
     * @param array<int, int> $different
     *
     * @return array<int, Level>
     */
    private function kept(array $levels, array $different, int $rows, string $role): array
    {
        $label = $this->ground->model->dimension($this->ground->role($role))->label;
        $unique = array_filter($levels, static fn (int $i): bool => $different[$i] === $rows && $rows > 1, \ARRAY_FILTER_USE_KEY);
        $first = null;
        foreach ($unique as $i => $level) {
            if (null === $first || ($level->role === $role && $level->attribute === $label)) {
                $first = $i;
            }
        }

        return array_filter($levels, static fn (int $i): bool => $different[$i] > 0 && (!isset($unique[$i]) || $i === $first), \ARRAY_FILTER_USE_KEY);
    }

    private function breaks(Splitting $splitting, Level $fine, Level $coarse): bool
    {
        foreach ($this->source->rows($splitting->exceptions($fine, $coarse)) as $row) {
            return true;
        }

        return false;
    }

    /**
     * @param array<int, Level>             $levels
     * @param array<int, array<int, bool>>  $above
     * @param array<int, int>               $different
     *
     * @return list<Hierarchy>
     */
    private function chains(array $levels, array $above, array $different): array
    {
        $order = array_keys($levels);
        usort($order, static fn (int $a, int $b): int => $different[$a] <=> $different[$b]);
        /** @var array<int, list<list<int>>> $chains the longest that begin at each */
        $chains = [];
        foreach ($order as $i) {
            $chains[$i] = [[$i]];
            foreach (array_keys($above[$i] ?? []) as $j) {
                // Only to what nothing else stands between.
                $between = array_filter(array_keys($above[$i] ?? []), static fn (int $k): bool => isset($above[$k][$j]));
                foreach ([] === $between ? $chains[$j] : [] as $chain) {
                    $chains[$i][] = [$i, ...$chain];
                }
            }
            usort($chains[$i], static fn (array $a, array $b): int => \count($b) <=> \count($a));
            $chains[$i] = \array_slice(
                array_values(array_filter($chains[$i], static fn (array $chain): bool => \count($chain) > 1 || 1 === \count($chains[$i]))),
                0,
                self::MOST,
            );
        }
        $below = [];
        foreach ($above as $coarser) {
            $below += $coarser;
        }
        $all = [];
        foreach ($order as $i) {
            foreach (isset($below[$i]) ? [] : $chains[$i] as $chain) {
                if (\count($chain) > 1) {
                    $all[] = $chain;
                }
            }
        }
        usort($all, static fn (array $a, array $b): int => \count($b) <=> \count($a));

        return array_map(
            fn (array $chain): Hierarchy => $this->named(array_map(static fn (int $i): Level => $levels[$i], $chain)),
            \array_slice($all, 0, self::MOST),
        );
    }

    /** @param list<Level> $levels */
    private function named(array $levels): Hierarchy
    {
        return new Hierarchy(implode(' → ', array_map($this->ground->names()->of(...), $levels)), $levels);
    }
}
