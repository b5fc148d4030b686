<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Wording\ColumnWords;
use Fasti\Core\Wording\Naming as Words;
use Fasti\Support\Row;

/** Reads entries with their fields and joins: three queries for any number of them. */
final readonly class Entries
{
    public function __construct(private Connection $db)
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
        $rows = $this->grouped('SELECT e.*, s.name AS source_name, s.surveyed_at, s.engine FROM entry e JOIN source s ON s.id = e.source_id WHERE e.id IN (?)', $ids, 'id');
        $fields = $this->grouped('SELECT * FROM field WHERE entry_id IN (?) ORDER BY gone_at IS NOT NULL, position', $ids, 'entry_id');
        $joins = $joined ? $this->joins($ids) : [];
        $views = [];
        foreach ($ids as $id) {
            if (isset($rows[$id][0])) {
                $views[] = self::view($rows[$id][0], $fields[$id] ?? [], $joins[$id] ?? []);
            }
        }

        return $views;
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, list<JoinView>> by entry; a join between two of the entries, or of one with itself, stands under each side
     */
    public function joins(array $ids): array
    {
        $found = [];
        if ([] === $ids) {
            return [];
        }
        $rows = $this->db->fetchAllAssociative(
            'SELECT j.*, f.name AS from_name, f.business_name AS from_title, t.name AS to_name, t.business_name AS to_title
             FROM (SELECT id FROM entry_join WHERE from_entry_id IN (?) UNION SELECT id FROM entry_join WHERE to_entry_id IN (?)) k
             JOIN entry_join j ON j.id = k.id JOIN entry f ON f.id = j.from_entry_id JOIN entry t ON t.id = j.to_entry_id
             WHERE j.gone_at IS NULL ORDER BY j.from_entry_id, j.id',
            [$ids, $ids], [ArrayParameterType::INTEGER, ArrayParameterType::INTEGER]);
        $wanted = array_flip($ids);
        foreach ([true, false] as $out) {
            foreach ($rows as $row) {
                $id = Row::int($row, $out ? 'from_entry_id' : 'to_entry_id');
                if (isset($wanted[$id])) {
                    $found[$id][] = self::join($row, $out);
                }
            }
        }

        return $found;
    }

    public static function title(string $businessName, string $name): string
    {
        return '' === $businessName ? Words::asName($name) : $businessName;
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
    private static function view(array $row, array $fields, array $joins): EntryView
    {
        $facts = OpenForm::read(Table::class, ['schema' => $row['schema_name'], 'name' => $row['name'], 'comment' => $row['comment'], 'rowEstimate' => Row::maybeInt($row, 'row_estimate'), 'sizeBytes' => Row::maybeInt($row, 'size_bytes')] + Row::json($row, 'facts'));
        $leads = [];
        foreach ($joins as $join) {
            foreach ($join->out ? $join->pairs : [] as [$from]) {
                $leads[$from][] = ['entry' => $join->toId, 'title' => $join->toTitle, 'name' => $join->toName];
            }
        }

        return new EntryView(
            Row::int($row, 'id'),
            Row::int($row, 'source_id'),
            Row::text($row, 'source_name'),
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
            Row::maybeText($row, 'surveyed_at'),
            $facts,
            array_map(static fn (array $field): FieldView => self::field($field, $facts, $leads, Row::text($row, 'engine')), $fields),
            $joins,
            Row::int($row, 'field_count'),
            Row::int($row, 'described_count'),
            Row::text($row, 'json_schema'),
        );
    }

    /**
     * @param array<string, mixed>                                              $row
     * @param array<string, list<array{entry: int, title: string, name: string}>> $leads
     */
    private static function field(array $row, Table $table, array $leads, string $engine): FieldView
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
            Dialects::of($engine)->typeInWords($column),
            ColumnWords::of($column, $alone),
            $primary,
            null !== $row['gone_at'],
            $leads[$name] ?? [],
            Row::text($row, 'personal'),
        );
    }

    /** @param array<string, mixed> $row */
    private static function join(array $row, bool $out): JoinView
    {
        /** @var list<array{string, string}> $pairs */
        $pairs = Row::json($row, 'pairs');

        return new JoinView(
            Row::int($row, 'id'),
            $out,
            Row::int($row, 'from_entry_id'),
            Row::int($row, 'to_entry_id'),
            self::title(Row::text($row, 'from_title'), Row::text($row, 'from_name')),
            self::title(Row::text($row, 'to_title'), Row::text($row, 'to_name')),
            Row::text($row, 'from_name'),
            Row::text($row, 'to_name'),
            $pairs,
            new Cardinality(End::from(Row::text($row, 'from_end')), End::from(Row::text($row, 'to_end'))),
            Row::text($row, 'verb'),
            Row::text($row, 'verb_back'),
            Row::text($row, 'kind'),
            Row::text($row, 'on_delete'),
            Row::text($row, 'on_update'),
        );
    }
}
