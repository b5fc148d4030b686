<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;

/**
 * Holds candidates against the data. A first look at some hundred values of each field discards most of them; what is left, and
 * likely, is counted over all rows, the likeliest first, as long as the budget lasts.
 *
 * After J. Bauckmann et al., "Efficiently Detecting Inclusion Dependencies" (ICDE 2007), whose tests of many candidates in few
 * scans these are; A. Rostin et al. (2009) for coverage, ranges and distributions as evidence; M. Zhang et al., "On Multi-Column
 * Foreign Key Discovery" (VLDB 2010) for the question whether values look as if they were drawn from the key.
 */
final class DataLook
{
    private const OF_DATA = [
        Feature::FOUND_ALL, Feature::FOUND_NEARLY, Feature::FOUND_MOST, Feature::FOUND_SOME, Feature::FOUND_NONE, Feature::SPREAD, Feature::SMALL,
        Feature::TELLING, Feature::USED, Feature::SAME_SET,
    ];
    /** A name that so many tables may have a part of says something of each. */
    private const FEW_TABLES = 3;
    /** What people write where nothing is meant. */
    private const NONE = ['0', '-1', '', 'N/A', 'n/a', 'NULL', 'none', '-'];
    /** Rows of a table that the first look takes, and different values of a field. */
    private const ROWS = 1500;
    private const VALUES = 300;
    /** The least confidence by names at which values are looked for. */
    private const LEAST = 0.0012;
    /** Confidence from which all rows are counted. */
    private const COUNTED = 0.3;
    /** Keys that a field without a telling name is tried against, and those kept. */
    private const UNNAMED = 4;
    /** Values of a field that are tried against a key at first. */
    private const FEW = 16;

    /** @var list<string> what could not be asked, in sentences */
    public array $notes = [];
    public bool $cutShort = false;
    /** @var array<string, array{int, array<array-key, int>}> by unit: rows looked at, value → how often */
    private array $samples = [];
    /** @var array<string, true> ids of what is no key */
    private array $no = [];
    /** @var array<string, array{int, ?string, ?string}> by id of the key */
    private array $ranges = [];

    /** @param float $budget seconds that may pass */
    public function __construct(private readonly KeyValues $values, private readonly Candidates $candidates, private readonly float $budget = 300.0)
    {
    }

    /**
     * @param array<string, list<Candidate>> $units weighed by names
     *
     * @return array<string, list<Candidate>> with what the data says, and with candidates that only the data shows
     */
    public function look(array $units, Chooser $chooser, Progress $progress): array
    {
        $start = microtime(true);
        $units = $this->toKeys($units, $progress, $start);
        $this->sample($units, $progress, $start);
        $units = $this->unnamed($units);
        $this->first($units, $progress, $start);
        Whole::weigh($units, $this->candidates, $chooser);
        $this->count($units, $progress, $start);
        Whole::weigh($units, $this->candidates, $chooser);

        return $units;
    }

    /**
     * What is called like a key and is declared none is one where no two rows have the same.
     *
     * @param array<string, list<Candidate>> $units
     *
     * @return array<string, list<Candidate>> without those that would lead to what is no key
     */
    private function toKeys(array $units, Progress $progress, float $start): array
    {
        foreach ($this->candidates->keys as $table => $keys) {
            foreach ($keys as $key) {
                if (JoinKey::LIKELY !== $key->standing || $this->late($start)) {
                    continue;
                }
                $progress->at('keys of '.$key->table->name, 0, 0);
                if (false === $this->ask($key->table, fn (Table $asked): bool => $this->values->isUnique($asked, $key->columns))) {
                    // It is the only one: one that is declared would have been found first.
                    $this->candidates->keys[$table] = [];
                    $this->no[$key->id()] = true;
                }
            }
        }

        return array_map(fn (array $found): array => array_values(array_filter(
            $found,
            fn (Candidate $one): bool => $one->certain || !isset($this->no[$one->key->id()]),
        )), $units);
    }

    /** @param array<string, list<Candidate>> $units */
    private function sample(array $units, Progress $progress, float $start): void
    {
        $wanted = [];
        foreach ($units as $unit => $found) {
            if ([] !== array_filter($found, static fn (Candidate $one): bool => !$one->certain && self::isWorthALook($one))) {
                $wanted[$found[0]->from][$unit] = $found[0]->columns;
            }
        }
        foreach ($this->candidates->plain() as $table => $columns) {
            foreach ($columns as $column) {
                $wanted[$table][Candidates::unit($table, [$column])] = [$column];
            }
        }
        $done = 0;
        foreach ($wanted as $table => $of) {
            $progress->at('a first look at '.$this->candidates->tables[$table]->name, ++$done, \count($wanted));
            if ($this->late($start)) {
                return;
            }
            $this->ask($this->candidates->tables[$table], function (Table $asked) use ($of): void {
                [$rows, $values] = $this->values->sample($asked, $of, self::ROWS);
                foreach ($values as $unit => $counts) {
                    $this->samples[$unit] = [$rows, $counts];
                }
            });
        }
    }

