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
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Search\Trigrams;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Wording\Naming as Words;
use Fasti\Support\Row;

/**
 * Brings the register in line with a catalog, inside the caller's transaction: whole or not at all.
 *
 * Only what a survey reads is written; no text that a person wrote is touched. What has not changed is not written
 * again, which is what makes a second survey cheap. What the choice no longer covers is left as it was.
 */
final readonly class ApplyCatalog
{
    private const BATCH = 500;

    public function __construct(private Connection $db)
    {
    }

    /**
     * @param array<string, true> $held places (schema, a zero byte, name) that stay as they are, whatever the catalog says of them
     *
     * @return array{new: int, changed: int, gone: int, back: int, same: int} entries, by what became of them
     */
    public function apply(int $sourceId, Catalog $catalog, Choice $choice, Progress $progress, array $held = []): array
    {
        $known = [];
        foreach ($this->db->iterateAssociative('SELECT id, schema_name, name, fingerprint, gone_at IS NOT NULL AS gone, row_estimate, size_bytes, JSON_VALUE(facts, \'$.traits[0]\') AS trait FROM entry WHERE source_id = ?', [$sourceId]) as $row) {
            $known[(new Place(Row::text($row, 'schema_name'), Row::text($row, 'name')))->key()] = $row;
        }
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
                if (null !== $table->rowEstimate && self::grew(Row::maybeInt($row, 'row_estimate'), $table->rowEstimate) || self::grew(Row::maybeInt($row, 'size_bytes'), $table->sizeBytes)) {
                    // Engines without an estimate keep the number of rows that a profile counted.
                    $this->db->executeStatement('UPDATE entry SET row_estimate = COALESCE(?, row_estimate), size_bytes = ? WHERE id = ?', [$table->rowEstimate, $table->sizeBytes, Row::int($row, 'id')]);
                }
            }
        }
        $progress->at('storing entries', 0, \count($fresh) + \count($changed));
        $identifiers = $this->identifiers(array_merge(array_column($fresh, 0), array_column($changed, 0)));
        $ids = array_map(static fn (array $row): int => Row::int($row, 'id'), $known);
        $ids = $this->insertEntries($sourceId, $fresh, $identifiers) + $ids;
        foreach ($changed as [$table, $print, $id]) {
            $this->updateEntry($id, $table, $print);
        }
        $touched = array_merge($fresh, $changed);
        $this->storeFields($touched, $ids, $identifiers, array_column($changed, 2), $progress);
        $this->storeJoins([...array_column($touched, 0), ...self::leadingTo($fresh, $catalog, $seen, $held)], $ids);

        $gone = [];
        foreach ($known as $place => $row) {
            if (!isset($seen[$place]) && 0 === Row::int($row, 'gone') && !str_starts_with(Row::text($row, 'trait'), 'planned') && $choice->takes(Row::text($row, 'schema_name'), Row::text($row, 'name'))) {
                $gone[] = Row::int($row, 'id');
            }
        }
        foreach (array_chunk($gone, self::BATCH) as $chunk) {
            $this->db->executeStatement('UPDATE entry SET gone_at = UTC_TIMESTAMP() WHERE id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
            $this->db->executeStatement('UPDATE entry_join SET gone_at = UTC_TIMESTAMP() WHERE gone_at IS NULL AND (from_entry_id IN (?) OR to_entry_id IN (?))', [$chunk, $chunk], [ArrayParameterType::INTEGER, ArrayParameterType::INTEGER]);
        }
        $counts['gone'] = \count($gone);
        if ([] !== $touched || [] !== $gone) {
            $this->recount($sourceId);
        }

        return $counts;
    }

    /**
     * Tables that have not changed but refer to one that has just come in: their joins had nowhere to lead so far.
     *
     * @param list<array{Table, string}> $fresh
     * @param array<string, true>        $seen
     * @param array<string, true>        $held
     *
     * @return list<Table>
     */
    private static function leadingTo(array $fresh, Catalog $catalog, array $seen, array $held): array
    {
        $new = [];
        foreach ($fresh as [$table]) {
            $new[$table->place()->key()] = true;
        }
        if ([] === $new || \count($new) === \count($catalog->tables)) {
            return [];
        }

        return array_values(array_filter($catalog->tables, static function (Table $table) use ($new, $held, $seen): bool {
            $place = $table->place()->key();
            if (isset($new[$place]) || isset($held[$place]) || !isset($seen[$place])) {
                return false;
            }
            foreach ($table->foreignKeys as $key) {
                if (isset($new[$key->references->place()->key()])) {
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

        return $this->identify($names);
    }

    /**
     * Makes the identifiers that are not there yet.
     *
     * @param list<string> $names
     *
     * @return array<string, int> folded (see fold()) → id
     */
    public function identify(array $names): array
    {
        $needed = array_fill_keys(array_map(self::fold(...), $names), true);
        $ids = [];
        foreach (array_chunk(array_map(strval(...), array_keys($needed)), 2000) as $chunk) {
            $found = $this->identifierIds($chunk);
            $missing = array_values(array_filter($chunk, static fn (string $folded): bool => !isset($found[$folded])));
            if ([] !== $missing) {
                $this->insertMany('INSERT IGNORE INTO identifier (folded) VALUES', array_map(static fn (string $folded): array => [$folded], $missing));
                $made = $this->identifierIds($missing);
                $grams = [];
                foreach ($made as $folded => $id) {
                    foreach (Trigrams::of((string) $folded) as $gram) {
                        $grams[] = [$gram, $id];
                    }
                }
                $this->insertMany('INSERT IGNORE INTO identifier_gram (gram, identifier_id) VALUES', $grams, 4000);
                $found += $made;
            }
            $ids += $found;
        }

        return $ids;
    }

    /**
     * @param list<string> $folded
     *
     * @return array<string, int>
     */
    private function identifierIds(array $folded): array
    {
        $ids = [];
        foreach ($this->db->iterateAssociative('SELECT id, folded FROM identifier WHERE folded IN (?)', [$folded], [ArrayParameterType::STRING]) as $row) {
            $ids[Row::text($row, 'folded')] = Row::int($row, 'id');
        }

        return $ids;
    }

    /** Identifiers of signs alone fold to nothing; they are then kept as they are, so that each still has an entry. */
    public static function fold(string $name): string
    {
        $folded = Words::folded($name);

        return mb_substr('' === $folded ? $name : $folded, 0, 190);
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
            $rows[] = [$sourceId, $table->schema, $table->name, $table->kind->value, $identifiers[self::fold($table->name)], $table->comment, $table->rowEstimate, $table->sizeBytes, self::facts($table), $print, '', '', '', '', '', Standing::Open->value, \count($table->columns), 0];
        }
        $this->insertMany('INSERT INTO entry (source_id, schema_name, name, kind, identifier_id, comment, row_estimate, size_bytes, facts, fingerprint, business_name, grain, grain_fields, meaning, json_schema, standing, field_count, described_count) VALUES', $rows, 200);
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
        $this->db->executeStatement('UPDATE entry SET kind = ?, comment = ?, row_estimate = COALESCE(?, row_estimate), size_bytes = ?, facts = ?, fingerprint = ?, gone_at = NULL WHERE id = ?', [$table->kind->value, $table->comment, $table->rowEstimate, $table->sizeBytes, self::facts($table), $print, $id]);
    }

    /**
     * @param list<array{0: Table, 1: string, 2?: int}> $touched
     * @param array<string, int>                        $ids
     * @param array<string, int>                        $identifiers
     * @param list<int>                                 $changed     ids of entries that were known before
     */
    private function storeFields(array $touched, array $ids, array $identifiers, array $changed, Progress $progress): void
    {
        foreach (array_chunk($changed, self::BATCH) as $chunk) {
            // Whatever is still there is taken back a moment later, by the same statement that stores it.
            $this->db->executeStatement('UPDATE field SET gone_at = UTC_TIMESTAMP() WHERE gone_at IS NULL AND entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        $rows = [];
        foreach ($touched as $i => [$table]) {
            foreach ($table->columns as $position => $column) {
                $rows[] = [$ids[$table->place()->key()], $column->name, $position, $identifiers[self::fold($column->name)], self::json(OpenForm::of($column)), '', '', ''];
            }
            if (\count($rows) >= self::BATCH || $i === \count($touched) - 1) {
                $this->insertMany('INSERT INTO field (entry_id, name, position, identifier_id, facts, business_name, meaning, personal) VALUES', $rows, self::BATCH, 'ON DUPLICATE KEY UPDATE position = VALUES(position), facts = VALUES(facts), gone_at = NULL');
                $rows = [];
                $progress->at('storing entries', $i + 1, \count($touched));
            }
        }
    }

    /**
     * @param list<Table>        $tables
     * @param array<string, int> $ids
     */
    private function storeJoins(array $tables, array $ids): void
    {
        $rows = $touched = [];
        foreach ($tables as $table) {
            $from = $touched[] = $ids[$table->place()->key()];
            foreach ($table->foreignKeys as $i => $key) {
                $to = $ids[$key->references->place()->key()] ?? null;
                if (null === $to) {
                    continue;
                }
                $cardinality = Cardinality::declared($table, $key);
                $rows[] = [$from, $to, $key->name ?? ('' === $key->reason ? '#'.$i : 'by value of '.mb_strimwidth(implode(', ', $key->columns), 0, 170, '…')), self::json(array_map(null, $key->columns, $key->references->columns)), '' === $key->reason ? 'declared' : 'proposed', $key->onDelete, $key->onUpdate, $cardinality->from->value, $cardinality->to->value, '', ''];
            }
        }
        foreach (array_chunk($touched, self::BATCH) as $chunk) {
            $this->db->executeStatement('UPDATE entry_join SET gone_at = UTC_TIMESTAMP() WHERE gone_at IS NULL AND from_entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        // A one-column join has its pair as [[a, b]]; array_map(null, …) gives the same shape for any number.
        $this->insertMany('INSERT INTO entry_join (from_entry_id, to_entry_id, name, pairs, kind, on_delete, on_update, from_end, to_end, verb, verb_back) VALUES', $rows, self::BATCH, 'ON DUPLICATE KEY UPDATE to_entry_id = VALUES(to_entry_id), pairs = VALUES(pairs), on_delete = VALUES(on_delete), on_update = VALUES(on_update), from_end = VALUES(from_end), to_end = VALUES(to_end), gone_at = NULL');
    }

    private function recount(int $sourceId): void
    {
        $this->db->executeStatement(
            "UPDATE entry e JOIN (SELECT f.entry_id, COUNT(*) AS n, SUM(f.meaning <> '') AS d FROM field f JOIN entry x ON x.id = f.entry_id AND x.source_id = ? WHERE f.gone_at IS NULL GROUP BY f.entry_id) c ON c.entry_id = e.id
             SET e.field_count = c.n, e.described_count = c.d WHERE e.field_count <> c.n OR e.described_count <> c.d", [$sourceId]);
    }

    /**
     * @param list<list<string|int|null>> $rows
     * @param int<1, max>                 $batch
     */
    private function insertMany(string $head, array $rows, int $batch = self::BATCH, string $tail = ''): void
    {
        foreach (array_chunk($rows, $batch) as $chunk) {
            $one = '('.implode(', ', array_fill(0, \count($chunk[0]), '?')).')';
            $this->db->executeStatement($head.' '.implode(', ', array_fill(0, \count($chunk), $one)).' '.$tail, array_merge(...$chunk));
        }
    }

    private static function facts(Table $table): string
    {
        return self::json(array_diff_key(OpenForm::of($table), ['columns' => 1, 'schema' => 1, 'name' => 1, 'comment' => 1, 'rowEstimate' => 1, 'sizeBytes' => 1]));
    }

    private static function json(mixed $value): string
    {
        return json_encode($value, \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
    }
}
