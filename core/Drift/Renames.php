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
        $columns = static fn (Table $table): array => array_fill_keys(array_map(static fn (Column $column): string => strtolower($column->name).' '.$column->type, $table->columns), true);
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
            $scores[$i][$j] = $jaccard < 0.25 ? 0.0 : $score;
            $shares[$i][$j] = [\count($common), $named];
        }
        $found = [];
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
        $scores = $reasons = [];
        foreach ($gone as $i => $was) {
            foreach ($new as $j => $is) {
                $type = $was->type === $is->type && $was->base === $is->base ? 0.35 : (self::alike($dialect->typeOf($was), $dialect->typeOf($is)) ? 0.2 : 0.0);
                if (0.0 === $type) {
                    continue;
                }
                $named = Likeness::of($was->name, $is->name);
                $place = $places[0][$was->name] === $places[1][$is->name] ? ('' === $places[0][$was->name][1] ? 0.1 : 0.25) : 0.0;
                $score = $type + 0.38 * $named + $place + ($was->nullable === $is->nullable ? 0.05 : 0.0);
                $why = [$type > 0.3 ? 'the same type' : 'a like type'];
                if ($place > 0) {
                    $why[] = 'the same place';
                }
                if ($named >= 0.4) {
                    $why[] = 'a like name';
                }
                if ('' !== $was->comment && $was->comment === $is->comment) {
                    $score += 0.2;
                    $why[] = 'the same comment';
                }
                if (isset($leads[0][$was->name]) && $leads[0][$was->name] === ($leads[1][$is->name] ?? null)) {
                    $score += 0.2;
                    $why[] = 'the same reference';
                }
                if (null !== $was->seen && null !== $is->seen && [] !== $was->seen->values && [] === array_diff_key($was->seen->values, $is->seen->values)) {
                    $score += 0.2;
                    $why[] = 'the same values';
                }
                $data = null !== $alike && $score >= self::WORTH_A_LOOK ? $alike($before, $was, $after, $is) : null;
                if (null !== $data) {
                    // Data that is alike speaks for a rename as much as a name does; data that is not, against it.
                    $score += 0.5 * ($data - 0.5);
                    if ($data >= 0.8) {
                        $why[] = 'the same data, as its profile shows';
                    }
                }
                $scores[$i][$j] = $score;
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