    /**
     * Fields whose names lead nowhere are held against all keys of their type whose range is about theirs, by a few values.
     *
     * @param array<string, list<Candidate>> $units
     *
     * @return array<string, list<Candidate>>
     */
    private function unnamed(array $units): array
    {
        $open = [];
        foreach ($this->candidates->plain() as $table => $columns) {
            foreach ($columns as $column) {
                $unit = Candidates::unit($table, [$column]);
                $values = array_map(strval(...), array_keys($this->samples[$unit][1] ?? []));
                $best = array_reduce($units[$unit] ?? [], static fn (float $most, Candidate $one): float => max($most, $one->confidence), 0.0);
                if (\count($values) >= 2 && $best <= 0.6) {
                    $open[$unit] = [$table, $column, $values];
                }
            }
        }
        $tried = [];
        foreach ($this->candidates->keys as $to => $of) {
            foreach ($of as $key) {
                foreach ($key->single() && [] !== $open ? $this->tried($open, $to, $key, $units) : [] as $unit => $worth) {
                    $tried[$unit][] = $worth;
                }
            }
        }
        foreach ($tried as $unit => $of) {
            usort($of, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
            foreach (\array_slice($of, 0, self::UNNAMED) as [, $candidate]) {
                $units[$unit][] = $candidate;
            }
        }

        return $units;
    }

    /**
     * @param array<string, array{int, string, list<string>}> $open
     * @param array<string, list<Candidate>>                  $units
     *
     * @return array<string, array{float, Candidate}> by unit: how well a few values and their range fit
     */
    private function tried(array $open, int $to, JoinKey $key, array $units): array
    {
        $fitting = $wanted = [];
        foreach ($open as $unit => [$table, $column, $values]) {
            $candidate = $this->candidates->unnamed($table, $column, $to, $key);
            if (null === $candidate || [] !== array_filter($units[$unit] ?? [], static fn (Candidate $one): bool => $one->key->id() === $key->id())) {
                continue;
            }
            $near = $this->near($values, $to, $key);
            if ($near > 0.0) {
                $some = array_values(array_diff(\array_slice($values, 0, self::FEW), ['0', '']));
                $fitting[$unit] = [$near, $candidate, $some];
                $wanted += array_fill_keys($some, true);
            }
        }
        if ([] === $wanted) {
            return [];
        }
        $found = $this->ask(
            $key->table,
            fn (Table $asked): array => $this->values->among($asked, $key->columns, array_map(strval(...), array_keys($wanted))),
        ) ?? [];
        $tried = [];
        foreach ($fitting as $unit => [$near, $candidate, $some]) {
            $hits = \count(array_intersect_key(array_fill_keys($some, true), $found));
            if ([] !== $some && $hits >= 0.7 * \count($some)) {
                $tried[$unit] = [$hits / \count($some) + 0.5 * $near, $candidate];
            }
        }

        return $tried;
    }

    /**
     * How well the range of values fits that of a key; 0 where it does not.
     *
     * @param list<string> $values
     */
    private function near(array $values, int $to, JoinKey $key): float
    {
        [$rows, $least, $greatest] = $this->range($to, $key);
        if ($rows < 2) {
            return 0.0;
        }
        if (null === $least || null === $greatest || !is_numeric($least) || !is_numeric($greatest)) {
            return 0.5;
        }
        $numbers = array_map(floatval(...), array_filter($values, static fn (string $value): bool => is_numeric($value) && '0' !== $value));
        if ([] === $numbers || min($numbers) < (float) $least || max($numbers) > 1.02 * (float) $greatest) {
            return 0.0;
        }
        $span = max(1.0, (float) $greatest - (float) $least);

        return min(1.0, (max($numbers) - min($numbers) + 1) / ($span + 1));
    }

    /** @param array<string, list<Candidate>> $units */
    private function first(array $units, Progress $progress, float $start): void
    {
        $byKey = [];
        foreach ($units as $unit => $found) {
            foreach ($found as $candidate) {
                if (isset($this->samples[$unit]) && !$candidate->certain && (self::isWorthALook($candidate) || $candidate->has(Feature::UNNAMED))) {
                    $byKey[$candidate->key->id()][] = [$unit, $candidate];
                }
            }
        }
        $done = 0;
        foreach ($byKey as $of) {
            if ($this->late($start)) {
                return;
            }
            $key = $of[0][1]->key;
            $progress->at('values found in '.$key->table->name, ++$done, \count($byKey));
            $wanted = [];
            foreach ($of as [$unit]) {
                foreach (\array_slice($this->samples[$unit][1], 0, self::VALUES, true) as $value => $n) {
                    $wanted[$value] = true;
                }
            }
            $found = $this->ask(
                $key->table,
                fn (Table $asked): array => $this->values->among($asked, $key->columns, array_map(strval(...), array_keys($wanted))),
            );
            if (null === $found) {
                continue;
            }
            $range = $this->range($of[0][1]->to, $key);
            foreach ($of as [$unit, $candidate]) {
                $this->judge($candidate, $this->samples[$unit], $found, $range);
            }
        }
    }

    /**
     * @param array{int, array<array-key, int>} $sample
     * @param array<array-key, true>            $found
     * @param array{int, ?string, ?string}      $range
     */
    private function judge(Candidate $candidate, array $sample, array $found, array $range): void
    {
        $values = \array_slice($sample[1], 0, self::VALUES, true);
        if ($range[0] < 1 || self::saysNothing($values)) {
            $candidate->features[Feature::NO_DATA] = 1.0;

            return;
        }
        $missing = array_diff_key($values, $found);
        $hits = \count($values) - \count($missing);
        $none = '';
        if (1 === \count($missing) && $hits > 0 && \in_array((string) array_key_first($missing), self::NONE, true)) {
            $none = (string) array_key_first($missing);
            unset($values[$none]);
            $missing = [];
        }
        [$keys] = $range;
        $whole = \count($values) < self::VALUES && !$candidate->has(Feature::LIST)
            && $sample[0] === $this->ask($this->candidates->tables[$candidate->from], $this->values->count(...));
        $candidate->data = new DataEvidence(
            \count($values),
            $hits,
            $whole ? array_sum($values) : null,
            $whole ? array_sum($missing) : null,
            $whole ? $hits : null,
            $keys,
            $none,
            array_map(strval(...), \array_slice(array_keys($missing), 0, 5)),
        );
        $this->features($candidate, $values, $range);
    }

    /**
     * Whether nothing follows from the values: there are none, or nothing but one number that stands for none or is among all keys.
     *
     * @param array<array-key, int> $values
     */
    private static function saysNothing(array $values): bool
    {
        $only = 1 === \count($values) ? (string) array_key_first($values) : null;

        return [] === $values || null !== $only && (\in_array($only, self::NONE, true) || 1 === preg_match('/^\d$/', $only));
    }

    /**
     * @param array<array-key, int>        $values
     * @param array{int, ?string, ?string} $range
     */
    private function features(Candidate $candidate, array $values, array $range): void
    {
        $data = $candidate->data;
        if (null === $data) {
            return;
        }
        foreach (self::OF_DATA as $feature) {
            unset($candidate->features[$feature]);
        }
        $share = $data->share();
        $candidate->features[match (true) {
            $share >= 1.0 => Feature::FOUND_ALL,
            $share >= 0.97 => Feature::FOUND_NEARLY,
            $share >= 0.8 => Feature::FOUND_MOST,
            $share >= 0.3 => Feature::FOUND_SOME,
            default => Feature::FOUND_NONE,
        }] = 1.0;
        if ($share < 0.8) {
            return;
        }
        [$keys, $least, $greatest] = $range;
        $n = \count($values);
        if ($candidate->key->single() && null !== $least && null !== $greatest && is_numeric($least) && is_numeric($greatest)) {
            $candidate->features = array_merge($candidate->features, self::ofNumbers(array_keys($values), $keys, (float) $least, (float) $greatest));
        } else {
            // The more letters there are to agree, the less chance can have made them.
            $letters = array_sum(array_map(static fn (int|string $value): int => \strlen((string) $value), array_keys($values)));
            $candidate->features[Feature::TELLING] = min(1.0, $letters / 10);
            if ($share >= 1.0 && $n >= 3 && $data->found >= 0.75 * $keys) {
                $candidate->features[Feature::SAME_SET] = 1.0;
            }
        }
        $candidate->features[Feature::USED] = min(1.0, $data->found / max(1, min($keys, self::VALUES)));
    }

    /**
     * How much it says that numbers are found among keys, which may be no more than that both are small.
     *
     * @param list<array-key> $values
     *
     * @return array<string, float>
     */
    private static function ofNumbers(array $values, int $keys, float $least, float $greatest): array
    {
        $by = [];
        $n = \count($values);
        $numbers = array_map(floatval(...), array_filter(array_map(strval(...), $values), is_numeric(...)));
        $span = $greatest - $least + 1;
        $density = min(1.0, $keys / max(1.0, $span));
        $taken = [] === $numbers ? 0.0 : (max($numbers) - $least + 1) / $span;
        if ($taken > 0.6 && $n >= 4) {
            $by[Feature::SPREAD] = min(1.0, $taken);
        }
        if ($taken < 0.3 && $density > 0.4 || $n < 3) {
            $by[Feature::SMALL] = 1.0;
        }
        // By chance, each value would be among the keys as often as their range is filled.
        $by[Feature::TELLING] = min(1.0, -log10(max(1e-6, $density ** min($n, 30))) / 6);

        return $by;
    }

    /** @param array<string, list<Candidate>> $units */
    private function count(array $units, Progress $progress, float $start): void
    {
        $waiting = [];
        foreach ($units as $unit => $found) {
            foreach ($found as $candidate) {
                if ($candidate->confidence >= self::COUNTED && null !== $candidate->data && null === $candidate->data->rows
                    && !$candidate->has(Feature::LIST)) {
                    $waiting[] = [$unit, $candidate];
                }
            }
        }
        usort($waiting, static fn (array $a, array $b): int => $b[1]->confidence <=> $a[1]->confidence);
        $observing = $this->values->observing();
        foreach ($waiting as $done => [$unit, $candidate]) {
            $table = $this->candidates->tables[$candidate->from];
            $progress->at($table->name.': all rows', $done, \count($waiting));
            if ($this->late($start)) {
                return;
            }
            $pairs = array_map(static fn (string $near, string $far): array => [$near, $far], $candidate->columns, $candidate->key->columns);
            $data = $candidate->data;
            $figures = [] === $pairs || null === $data ? null
                : $this->ask($table, static fn (Table $asked): JoinFigures => $observing->of($asked, $candidate->key->table, $pairs));
            if (null === $figures || null === $data) {
                continue;
            }
            $candidate->data = DataEvidence::counted($figures, $data->none, $data->missing);
            $this->features($candidate, $this->samples[$unit][1], $this->range($candidate->to, $candidate->key));
        }
    }

    /** @return array{int, ?string, ?string} */
    private function range(int $table, JoinKey $key): array
    {
        return $this->ranges[$key->id()] ??= $this->ask($key->table, fn (Table $asked): array => $key->single()
            ? $this->values->range($asked, $key->columns[0])
            : [$this->values->count($asked), null, null]) ?? [0, null, null];
    }

    private function late(float $start): bool
    {
        if (!$this->cutShort && microtime(true) - $start > $this->budget) {
            $this->cutShort = true;
            $this->notes[] = \sprintf(
                'Looking at the data stopped after %s, as its budget says: what had not been looked at is judged by names and types.',
                Amount::of((int) round($this->budget), 'second'),
            );
        }

        return $this->cutShort;
    }

    /**
     * @template T
     *
     * @param \Closure(Table): T $question
     *
     * @return T|null where it could not be answered
     */
    private function ask(Table $table, \Closure $question): mixed
    {
        try {
            return $question($table);
        } catch (SourceError $e) {
            if (SourceError::LOST === $e->what) {
                throw $e;
            }
            if (SourceError::OVER_TIME === $e->what) {
                $this->notes[] = \sprintf('%s: a question took too long and was given up.', $table->place());
            } else {
                $this->notes[] = \sprintf('%s: %s', $table->place(), $e->inWords());
            }

            return null;
        }
    }

    /** What is likely by its name; or what its name tells of a table, however unlikely names make it, for the values may know better. */
    private static function isWorthALook(Candidate $candidate): bool
    {
        return $candidate->confidence >= self::LEAST
            || null !== $candidate->match && $candidate->match->how <= NameMatch::TAIL && $candidate->match->sharing <= self::FEW_TABLES
                && !$candidate->has(Feature::FLAG) && !$candidate->has(Feature::AMOUNT) && !$candidate->has(Feature::TYPE_LOOSE)
                && !$candidate->has(Feature::SELF) && !$candidate->has(Feature::OWN_KEY) && !$candidate->has(Feature::NUMBERED_KEY);
    }
}
