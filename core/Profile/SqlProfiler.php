<?php

declare(strict_types=1);

namespace Fasti\Core\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Core\Value\Allowed;
use Fasti\Core\Wording\Amount;

/**
 * Profiles a table of a server or of SQLite in few scans: one over a sample of rows, which shows what the values look like;
 * one that counts everything there is to count over all rows; one for each field with few values, for how often each
 * stands. Tables beyond a size are counted in a sample only.
 *
 * @phpstan-type Figures array{values: int, blank: int, distinct: ?int, least: ?string, greatest: ?string, shortest: ?int, longest: ?int,
 *     average: ?float}
 */
final class SqlProfiler
{
    public const SAMPLE = 10000;
    /** Tables with more rows are counted in a sample of so many. */
    public const MOST_COUNTED = 2000000;
    private const COUNTED_SAMPLE = 200000;
    public const LONGEST = FieldFigures::CUT;
    /** After each scan the source rests for this share of the time it took. */
    private const REST = 0.1;
    private const LONGEST_REST = 0.25;
    /** Of rows that repeat. */
    private const EXAMPLES = 3;
    private const SHOWN = 6;
    /** Of values that are not allowed. */
    private const BREAKING = 5;
    /** Stands for a value that is personal. */
    public const MASK = '···';

    /** @var list<string> */
    private array $notes = [];

    public readonly ProfileSql $sql;

    public readonly Frequencies $frequencies;

    public function __construct(private readonly Rows $source, private readonly Dialect $dialect)
    {
        $this->frequencies = new Frequencies($this);
        $this->sql = $dialect->profiling() ?? throw new \LogicException(\sprintf('%s cannot be asked about its data.', $dialect->label()));
    }

    /**
     * @param list<string>          $grain     the fields that are said to tell rows apart; empty to go by the keys
     * @param array<string, string> $decisions field → yes or no: whether it is personal, as a steward has said
     * @param array<string, Allowed> $allowed  field → values that it may hold; those that are not are counted on the way
     *
     * @throws SourceError
     * @throws Stopped
     */
    public function profile(Table $table, array $grain, array $decisions, Progress $progress, array $allowed = []): TableProfile
    {
        $start = microtime(true);
        $this->notes = [];
        $name = $table->name;
        $progress->at("$name: counting rows", 0, 0);
        $rows = $this->rowCount($table);
        $all = null !== $rows && $rows <= self::MOST_COUNTED;
        $rows ??= $table->rowEstimate ?? 0;
        $progress->at("$name: a sample of rows", 0, 0);
        $sample = $this->sample($table, $rows);
        $families = array_map($this->family(...), $table->columns);
        $values = [];
        foreach ($table->columns as $i => $column) {
            $values[$i] = array_values(array_filter($sample[$i], static fn (?string $value): bool => null !== $value && '' !== trim($value)));
        }
        $personal = [];
        foreach ($table->columns as $i => $column) {
            [$likely] = Likely::kind($families[$i], $values[$i], \count($sample[$i]), \count($values[$i]), null, 0);
            $personal[] = '' !== Privacy::reason($name, $column->name, $likely, \array_slice($values[$i], 0, 500), $decisions[$column->name] ?? '');
        }
        $few = $exact = $all && \count($sample[0] ?? []) >= min($rows, 1000) ? $this->frequencies->few($table, $values, $personal, $progress) : [];
        // What is allowed is a matter of each letter; how often a value stands, of what the database takes for the same.
        $checks = $this->checks($table, $families, $allowed, $exact);
        $few = $this->frequencies->alike($table, $exact);
        $progress->at("$name: counting values", 0, 0);
        $how = $all ? '' : $this->words($rows, self::COUNTED_SAMPLE);
        try {
            $figures = $this->figures($table, $families, $personal, $all ? null : $rows, $few, $checks);
        } catch (SourceError $e) {
            if (SourceError::OVER_TIME !== $e->what || !$all) {
                throw $e;
            }
            $all = false;
            $how = $this->words($rows, self::COUNTED_SAMPLE);
            $this->notes[] = 'Counting all rows took too long, so a sample was counted. '.$e->getMessage();
            $figures = $this->figures($table, $families, $personal, $rows, $few, $checks);
        }
        $looked = $figures['rows'];
        $rows = $all ? $looked : max($rows, $looked);
        $fields = [];
        foreach ($table->columns as $i => $column) {
            if (isset($few[$i]) && TypeFamily::Text === $families[$i]) {
                $figures['fields'][$i] = $this->frequencies->withEdges($table, $column, $few[$i], $figures['fields'][$i]);
            }
            $counted = isset($few[$i]) ? Frequencies::tallied($few[$i], $exact[$i] ?? [], $families[$i], $figures['fields'][$i]) : $figures['fields'][$i];
            $filled = array_filter($few[$i] ?? [], static fn (int $count, string|int $value): bool => '' !== trim((string) $value), \ARRAY_FILTER_USE_BOTH);
            $fields[$column->name] = (new FieldFigures($name, $column, $families[$i], $decisions[$column->name] ?? ''))->field(
                $looked,
                $counted,
                $values[$i],
                isset($few[$i]) ? $filled : $this->frequencies->frequent($table, $i, $all && !$personal[$i], $counted, $values[$i]),
                ($checks[$i] ?? null)?->sorted(),
            );
        }
        [$grain, $repeated] = $this->grain($table, $grain, $rows, $progress);
        $repeats = 0 < (int) $repeated ? $this->repeats($table, $grain, $personal) : [];

        return new TableProfile($rows, $looked, $how, $fields, $grain, $repeated, $this->notes, round(microtime(true) - $start, 2), $repeats);
    }

