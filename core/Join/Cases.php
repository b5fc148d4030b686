<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming;

/** Fields that lead to one of several tables, as another field says: `subject_kind` and `subject_id`. */
final class Cases
{
    private const KINDS = ['kind', 'type', 'class', 'table', 'entity', 'model', 'typ', 'typename', 'tablename', 'category', 'of', 'name', 'klass'];
    private const MOST = 40;

    /** @var list<string> */
    public array $notes = [];

    public function __construct(private readonly Candidates $candidates, private readonly ?KeyValues $values)
    {
    }

    /** @return array<string, list<Proposal>> by unit of the field that leads on */
    public function all(): array
    {
        $found = [];
        foreach ($this->candidates->tables as $i => $table) {
            $together = $this->together($i, $table);
            foreach ($together as $unit => [, $cases]) {
                $found[$unit] = $cases;
            }
            $taken = array_map(static fn (array $one): string => $one[0]->name, $together);
            foreach ($table->columns as $column) {
                $kind = $this->kindOf($i, $table, $column);
                $cases = null === $kind || \in_array($kind->name, $taken, true) ? [] : $this->of($i, $table, $column, $kind);
                if ([] !== $cases) {
                    $found[Candidates::unit($i, [$column->name])] = $cases;
                }
            }
        }

        return $found;
    }

    /**
     * Several fields that together lead to one of several tables: `about_table` beside `about_authority` and `about_code`.
     *
     * @return array<string, array{Column, list<Proposal>}> by unit of the fields that lead on: the field that names the tables, and the cases
     */
    private function together(int $i, Table $table): array
    {
        $found = [];
        foreach ($table->columns as $kind) {
            $head = $this->holdsWords($i, $kind) ? $this->about($i, $kind) : [];
            $beside = [] === $head ? [] : $this->beside($i, $table, $kind, $head);
            if (\count($beside) < 2) {
                continue;
            }
            $said = $this->said($i, $table, $kind) ?: array_map(strval(...), array_keys($this->sampled($table, $kind, [$kind]) ?? []));
            $of = [];
            foreach (\array_slice(array_values(array_unique($said)), 0, self::MOST) as $value) {
                foreach ($this->composite($i, $value, $beside) as [$columns, $key]) {
                    $of[Candidates::unit($i, $columns)][] = [$columns, $key, $value];
                }
            }
            foreach ($of as $unit => $cases) {
                if (\count($cases) >= min(2, \count($said)) && \count($cases) >= 0.4 * \count($said)) {
                    $found[$unit] = [$kind, $this->proposed($table, $kind, $cases)];
                }
            }
        }

        return $found;
    }

    /** @return list<string> the words before those that say that a field holds the name of a table; none where nothing says so */
    private function about(int $i, Column $kind): array
    {
        $words = NameWords::of($this->candidates->names->stripped($kind->name, $i));
        $head = $words;
        for ($n = 0; $n < 2 && \in_array($head[\count($head) - 1] ?? '', self::KINDS, true); ++$n) {
            array_pop($head);
        }

        return \count($head) < \count($words) ? $head : [];
    }

    /**
     * @param list<string> $head
     *
     * @return array<string, Column> the other fields that begin so, by what follows in their names
     */
    private function beside(int $i, Table $table, Column $kind, array $head): array
    {
        $beside = [];
        foreach ($table->columns as $other) {
            $words = NameWords::of($this->candidates->names->stripped($other->name, $i));
            if ($other !== $kind && \count($words) > \count($head) && \array_slice($words, 0, \count($head)) === $head) {
                $beside[implode('', \array_slice($words, \count($head)))] = $other;
            }
        }

        return $beside;
    }

    /**
     * @param array<string, Column> $beside
     *
     * @return list<array{non-empty-list<string>, JoinKey}> fields and the composite key of the table of that name, to which they answer one by one
     */
    private function composite(int $i, string $value, array $beside): array
    {
        $found = [];
        foreach ($this->candidates->names->answers($value, $i) as $j => $match) {
            foreach ($match->how <= NameMatch::BY_KEY ? $this->candidates->keys[$j] : [] as $key) {
                $columns = [];
                foreach ($key->columns as $far) {
                    $near = $beside[Naming::folded($far)] ?? $beside[Naming::folded($this->candidates->names->stripped($far, $j))] ?? null;
                    $fits = null !== $near && null !== TypeFit::of($this->candidates->type($i, $near->name), $this->candidates->type($j, $far));
                    $columns[] = $fits ? $near->name : '';
                }
                if (!$key->single() && !\in_array('', $columns, true)) {
                    $found[] = [$columns, $key];
                    break;
                }
            }
        }

        return 1 === \count($found) ? $found : [];
    }

