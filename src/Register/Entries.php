<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\ColumnWords;
use Fasti\Core\Wording\Naming;
use Fasti\Source\SourceStore;
use Fasti\Support\Row;

/** Reads entries with their fields and joins: a few queries for any number of them. */
final readonly class Entries
{
    public function __construct(private Connection $db, private Joins $joins, private SourceStore $sources)
    {
    }

    public function one(int $id): ?EntryView
    {
        return $this->load([$id])[0] ?? null;
    }

    /**
     * @param list<int> $ids
     * @param bool      $joined false leaves the joins out
     *
     * @return list<EntryView> in the order of the ids; unknown ids are left out
     */
    public function load(array $ids, bool $joined = true): array
    {
        $rows = $this->grouped('SELECT * FROM entry WHERE id IN (?)', $ids, 'id');
        $fields = $this->grouped('SELECT * FROM field WHERE entry_id IN (?) ORDER BY gone_at IS NOT NULL, position', $ids, 'entry_id');
        $joins = $joined ? $this->joins->of($ids) : [];
        $sources = $this->sources->all();
        $views = [];
        foreach ($ids as $id) {
            if (isset($rows[$id][0])) {
                $source = $sources[Row::int($rows[$id][0], 'source_id')] ?? throw new \LogicException('An entry has no source.');
                $views[] = self::view($rows[$id][0], $fields[$id] ?? [], $joins[$id] ?? [], $source->name, $source->engine, $source->surveyedAt);
            }
        }

        return $views;
    }

    public static function title(string $businessName, string $name): string
    {
        return '' === $businessName ? Naming::asName($name) : $businessName;
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, list<array<string, mixed>>>
     */
    private function grouped(string $sql, array $ids, string $by): array
    {
        $groups = [];
        if ([] !== $ids) {
            foreach ($this->db->iterateAssociative($sql, [$ids], [ArrayParameterType::INTEGER]) as $row) {
                $groups[Row::int($row, $by)][] = $row;
            }
        }

        return $groups;
    }

    /**
     * @param array<string, mixed>       $row
     * @param list<array<string, mixed>> $fields
     * @param list<JoinView>             $joins
     */
    private static function view(array $row, array $fields, array $joins, string $source, string $engine, ?string $surveyedAt): EntryView
    {
        $dialect = Dialects::of($engine);
        $facts = RegisterCatalog::facts($row, []);
        $leads = [];
        foreach ($joins as $join) {
            foreach ($join->out ? $join->pairs : [] as [$from]) {
                $leads[$from][] = ['entry' => $join->toId, 'title' => $join->toTitle, 'name' => $join->toName, 'counts' => $join->kind->counts()];
            }
        }

        return new EntryView(
            Row::int($row, 'id'),
            Row::int($row, 'source_id'),
            $source,
            Row::text($row, 'schema_name'),
            Row::text($row, 'name'),
            self::title(Row::text($row, 'business_name'), Row::text($row, 'name')),
            Row::text($row, 'business_name'),
            Row::text($row, 'grain'),
            Row::text($row, 'grain_fields'),
            Row::text($row, 'meaning'),
            Row::text($row, 'standing'),
            Row::maybeText($row, 'gone_at'),
            Row::maybeText($row, 'changed_at'),
            $surveyedAt,
            $facts,
            array_map(static fn (array $field): FieldView => self::field($field, $facts, $leads, $dialect), $fields),
            $joins,
            Row::int($row, 'field_count'),
            Row::int($row, 'described_count'),
        );
    }

    /**
     * @param array<string, mixed>                                                             $row
     * @param array<string, list<array{entry: int, title: string, name: string, counts: bool}>> $leads
     */
    private static function field(array $row, Table $table, array $leads, Dialect $dialect): FieldView
    {
        $column = OpenForm::read(Column::class, Row::json($row, 'facts'));
        $name = Row::text($row, 'name');
        $primary = null !== $table->primaryKey && \in_array($name, $table->primaryKey->columns, true);
        $alone = $primary && 1 === \count($table->primaryKey->columns);
        foreach ($table->uniqueKeys as $key) {
            $alone = $alone || [$name] === $key->columns;
        }

        return new FieldView(
            Row::int($row, 'id'),
            $name,
            Row::text($row, 'business_name'),
            Row::text($row, 'meaning'),
            $column,
            $dialect->typeInWords($column),
            ColumnWords::of($column, $alone),
            $primary,
            null !== $row['gone_at'],
            $leads[$name] ?? [],
            Row::text($row, 'personal'),
        );
    }
}
