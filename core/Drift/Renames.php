<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Wording\Amount;

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
    private const OWN_TYPE = '/^(?:enum|set)\b|^(?:var)?char(?:acter varying)?\((?!(?:255|250|200|191|128|100|64|50|40|32|20|10)\))\d+\)/i';
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
            foreach ($table->columns as $column) {
                $key = strtolower($column->name).' '.$column->type;
                $frequency[$key] = ($frequency[$key] ?? 0) + 1;
            }
        }
        // A table that stands in both catalogs counts once; the ten keep a small database from telling nothing.
        $count = \count($all) / 2 + 10;
        $weights = array_map(static fn (int $in): float => max(0.02, log($count / ($in / 2 + 1))), $frequency);
        $columns = static fn (Table $table): array => array_fill_keys(
            array_map(static fn (Column $column): string => strtolower($column->name).' '.$column->type, $table->columns),
            true,
        );
        $goneColumns = array_map($columns, $gone);
        $newColumns = array_map($columns, $new);
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
            $score = 0.72 * $jaccard * (1 - exp(-$evidence / self::ENOUGH)) + 0.23 * $named;
            if ('' !== $gone[$i]->comment && $gone[$i]->comment === $new[$j]->comment) {
                $score += 0.1;
            }
            if (null !== $gone[$i]->definition && self::squeezed($gone[$i]->definition) === self::squeezed((string) $new[$j]->definition)) {
                $score += 0.3;
            }
            // A likely name alone is no evidence: without common columns it is another table of the same kind.
            $keyed = null !== $gone[$i]->primaryKey
                && $gone[$i]->primaryKey->columns === ($new[$j]->primaryKey->columns ?? null)
                && ['id'] !== $gone[$i]->primaryKey->columns;
            $score += $keyed ? 0.05 : 0.0;
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
        $places = [self::neighbours($before, $after), self::neighbours($after, $before)];
        $leads = [self::leads($before), self::leads($after)];
        $held = [self::held($before), self::held($after)];
        $type = static fn (Column $column): string => $column->type;
        $types = [array_count_values(array_map($type, $gone)), array_count_values(array_map($type, $new))];
        $scores = $reasons = [];
        foreach ($gone as $i => $was) {
            foreach ($new as $j => $is) {
                $type = match (true) {
                    $was->type === $is->type && $was->base === $is->base => 0.35,
                    self::alike($dialect->typeOf($was), $dialect->typeOf($is)) => 0.2,
                    default => 0.0,
                };
                if (0.0 === $type) {
                    continue;
                }
                $named = Likeness::of($was->name, $is->name);
                $place = match (true) {
                    $places[0][$was->name] !== $places[1][$is->name] => 0.0,
                    '' === $places[0][$was->name][1] => 0.1,
                    default => 0.25,
                };
                $score = $type + 0.38 * $named + $place + ($was->nullable === $is->nullable ? 0.05 : 0.0);
                $why = [$type > 0.3 ? 'the same type' : 'a like type'];
                // What stands in the same place may be another thing: that it is the same one, something else has to say.
                $evidence = Likeness::ofThings($was->name, $is->name) >= 0.34;
                if (isset($held[0][$was->name]) && $held[0][$was->name] === ($held[1][$is->name] ?? null)) {
                    $score += 'primary' === $held[0][$was->name][0] ? 0.2 : 0.1;
                    $why[] = 'primary' === $held[0][$was->name][0] ? 'the same part in the primary key' : 'the same part in a key';
                    $evidence = true;
                }
                if (null !== $was->default && $was->default === $is->default && 1 !== preg_match("/^(?:'?0?'?|''.*|true|false|1|NULL.*)$/i", $was->default)) {
                    $score += 0.1;
                    $why[] = 'the same default';
                    $evidence = true;
                }
                if ($type > 0.3
                    && 1 === $types[0][$was->type]
                    && 1 === ($types[1][$is->type] ?? 0)
                    && 1 === preg_match(self::OWN_TYPE, $was->base ?? $was->type)) {
                    // A text with an odd length, or a list of its own, is seldom chosen twice.
                    $score += 0.1;
                    $evidence = $evidence || $place > 0.2;
                }
                $alone = 1 === $types[0][$was->type] && 1 === ($types[1][$is->type] ?? 0) && \count($gone) === \count($new);
                if ($type > 0.3
                    && $place > 0.2
                    && $alone
                    && 1 === preg_match('/^(?:date|time|year|numeric|decimal|real|float|double|uuid|json|inet|point|geometry)\b/i', $was->type)) {
                    // Such a type in such a place is hardly another thing; a text or a whole number may be anything.
                    $evidence = true;
                }
                if ($place > 0) {
                    $why[] = 'the same place';
                }
                if ($named >= 0.4) {
                    $why[] = 'a like name';
                }
                if ('' !== $was->comment && $was->comment === $is->comment) {
                    $score += 0.2;
                    $why[] = 'the same comment';
                    $evidence = true;
                }
                if (isset($leads[0][$was->name]) && $leads[0][$was->name] === ($leads[1][$is->name] ?? null)) {
                    $score += 0.2;
                    $why[] = 'the same reference';
                    $evidence = true;
                }
                if (null !== $was->seen && null !== $is->seen && [] !== $was->seen->values && [] === array_diff_key($was->seen->values, $is->seen->values)) {
                    $score += 0.2;
                    $why[] = 'the same values';
                    $evidence = true;
                }
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
            $found[] = [$gone[$i], $new[$j], 'It has '.self::listed($reasons[$i][$j])];
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

    /** @return array<string, array{string, string}> column → its neighbours that both tables have; '' at either end */
    private static function neighbours(Table $table, Table $other): array
    {
        $before = $after = [];
        $last = '';
        $open = [];
        foreach ($table->columns as $column) {
            $before[$column->name] = $last;
            $after[$column->name] = '';
            if (null !== $other->column($column->name)) {
                foreach ($open as $name) {
                    $after[$name] = $column->name;
                }
                $open = [];
                $last = $column->name;
            }
            $open[] = $column->name;
        }
        $places = [];
        foreach ($before as $name => $neighbour) {
            $places[$name] = [$neighbour, $after[$name]];
        }

        return $places;
    }

    /** @return array<string, string> column → where a foreign key of its own leads */
    private static function leads(Table $table): array
    {
        $leads = [];
        foreach ($table->foreignKeys as $key) {
            if (1 === \count($key->columns)) {
                $leads[$key->columns[0]] = $key->references->place()->key()."\0".$key->references->columns[0];
            }
        }

        return $leads;
    }

    /** @return array<string, array{string, int, int}> column → in which kind of key it is, how wide that is, and its place there */
    private static function held(Table $table): array
    {
        $held = [];
        foreach ($table->uniqueKeys as $key) {
            foreach ($key->columns as $i => $column) {
                $held[$column] ??= ['unique', \count($key->columns), $i];
            }
        }
        foreach ($table->primaryKey->columns ?? [] as $i => $column) {
            $held[$column] = ['primary', \count($table->primaryKey->columns ?? []), $i];
        }

        return $held;
    }

    private static function alike(Type $was, Type $is): bool
    {
        return $was->array === $is->array && $was->family === $is->family && (TypeFamily::Other !== $was->family || $was->name === $is->name);
    }

    private static function squeezed(string $sql): string
    {
        return (string) preg_replace('/\s+/', '', $sql);
    }

    /** @param list<string> $words */
    private static function listed(array $words): string
    {
        $last = array_pop($words);

        return [] === $words ? (string) $last : implode(', ', $words).' and '.$last;
    }
}