    /**
     * @param non-empty-list<array{non-empty-list<string>, JoinKey, string}> $cases of the same fields
     *
     * @return list<Proposal>
     */
    private function proposed(Table $table, Column $kind, array $cases): array
    {
        $fields = array_values(array_filter(array_map($table->column(...), $cases[0][0])));
        $sample = $this->sampled($table, $kind, $fields);
        $proposed = [];
        foreach ($cases as [$columns, $key, $value]) {
            [$confidence, $evidence, $data] = $this->judged($key, $kind, $value, $sample[$value] ?? [], 0.93);
            $proposed[] = new Proposal($table->place(), $columns, $key->table->place(), $key->columns, $confidence, $evidence, [$kind->name, $value], $data);
        }

        return $proposed;
    }

    /** The field beside it whose name is the same but for its ending. */
    private function kindOf(int $i, Table $table, Column $column): ?Column
    {
        $words = NameWords::of($this->candidates->names->stripped($column->name, $i));
        $head = $words;
        while ([] !== $head && NameWords::isKeyEnding($head[\count($head) - 1])) {
            array_pop($head);
        }
        if (\count($head) === \count($words) || null === TypeFit::family($this->candidates->type($i, $column->name))) {
            return null;
        }
        foreach ($table->columns as $other) {
            $theirs = NameWords::of($this->candidates->names->stripped($other->name, $i));
            $last = $theirs[\count($theirs) - 1] ?? '';
            $rest = \in_array($last, self::KINDS, true) ? \array_slice($theirs, 0, -1) : $theirs;
            // `subject_kind` beside `subject_id`; `row_table` beside `row_id`; `object` beside `object_id`; `table_name` beside `row_id`.
            $fits = $rest === $head && ([] !== $head || 'id' !== strtolower($column->name))
                || ['table'] === $rest && 'name' === $last && \in_array(
                    $head,
                    [['row'], ['record'], ['object'], ['entity'], ['item'], ['ref'], ['target']],
                    true,
                );
            if ($other !== $column && $fits && $this->holdsWords($i, $other)) {
                return $other;
            }
        }

        return null;
    }

    private function holdsWords(int $i, Column $column): bool
    {
        $type = $this->candidates->type($i, $column->name);

        return TypeFamily::Text === $type->family && !$type->several && (null === $type->length || $type->length <= 255);
    }

    /** @return list<Proposal> none where fewer than two values name a table */
    private function of(int $i, Table $table, Column $column, Column $kind): array
    {
        $sample = $this->sampled($table, $kind, [$column]);
        $said = $this->said($i, $table, $kind);
        $kinds = [] === $said ? array_map(strval(...), array_keys($sample ?? [])) : $said;
        $cases = [];
        $named = 0;
        foreach (\array_slice(array_values(array_unique($kinds)), 0, self::MOST) as $value) {
            $values = null === $sample ? null : $sample[$value] ?? [];
            $case = $this->named($i, $table, $column, $kind, $value, $values) ?? $this->byValues($i, $table, $column, $kind, $value, $values);
            if (null !== $case) {
                $cases[] = $case[0];
                $named += $case[1] ? 1 : 0;
            }
        }

        return $named >= 1 && \count($cases) >= min(2, \count($kinds)) && \count($cases) >= 0.4 * \count($kinds) ? $cases : [];
    }

    /** @return list<string> what the structure says that a field may hold; none where it says nothing */
    private function said(int $i, Table $table, Column $kind): array
    {
        $said = $this->candidates->type($i, $kind->name)->members;
        foreach ([] === $said ? $table->checks : [] as $check) {
            if (str_contains($check->expression, $kind->name) && preg_match_all("/'((?:[^']|'')*)'/", $check->expression, $m) > 0) {
                $said = array_map(static fn (string $value): string => str_replace("''", "'", $value), $m[1]);
            }
        }

        return $said;
    }

    /**
     * @param array<array-key, int>|null $values
     *
     * @return array{Proposal, true}|null where a value names a table
     */
    private function named(int $i, Table $table, Column $column, Column $kind, string $value, ?array $values): ?array
    {
        // Of a class with its namespace, the class.
        $name = (string) preg_replace('/^.*[\\\\.:\/]/', '', $value);
        $best = null;
        $most = 99;
        foreach ($this->candidates->names->answers($name, $i) as $j => $match) {
            if ($match->how < $most && $match->how <= NameMatch::SHORT) {
                $key = $this->key($i, $column, $j);
                if (null !== $key) {
                    $most = $match->how;
                    $best = [$j, $key];
                }
            }
        }
        if (null === $best) {
            return null;
        }
        [, $key] = $best;
        [$confidence, $evidence, $data] = $this->judged($key, $kind, $value, $values ?? [], $most <= NameMatch::BY_KEY ? 0.93 : 0.8);

        return [$this->proposal($table, $column, $key, $confidence, $evidence, $kind, $value, $data), true];
    }

