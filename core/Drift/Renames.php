<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Enumeration;

/**
 * Finds what has only been given another name.
 *
 * A table is known by its columns. Each column it shares with the other (same name and type) weighs what it tells,
 * −ln of the share of tables that have such a column (inverse document frequency): two tables that share `id` and `name`
 * share nothing, two that share `turbine_hours` do. A column is known by its type, its place between the same neighbours,
 * its name, its comment, where it refers to, and its profile.
 */
final class Renames
{
    private const TABLE_LEAST = 0.5;
    private const COLUMN_LEAST = 0.6;
    private const LEAD = 0.06;
    private const WORTH_A_LOOK = 0.35;
    /** Above this many pairs, only those that share a telling column are compared. */
    private const MOST_PAIRS = 100000;
    /** What makes the columns that two tables share sufficient evidence, in nats. */
    private const ENOUGH = 5.0;

    /**
     * @param list<Table> $gone
     * @param list<Table> $new
     * @param list<Table> $all  of both catalogs, to know which columns are common
     *
     * @return list<array{Table, Table, string}> before, after, reason
     */
    public static function tables(array $gone, array $new, array $all): array
    {
        if ([] === $gone || [] === $new) {
            return [];
        }
        [$same, $gone, $new] = self::moved($gone, $new);
        if ([] === $gone || [] === $new) {
            return $same;
        }
        $frequency = [];
        foreach ($all as $table) {
            foreach (array_keys(self::described($table)) as $key) {
                $frequency[$key] = ($frequency[$key] ?? 0) + 1;
            }
        }
        // A table that stands in both catalogs counts once; the ten keep a small database from telling nothing.
        $count = \count($all) / 2 + 10;
        $weights = array_map(static fn (int $in): float => max(0.02, log($count / ($in / 2 + 1))), $frequency);
        $goneColumns = array_map(self::described(...), $gone);
        $newColumns = array_map(self::described(...), $new);
        $scores = $shares = [];
        foreach (self::candidates($goneColumns, $newColumns, $frequency) as [$i, $j]) {
            if ($gone[$i]->kind !== $new[$j]->kind) {
                continue;
            }
            $common = array_intersect_key($goneColumns[$i], $newColumns[$j]);
            $evidence = self::weight($common, $weights);
            $union = self::weight($goneColumns[$i] + $newColumns[$j], $weights);
            $jaccard = 0.0 === $union ? 0.0 : $evidence / $union;
            $named = $gone[$i]->name === $new[$j]->name ? 1.0 : Likeness::of($gone[$i]->name, $new[$j]->name);
            $score = 0.72 * $jaccard * (1 - exp(-$evidence / self::ENOUGH)) + 0.23 * $named + self::besides($gone[$i], $new[$j]);
            // A likely name alone is no evidence: without common columns it is another table of the same kind.
            $scores[$i][$j] = $jaccard < 0.25 ? 0.0 : $score;
            $shares[$i][$j] = [\count($common), $named];
        }
        $found = $same;
        foreach (Pairing::mutual($scores, self::TABLE_LEAST, self::LEAD) as $i => $j) {
            [$common, $named] = $shares[$i][$j];
            $reason = \sprintf('%d of its %s stand in it with the same name and type', $common, Amount::of(\count($gone[$i]->columns), 'field'));
            if ($gone[$i]->name === $new[$j]->name) {
                $reason .= ', and so does its own name in another schema';
            } elseif ($named >= 0.5) {
                $reason .= ', and the names are alike';
            }
            $found[] = [$gone[$i], $new[$j], $reason];
        }

        return $found;
    }

    /** @return array<string, true> the names of its columns with their types */
    private static function described(Table $table): array
    {
        return array_fill_keys(array_map(static fn (Column $column): string => strtolower($column->name).' '.$column->type, $table->columns), true);
    }

    /** What speaks for it beside columns and names. */
    private static function besides(Table $gone, Table $new): float
    {
        $score = '' !== $gone->comment && $gone->comment === $new->comment ? 0.1 : 0.0;
        if (null !== $gone->definition && self::squeezed($gone->definition) === self::squeezed((string) $new->definition)) {
            $score += 0.3;
        }
        $key = $gone->primaryKey->columns ?? null;

        return $score + (null !== $key && $key === ($new->primaryKey->columns ?? null) && ['id'] !== $key ? 0.05 : 0.0);
    }