    /** @return ?int null where counting took too long */
    private function rowCount(Table $table): ?int
    {
        if (($table->rowEstimate ?? 0) > 20 * self::MOST_COUNTED) {
            return null;
        }
        try {
            foreach ($this->scan('SELECT COUNT(*) AS n FROM '.$this->sql->from($table)) as $row) {
                return (int) $row['n'];
            }
        } catch (SourceError $e) {
            if (SourceError::OVER_TIME !== $e->what) {
                throw $e;
            }
            $this->notes[] = 'Counting the rows took too long; their number is the engine\'s own estimate.';
        }

        return null;
    }

    /** @return list<list<?string>> values by column */
    private function sample(Table $table, int $rows): array
    {
        $columns = array_fill(0, \count($table->columns), []);
        if ([] === $columns) {
            return [];
        }
        $select = [];
        foreach ($table->columns as $i => $column) {
            $select[] = $this->asText($column)." AS c$i";
        }
        $sql = 'SELECT '.implode(', ', $select).'
            FROM '.($rows > self::SAMPLE ? $this->sampled($table, $rows, self::SAMPLE) : $this->sql->from($table)).' LIMIT '.(2 * self::SAMPLE);
        foreach ($this->scan($sql) as $row) {
            $i = 0;
            foreach ($row as $value) {
                $columns[$i++][] = $value;
            }
        }

        return array_values($columns);
    }