    /**
     * @param array<array-key, int> $values     none where nothing is known of them
     * @param float                 $confidence by the name
     *
     * @return array{float, list<Evidence>, ?DataEvidence}
     */
    private function judged(JoinKey $key, Column $kind, string $value, array $values, float $confidence): array
    {
        $evidence = [new Evidence(\sprintf('%s is “%s” there, which names %s', $kind->name, $value, $key->table->name), 3.0)];
        $data = null;
        if ([] !== $values) {
            $data = $this->found($key, $values);
            $share = $data?->share() ?? 1.0;
            $confidence = match (true) {
                null === $data => $confidence, $share >= 0.97 => 0.98, $share >= 0.8 => 0.9, $share >= 0.4 => 0.6, default => 0.15,
            };
            if (null !== $data) {
                $evidence[] = $this->words($data, $share >= 0.8 ? 2.0 : -2.0);
            }
        }

        return [$confidence, $evidence, $data];
    }

    /**
     * @param array<array-key, int>|null $values
     *
     * @return array{Proposal, false}|null where the values show it alone
     */
    private function byValues(int $i, Table $table, Column $column, Column $kind, string $value, ?array $values): ?array
    {
        if (null === $values || \count($values) < 4) {
            return null;
        }
        $best = null;
        foreach ($this->candidates->keys as $j => $keys) {
            foreach ($keys as $key) {
                if (!$key->single() || null === TypeFit::of($this->candidates->type($i, $column->name), $this->candidates->type($j, $key->columns[0]))) {
                    continue;
                }
                $data = $this->found($key, $values);
                $used = null === $data ? 0.0 : $data->found / max(1, $data->keys ?? 1);
                if (null !== $data && $data->share() >= 0.97 && $used > 0.5 && (null === $best || $used > $best[2])) {
                    $best = [$key, $data, $used];
                }
            }
        }

        return null === $best ? null : [$this->proposal($table, $column, $best[0], 0.6, [$this->words($best[1], 1.0)], $kind, $value, $best[1]), false];
    }

    private function key(int $i, Column $column, int $j): ?JoinKey
    {
        foreach ($this->candidates->keys[$j] as $key) {
            if ($key->single() && null !== TypeFit::of($this->candidates->type($i, $column->name), $this->candidates->type($j, $key->columns[0]))) {
                return $key;
            }
        }

        return null;
    }

    /** @param list<Evidence> $evidence */
    private function proposal(
        Table $table,
        Column $column,
        JoinKey $key,
        float $confidence,
        array $evidence,
        Column $kind,
        string $value,
        ?DataEvidence $data,
    ): Proposal {
        return new Proposal($table->place(), [$column->name], $key->table->place(), $key->columns, $confidence, $evidence, [$kind->name, $value], $data);
    }

    private function words(DataEvidence $data, float $weight): Evidence
    {
        $words = \sprintf('%s of %s values of these rows are found', Amount::count($data->found), Amount::count($data->values));

        return new Evidence($words, $weight, EvidenceKind::Found);
    }

    /** @param array<array-key, int> $values */
    private function found(JoinKey $key, array $values): ?DataEvidence
    {
        $some = array_map(strval(...), \array_slice(array_keys($values), 0, 300));
        try {
            $found = $this->values?->among($key->table, $key->columns, $some) ?? [];
            $keys = $this->values?->count($key->table);
        } catch (SourceError $e) {
            $this->notes[] = \sprintf('%s: %s', $key->table->place(), $e->inWords());

            return null;
        }

        return new DataEvidence(
            \count($some),
            \count($found),
            keys: $keys,
            missing: array_values(array_diff($some, array_map(strval(...), array_keys($found)))),
        );
    }

    /**
     * @param list<Column> $columns
     *
     * @return array<array-key, array<array-key, int>>|null kind → values of the fields together → how often; null where the data may not be asked
     */
    private function sampled(Table $table, Column $kind, array $columns): ?array
    {
        if (null === $this->values) {
            return null;
        }
        try {
            [, $values] = $this->values->sample($table, ['pair' => [$kind->name, ...array_map(static fn (Column $one): string => $one->name, $columns)]], 3000);
        } catch (SourceError $e) {
            $this->notes[] = \sprintf('%s: %s', $table->place(), $e->inWords());

            return null;
        }
        $by = [];
        foreach ($values['pair'] as $pair => $n) {
            [$name, $value] = explode(KeyValues::BETWEEN, (string) $pair, 2) + [1 => ''];
            $by[$name][$value] = $n;
        }

        return $by;
    }
}
