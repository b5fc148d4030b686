<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/**
 * Brings the register in line with a catalog, inside the caller's transaction: whole or not at all.
 *
 * Only what a survey reads is written; no text that a person wrote is touched. What has not changed is not written
 * again, which is what makes a second survey cheap. What the choice no longer covers is left as it was.
 */
final readonly class ApplyCatalog
{
    public function __construct(private Connection $db, private FoldedNames $names, private Joins $joins, private EventDispatcherInterface $events)
    {
    }

    /**
     * @param array<string, true> $held places (schema, a zero byte, name) that stay as they are, whatever the catalog says of them
     *
     * @return array<string, int> how many entries, by what became of them: new, changed, gone, back, same
     */
    public function apply(int $sourceId, Catalog $catalog, Choice $choice, Progress $progress, array $held = []): array
    {
        $known = $this->known($sourceId);
        $counts = ['new' => 0, 'changed' => 0, 'gone' => 0, 'back' => 0, 'same' => 0];
        $fresh = $changed = [];
        $seen = $held;
        foreach ($catalog->tables as $table) {
            $place = $table->place()->key();
            if (isset($held[$place])) {
                continue;
            }
            $seen[$place] = true;
            $row = $known[$place] ?? null;
            $print = OpenForm::fingerprint($table);
            if (null === $row) {
                $fresh[] = [$table, $print];
                ++$counts['new'];
            } elseif (1 === Row::int($row, 'gone') || Row::text($row, 'fingerprint') !== $print) {
                $changed[] = [$table, $print, Row::int($row, 'id')];
                ++$counts[1 === Row::int($row, 'gone') ? 'back' : 'changed'];
            } else {
                ++$counts['same'];
                $this->measure($row, $table);
            }
        }
        $progress->at('Storing entries', 0, \count($fresh) + \count($changed));
        $identifiers = $this->identifiers(array_merge(array_column($fresh, 0), array_column($changed, 0)));
        $ids = array_map(static fn (array $row): int => Row::int($row, 'id'), $known);
        $ids = $this->insertEntries($sourceId, $fresh, $identifiers) + $ids;
        foreach ($changed as [$table, $print, $id]) {
            $this->updateEntry($id, $table, $print);
        }
        $touched = array_merge($fresh, $changed);
        $this->storeFields($touched, $ids, $identifiers, array_column($changed, 2), $progress);
        $this->joins->follow([...array_column($touched, 0), ...self::leadingTo($touched, $catalog, $seen, $held)], $ids);
        $gone = $this->leave(array_diff_key($known, $seen), $choice);
        $counts['gone'] = \count($gone);
        if ([] !== $touched || [] !== $gone) {
            $this->recount($sourceId);
            $this->events->dispatch(new RegisterFollowed($sourceId));
        }

        return $counts;
    }

    /** @return array<string, array<string, mixed>> what is known of the entries of a source, by their places */
    private function known(int $sourceId): array
    {
        $known = [];
        foreach ($this->db->iterateAssociative(
            "SELECT id, schema_name, name, fingerprint, gone_at IS NOT NULL AS gone, row_estimate, size_bytes,
                COALESCE(JSON_VALUE(facts, '$.planned'), 0) AS planned
                FROM entry WHERE source_id = ?",
            [$sourceId],
        ) as $row) {
            $known[(new Place(Row::text($row, 'schema_name'), Row::text($row, 'name')))->key()] = $row;
        }

        return $known;
    }

    /** @param array<string, mixed> $row of an entry that is the same but for its size */
    private function measure(array $row, Table $table): void
    {
        if (null !== $table->rowEstimate && self::grew(Row::maybeInt($row, 'row_estimate'), $table->rowEstimate)
            || self::grew(Row::maybeInt($row, 'size_bytes'), $table->sizeBytes)) {
            // Engines without an estimate keep the number of rows that a profile counted.
            $this->db->executeStatement(
                'UPDATE entry SET row_estimate = COALESCE(?, row_estimate), size_bytes = ? WHERE id = ?',
                [$table->rowEstimate, $table->sizeBytes, Row::int($row, 'id')],
            );
        }
    }

    /**
     * @param array<string, array<string, mixed>> $missing entries that the catalog does not have
     *
     * @return list<int> those that are gone: not what was planned only, nor what was not chosen to be read
     */
    private function leave(array $missing, Choice $choice): array
    {
        $gone = [];
        foreach ($missing as $row) {
            $planned = \in_array(Row::text($row, 'planned'), ['1', 'true'], true);
            if (0 === Row::int($row, 'gone') && !$planned && $choice->takes(Row::text($row, 'schema_name'), Row::text($row, 'name'))) {
                $gone[] = Row::int($row, 'id');
            }
        }
        foreach (array_chunk($gone, Batch::SIZE) as $chunk) {
            $this->db->executeStatement('UPDATE entry SET gone_at = UTC_TIMESTAMP() WHERE id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        $this->joins->leave($gone);

        return $gone;
    }

    /**
     * Tables that have not changed but refer to one that has come in, come back or changed: their joins had nowhere to lead so far.
     *
     * @param list<array{0: Table}> $touched
     * @param array<string, true>   $seen
     * @param array<string, true>   $held
     *
     * @return list<Table>
     */
    private static function leadingTo(array $touched, Catalog $catalog, array $seen, array $held): array
    {
        $reached = [];
        foreach ($touched as [$table]) {
            $reached[$table->place()->key()] = true;
        }
        if ([] === $reached || \count($reached) === \count($catalog->tables)) {
            return [];
        }

        return array_values(array_filter($catalog->tables, static function (Table $table) use ($reached, $held, $seen): bool {
            $place = $table->place()->key();
            if (isset($reached[$place]) || isset($held[$place]) || !isset($seen[$place])) {
                return false;
            }
            foreach ($table->foreignKeys as $key) {
                if (isset($reached[$key->references->place()->key()])) {
                    return true;
                }
            }

            return false;
        }));
    }

    /** Estimates wander from survey to survey; only a difference that a person would notice is worth a write. */
    private static function grew(?int $before, ?int $after): bool
    {
        return ($before ?? -1) !== ($after ?? -1) && (null === $before || null === $after || abs($after - $before) > 0.2 * max(abs($before), 1));
    }

    /**
     * @param list<Table> $tables
     *
     * @return array<string, int> folded identifier → id
     */
    private function identifiers(array $tables): array
    {
        $names = [];
        foreach ($tables as $table) {
            array_push($names, $table->name, ...array_map(static fn (Column $column): string => $column->name, $table->columns));
        }

        return $this->names->identify($names);
    }

    /**
     * @param list<array{Table, string}> $fresh
     * @param array<string, int>         $identifiers
     *
     * @return array<string, int> place → id
     */
    private function insertEntries(int $sourceId, array $fresh, array $identifiers): array
    {
        $rows = [];
        foreach ($fresh as [$table, $print]) {
            $rows[] = [
                $sourceId, $table->schema, $table->name, $table->kind->value, $identifiers[FoldedNames::fold($table->name)], $table->comment,
                $table->rowEstimate, $table->sizeBytes,
                self::facts($table), $print, '', '', '', '', Standing::Open->value, \count($table->columns), 0,
            ];
        }
        Batch::insert(
            $this->db,
            'INSERT INTO entry (source_id, schema_name, name, table_type, identifier_id, comment, row_estimate, size_bytes, facts, fingerprint,
                business_name, grain, grain_fields, meaning, standing, field_count, described_count)
                VALUES',
            $rows,
            '',
            200,
        );
        $ids = [];
        if ([] !== $rows) {
            foreach ($this->db->iterateAssociative('SELECT id, schema_name, name FROM entry WHERE source_id = ?', [$sourceId]) as $row) {
                $ids[(new Place(Row::text($row, 'schema_name'), Row::text($row, 'name')))->key()] = Row::int($row, 'id');
            }
        }

        return $ids;
    }

    private function updateEntry(int $id, Table $table, string $print): void
    {
        $this->db->executeStatement(
            'UPDATE entry SET table_type = ?, comment = ?, row_estimate = COALESCE(?, row_estimate), size_bytes = ?, facts = ?, fingerprint = ?, gone_at = NULL
                WHERE id = ?',
            [$table->kind->value, $table->comment, $table->rowEstimate, $table->sizeBytes, self::facts($table), $print, $id],
        );
    }

    /**
     * @param list<array{0: Table, 1: string, 2?: int}> $touched
     * @param array<string, int>                        $ids
     * @param array<string, int>                        $identifiers
     * @param list<int>                                 $changed     ids of entries that were known before
     */
    private function storeFields(array $touched, array $ids, array $identifiers, array $changed, Progress $progress): void
    {
        foreach (array_chunk($changed, Batch::SIZE) as $chunk) {
            // Whatever is still there is taken back a moment later, by the same statement that stores it.
            $this->db->executeStatement(
                'UPDATE field SET gone_at = UTC_TIMESTAMP() WHERE gone_at IS NULL AND entry_id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
        }
        $rows = [];
        foreach ($touched as $i => [$table]) {
            foreach ($table->columns as $position => $column) {
                $rows[] = [
                    $ids[$table->place()->key()],
                    $column->name,
                    $position,
                    $identifiers[FoldedNames::fold($column->name)],
                    Batch::json(OpenForm::of($column)),
                    '',
                    '',
                    '',
                ];
            }
            if (\count($rows) >= Batch::SIZE || $i === \count($touched) - 1) {
                Batch::insert(
                    $this->db,
                    'INSERT INTO field (entry_id, name, position, identifier_id, facts, business_name, meaning, personal) VALUES',
                    $rows,
                    'ON DUPLICATE KEY UPDATE position = VALUES(position), facts = VALUES(facts), gone_at = NULL',
                );
                $rows = [];
                $progress->at('Storing entries', $i + 1, \count($touched));
            }
        }
    }

    private function recount(int $sourceId): void
    {
        $this->db->executeStatement(
            "UPDATE entry e JOIN (SELECT f.entry_id, COUNT(*) AS n, SUM(f.meaning <> '') AS d FROM field f JOIN entry x ON x.id = f.entry_id
                AND x.source_id = ? WHERE f.gone_at IS NULL GROUP BY f.entry_id) c ON c.entry_id = e.id
             SET e.field_count = c.n, e.described_count = c.d WHERE e.field_count <> c.n OR e.described_count <> c.d", [$sourceId]);
    }

    private static function facts(Table $table): string
    {
        return Batch::json(array_diff_key(
            OpenForm::of($table),
            ['columns' => 1, 'schema' => 1, 'name' => 1, 'comment' => 1, 'rowEstimate' => 1, 'sizeBytes' => 1],
        ));
    }
}