    /**
     * @param list<TypeFamily> $families
     * @param list<bool>   $personal
     * @param ?int         $sampleOf how many rows there are, to count a sample; null to count all
     * @param array<int, array<array-key, int>> $few columns whose values are known already
     * @param array<int, Check>                 $checks
     *
     * @return array{rows: int, fields: list<Figures>}
     */
    private function figures(Table $table, array $families, array $personal, ?int $sampleOf, array $few, array $checks): array
    {
        $select = ['COUNT(*) AS n'];
        $from = null === $sampleOf ? $this->sql->from($table) : '(SELECT * FROM '.$this->sampled($table, $sampleOf, self::COUNTED_SAMPLE).') s';
        foreach ($table->columns as $i => $column) {
            $name = $this->sql->quoted($column->name);
            if (isset($few[$i])) {
                // All but their order is known already; that of texts is asked of their values alone.
                $order = $this->sql->ordered($column, $this->bounded($column));
                if (TypeFamily::Text !== $families[$i]) {
                    array_push($select, "MIN($order) AS l$i", "MAX($order) AS g$i");
                }
                continue;
            }
            $select[] = "COUNT($name) AS v$i";
            if (!$this->sql->comparable($column)) {
                continue;
            }
            array_push($select, ...$this->asked($i, $column, $families[$i], $checks[$i] ?? null));
            $plain = $this->bounded($column);
            $unique = [$column->name] === ($table->primaryKey->columns ?? []);
            // Long texts are told apart as a whole, not by how they begin.
            $select[] = ($unique ? "COUNT($name)" : "COUNT(DISTINCT $name)")." AS d$i";
            if (!$personal[$i]) {
                $order = $this->sql->ordered($column, $plain);
                array_push($select, "MIN($order) AS l$i", "MAX($order) AS g$i");
            }
            if (TypeFamily::Text === $families[$i]) {
                $length = $this->sql->length($name);
                array_push(
                    $select,
                    "SUM(CASE WHEN {$this->sql->blank($name)} THEN 1 ELSE 0 END) AS b$i",
                    "MIN($length) AS s$i",
                    "MAX($length) AS x$i",
                    "AVG($length) AS a$i",
                );
            }
        }
        $row = [];
        foreach ($this->scan('SELECT '.implode(', ', $select).' FROM '.$from) as $row) {
            break;
        }
        $int = static fn (string $key): ?int => isset($row[$key]) ? (int) $row[$key] : null;
        foreach ($checks as $i => $check) {
            if (\array_key_exists("w$i", $row)) {
                $check->broken = $int("w$i") ?? 0;
                $column = $table->columns[$i];
                if ($check->broken > 0 && !$personal[$i]) {
                    // Only what breaks is asked for its values: in the scan itself that would be reckoned for each row.
                    $breaks = $check->allowed->breaks($this->sql, $column, $families[$i]);
                    foreach ($this->scan("SELECT {$this->asText($column)} AS value FROM $from WHERE $breaks LIMIT ".self::BREAKING) as $found) {
                        $check->breaking[(string) $found['value']] = 0;
                    }
                }
            }
        }

        return ['rows' => $int('n') ?? 0, 'fields' => array_map(static fn (int $i): array => [
            'values' => $int("v$i") ?? 0, 'blank' => $int("b$i") ?? 0, 'distinct' => $int("d$i"), 'least' => $row["l$i"] ?? null, 'greatest' => $row["g$i"]
                ?? null,
            'shortest' => $int("s$i"), 'longest' => $int("x$i"), 'average' => isset($row["a$i"]) ? (float) $row["a$i"] : null,
        ], array_keys($table->columns))];
    }

    /**
     * What is allowed in each field. Where the values of one are counted one by one, they are looked at here; others in the scan.
     *
     * @param list<TypeFamily>                  $families
     * @param array<string, Allowed>            $allowed
     * @param array<int, array<array-key, int>> $few
     *
     * @return array<int, Check>
     */
    private function checks(Table $table, array $families, array $allowed, array $few): array
    {
        $checks = [];
        foreach ($table->columns as $i => $column) {
            $of = $allowed[$column->name] ?? null;
            if (null === $of) {
                continue;
            }
            $checks[$i] = new Check($of, $of->words());
            if (isset($few[$i])) {
                $checks[$i]->broken = 0;
                foreach ($few[$i] as $value => $rows) {
                    $checks[$i]->look((string) $value, $rows);
                }
            } elseif (!$this->sql->comparable($column) || '' === $of->breaks($this->sql, $column, $families[$i])) {
                $this->notes[] = \sprintf('What is allowed in %s could not be checked here: “%s” does not go with its type.', $column->name, $of->words());
            }
        }

        return $checks;
    }

    /** @return list<string> what is asked of a field in the scan: how many values are not allowed */
    private function asked(int $i, Column $column, TypeFamily $family, ?Check $check): array
    {
        $breaks = null === $check ? '' : $check->allowed->breaks($this->sql, $column, $family);

        return '' === $breaks ? [] : ["SUM(CASE WHEN $breaks THEN 1 ELSE 0 END) AS w$i"];
    }