    /**
     * The same name with the same structure in another schema is the same table, before anything is weighed. Where names
     * alone are the same, most of the columns have to be.
     *
     * @param list<Table> $gone
     * @param list<Table> $new
     *
     * @return array{list<array{Table, Table, string}>, list<Table>, list<Table>} pairs, and what is left of both
     */
    private static function moved(array $gone, array $new): array
    {
        $byName = [];
        foreach ($new as $j => $table) {
            $byName[$table->kind->value."\0".$table->name][] = $j;
        }
        $goneByName = array_count_values(array_map(static fn (Table $table): string => $table->kind->value."\0".$table->name, $gone));
        /** @var \Closure(Table): list<string> $columns */
        $columns = static fn (Table $table): array => array_map(static fn (Column $column): string => $column->name."\0".$column->type, $table->columns);
        $same = $taken = [];
        foreach ($gone as $i => $table) {
            $key = $table->kind->value."\0".$table->name;
            $candidates = $byName[$key] ?? [];
            $of = $columns($table);
            $equal = array_values(array_filter($candidates, static fn (int $j): bool => !isset($taken[$j]) && $columns($new[$j]) === $of));
            $alone = 1 === \count($candidates) && 1 === $goneByName[$key];
            $common = $alone ? \count(array_intersect($of, $columns($new[$candidates[0]]))) : 0;
            $likely = $alone && $common * 2 > max(\count($of), \count($new[$candidates[0]]->columns));
            if (1 !== \count($equal) && !$likely) {
                continue;
            }
            $j = 1 === \count($equal) ? $equal[0] : $candidates[0];
            $same[] = [
                $table,
                $new[$j],
                [] === $equal
                    ? \sprintf('It has the same name in another schema, and %d of its %s', $common, Amount::of(\count($of), 'field'))
                    : 'It has the same name and the same fields in another schema',
            ];
            $taken[$j] = true;
            unset($gone[$i]);
        }

        return [$same, array_values($gone), array_values(array_diff_key($new, $taken))];
    }

    /**
     * @param ?\Closure(Table, Column, Table, Column): ?float $alike how much the data of two columns is alike, 0 to 1, where it is known
     *
     * @return list<array{Column, Column, string}> before, after, reason
     */
    public static function columns(Table $before, Table $after, Dialect $dialect, ?\Closure $alike = null): array
    {
        $gone = array_values(array_filter($before->columns, static fn (Column $column): bool => null === $after->column($column->name)));
        $new = array_values(array_filter($after->columns, static fn (Column $column): bool => null === $before->column($column->name)));
        if ([] === $gone || [] === $new) {
            return [];
        }
        $look = new ColumnLook($before, $after, $gone, $new, $dialect);
        $scores = $reasons = [];
        foreach ($gone as $i => $was) {
            foreach ($new as $j => $is) {
                $seen = $look->at($was, $is);
                if (null === $seen) {
                    continue;
                }
                [$score, $why, $evidence] = $seen;
                $data = null !== $alike && $score >= self::WORTH_A_LOOK ? $alike($before, $was, $after, $is) : null;
                if (null !== $data) {
                    // Data that is alike speaks for a rename as much as a name does; data that is not, against it.
                    $score += 0.5 * ($data - 0.5);
                    if ($data >= 0.8) {
                        $why[] = 'the same data, as its profile shows';
                        $evidence = true;
                    }
                }
                $scores[$i][$j] = $evidence ? $score : min($score, self::COLUMN_LEAST - 0.1);
                $reasons[$i][$j] = $why;
            }
        }
        $found = [];
        foreach (Pairing::mutual($scores, self::COLUMN_LEAST, self::LEAD) as $i => $j) {
            $found[] = [$gone[$i], $new[$j], 'It has '.Enumeration::of($reasons[$i][$j])];
        }

        return $found;
    }

    /**
     * @param list<array<string, true>> $gone
     * @param list<array<string, true>> $new
     * @param array<string, int>        $frequency
     *
     * @return iterable<array{int, int}>
     */
    private static function candidates(array $gone, array $new, array $frequency): iterable
    {
        if (\count($gone) * \count($new) <= self::MOST_PAIRS) {
            foreach (array_keys($gone) as $i) {
                foreach (array_keys($new) as $j) {
                    yield [$i, $j];
                }
            }

            return;
        }
        $having = [];
        foreach ($new as $j => $columns) {
            foreach ($columns as $key => $_) {
                if ($frequency[$key] <= 40) {
                    $having[$key][] = $j;
                }
            }
        }
        foreach ($gone as $i => $columns) {
            $near = [];
            foreach ($columns as $key => $_) {
                foreach ($having[$key] ?? [] as $j) {
                    $near[$j] = true;
                }
            }
            foreach (array_keys($near) as $j) {
                yield [$i, $j];
            }
        }
    }

    /**
     * @param array<string, true>  $columns
     * @param array<string, float> $weights
     */
    private static function weight(array $columns, array $weights): float
    {
        return array_sum(array_intersect_key($weights, $columns));
    }

    private static function squeezed(string $sql): string
    {
        return (string) preg_replace('/\s+/', '', $sql);
    }
}