    /**
     * @param list<string> $stated
     *
     * @return array{list<string>, ?int}
     */
    private function grain(Table $table, array $stated, int $rows, Progress $progress): array
    {
        $keys = array_filter([$table->primaryKey, ...$table->uniqueKeys]);
        $known = array_values(array_filter($stated, static fn (string $field): bool => null !== $table->column($field)));
        if (\count($known) < \count($stated)) {
            $this->notes[] = \sprintf('The fields that tell rows apart name %s, which the table does not have.', implode(', ', array_diff($stated, $known)));
        }
        if ([] === $known) {
            if (null !== $table->primaryKey || $table->kind->isView() || [] === $table->columns) {
                return [$table->primaryKey->columns ?? [], null === $table->primaryKey ? null : 0];
            }
            // Without a key, the least one may ask is that no row is there twice.
            $known = array_map(static fn (Column $column): string => $column->name, array_values(array_filter($table->columns, $this->sql->comparable(...))));
        }
        foreach ($keys as $key) {
            if ($key instanceof Key
                && [] === array_diff($key->columns, $known)
                && [] === array_filter($key->columns, static fn (string $column): bool => true === $table->column($column)?->nullable)) {
                return [$known, 0];
            }
        }
        if ($rows > self::MOST_COUNTED) {
            $this->notes[] = 'Whether rows repeat was not asked: the table is too large for it.';

            return [$known, null];
        }
        $progress->at($table->name.': rows that repeat', 0, 0);
        $by = implode(', ', array_map(fn (string $field): string => $this->bounded($table->column($field) ?? new Column($field, '')), $known));
        try {
            foreach ($this->scan("SELECT SUM(n - 1) AS n FROM (SELECT COUNT(*) AS n FROM {$this->sql->from($table)}
                GROUP BY $by HAVING COUNT(*) > 1) g") as $row) {
                return [$known, (int) $row['n']];
            }
        } catch (SourceError $e) {
            if (SourceError::OVER_TIME !== $e->what) {
                throw $e;
            }
            $this->notes[] = 'Whether rows repeat could not be told in time.';
        }

        return [$known, null];
    }

    /**
     * Some rows that share what should tell them apart.
     *
     * @param list<string> $grain
     * @param list<bool>   $personal by column
     *
     * @return list<array{values: list<string>, rows: int}>
     */
    private function repeats(Table $table, array $grain, array $personal): array
    {
        $select = $by = [];
        foreach ($table->columns as $i => $column) {
            if (\in_array($column->name, $grain, true) && \count($select) < self::SHOWN) {
                $select[] = ($personal[$i] ? "'".self::MASK."'" : 'MIN('.$this->asText($column).')').' AS c'.\count($select);
            }
            if (\in_array($column->name, $grain, true)) {
                $by[] = $this->bounded($column);
            }
        }
        $repeats = [];
        try {
            $sql = 'SELECT '.implode(', ', $select).", COUNT(*) AS n FROM {$this->sql->from($table)} GROUP BY ".implode(', ',
                $by).' HAVING COUNT(*) > 1 ORDER BY n DESC LIMIT '.self::EXAMPLES;
            foreach ($this->scan($sql) as $row) {
                $count = (int) array_pop($row);
                $repeats[] = ['values' => array_map(static fn (?string $value): string => $value ?? '', array_values($row)), 'rows' => $count];
            }
        } catch (SourceError $e) {
            if (SourceError::OVER_TIME !== $e->what) {
                throw $e;
            }
        }

        return $repeats;
    }

    /** @return list<array<string, string|null>> */
    public function scan(string $sql): array
    {
        $start = microtime(true);
        $rows = [];
        foreach ($this->source->rows($sql) as $row) {
            $rows[] = $row;
        }
        usleep((int) (1e6 * min(self::LONGEST_REST, self::REST * (microtime(true) - $start))));

        return $rows;
    }

    private function words(int $rows, int $sample): string
    {
        return \sprintf(
            'About %s of %s rows were looked at, chosen by chance over the whole table: shares are good to a per cent or so, counts are of the rows looked '
                .'at, and rare values, the least and the greatest may be missed.',
            Amount::count(min($rows, $sample)),
            Amount::count($rows),
        );
    }

    private function sampled(Table $table, int $rows, int $wanted): string
    {
        return $this->sql->sampled($table, min(1.0, 1.1 * $wanted / max(1, $rows)), $rows);
    }

    /** Lists are looked at as a whole, whatever they hold. */
    public function family(Column $column): TypeFamily
    {
        $type = $this->dialect->typeOf($column);

        return $type->array ? TypeFamily::Other : $type->family;
    }

    public function bounded(Column $column): string
    {
        return $this->sql->bounded($column, $this->sql->quoted($column->name), self::LONGEST);
    }

    public function asText(Column $column): string
    {
        return $this->sql->asText($column, $this->sql->quoted($column->name), self::LONGEST);
    }
}
