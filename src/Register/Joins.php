<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** The joins of the register, with an identity of their own: the fields that they pair. */
final readonly class Joins
{
    /** Of those that count: declared or documented. */
    private const COUNTED = "j.gone_at IS NULL AND (j.read_as = 'declared' OR j.stated = 'documented')";

    public function __construct(private Connection $db, private Fields $fields)
    {
    }

    /**
     * Equal for the same pairs in whatever order.
     *
     * @param list<array{int, int}> $pairs ids of the fields, from and to
     */
    public static function identity(array $pairs): string
    {
        $said = array_map(static fn (array $pair): string => $pair[0].'>'.$pair[1], $pairs);
        sort($said);

        return hash('xxh128', implode(',', $said));
    }

    /**
     * Brings the joins of tables in line with what a survey read of them. Only joins that surveys read are touched: what a
     * person has stated stays, and so do the verbs of all.
     *
     * @param list<Table>        $tables
     * @param array<string, int> $ids    key of the place → entry
     */
    public function follow(array $tables, array $ids): void
    {
        $read = $this->read($tables, $ids);
        $touched = array_values(array_unique(array_map(static fn (Table $table): int => $ids[$table->place()->key()], $tables)));
        $known = $this->known($touched);
        $gone = array_diff_key($known, $read);
        foreach (array_chunk(array_values($gone), Batch::SIZE) as $chunk) {
            // One that a person states as well stands on; only the database does not declare it any more.
            $this->db->executeStatement(
                "UPDATE entry_join SET read_as = '', names = '[]', gone_at = IF(stated = '', UTC_TIMESTAMP(), NULL) WHERE id IN (?)",
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
        }
        $rows = [];
        foreach ($read as $identity => $join) {
            $rows[] = [
                $join['from'], $join['to'], $identity, Batch::json($join['names']), $join['kind'], '', $join['key']->reason, $join['key']->onDelete,
                $join['key']->onUpdate,
                $join['cardinality']->from->value, $join['cardinality']->to->value, '', '',
            ];
        }
        Batch::insert($this->db, 'INSERT INTO entry_join (from_entry_id, to_entry_id, identity, names, read_as, stated, reason, on_delete, on_update, from_end, to_end, verb, verb_back)
            VALUES', $rows,
            'ON DUPLICATE KEY UPDATE names = VALUES(names), read_as = VALUES(read_as), reason = VALUES(reason), on_delete = VALUES(on_delete),
                on_update = VALUES(on_update), from_end = VALUES(from_end), to_end = VALUES(to_end), gone_at = NULL');
        $this->pair(array_diff_key($read, $known));
    }

    /**
     * @param list<Table>        $tables
     * @param array<string, int> $ids
     *
     * @return array<string, array{from: int, to: int, names: list<string>, kind: string, key: ForeignKey, cardinality: Cardinality, pairs: list<array{int, int}>}> by identity
     */
    private function read(array $tables, array $ids): array
    {
        $entries = [];
        foreach ($tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $entries[] = $ids[$table->place()->key()];
                $entries[] = $ids[$key->references->place()->key()] ?? 0;
            }
        }
        $fields = $this->fields->ids(array_values(array_unique($entries)));
        $read = [];
        foreach ($tables as $table) {
            $from = $ids[$table->place()->key()];
            foreach ($table->foreignKeys as $key) {
                $to = $ids[$key->references->place()->key()] ?? null;
                $pairs = null === $to ? null : self::pairs($key, $fields[$from] ?? [], $fields[$to] ?? []);
                if (null === $to || null === $pairs) {
                    // It leads to what the survey left out.
                    continue;
                }
                $identity = self::identity($pairs);
                $names = null === $key->name ? [] : [$key->name];
                if (isset($read[$identity])) {
                    $read[$identity]['names'] = array_values(array_unique([...$read[$identity]['names'], ...$names]));
                } else {
                    $kind = '' === $key->reason ? JoinKind::Declared : JoinKind::Proposed;
                    $read[$identity] = [
                        'from' => $from,
                        'to' => $to,
                        'names' => $names,
                        'kind' => $kind->value,
                        'key' => $key,
                        'cardinality' => Cardinality::declared($table, $key),
                        'pairs' => $pairs,
                    ];
                }
            }
        }

        return $read;
    }

    /**
     * @param array<string, int> $near fields of the one entry, by name
     * @param array<string, int> $far
     *
     * @return list<array{int, int}>|null
     */
    private static function pairs(ForeignKey $key, array $near, array $far): ?array
    {
        $pairs = [];
        foreach ($key->columns as $i => $column) {
            $other = $key->references->columns[$i];
            if (!isset($near[$column], $far[$other])) {
                return null;
            }
            $pairs[] = [$near[$column], $far[$other]];
        }

        return $pairs;
    }

    /**
     * @param list<int> $entries
     *
     * @return array<string, int> of joins that surveys have read from these entries: identity → id
     */
    private function known(array $entries): array
    {
        $known = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                "SELECT id, identity FROM entry_join WHERE read_as <> '' AND gone_at IS NULL AND from_entry_id IN (?)",
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $known[Row::text($row, 'identity')] = Row::int($row, 'id');
            }
        }

        return $known;
    }

    /** @param array<string, array{pairs: list<array{int, int}>}&array<string, mixed>> $joins by identity */
    private function pair(array $joins): void
    {
        foreach (array_chunk($joins, Batch::SIZE, true) as $chunk) {
            $rows = [];
            foreach ($this->db->iterateAssociative(
                'SELECT id, identity FROM entry_join WHERE identity IN (?)',
                [array_keys($chunk)],
                [ArrayParameterType::STRING],
            ) as $row) {
                foreach ($chunk[Row::text($row, 'identity')]['pairs'] as $position => [$from, $to]) {
                    $rows[] = [Row::int($row, 'id'), $position, $from, $to];
                }
            }
            Batch::insert($this->db, 'INSERT IGNORE INTO join_pair (join_id, position, from_field_id, to_field_id) VALUES', $rows);
        }
    }

    /** @param list<int> $entries that are gone: what surveys read of their joins goes with them */
    public function leave(array $entries): void
    {
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            $this->db->executeStatement(
                "UPDATE entry_join SET gone_at = UTC_TIMESTAMP() WHERE gone_at IS NULL AND stated = '' AND (from_entry_id IN (?) OR to_entry_id IN (?))",
                [$chunk, $chunk], [ArrayParameterType::INTEGER, ArrayParameterType::INTEGER]);
        }
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, list<JoinView>> by entry; a join between two of the entries, or of one with itself, stands under each side
     */
    public function of(array $ids): array
    {
        if ([] === $ids) {
            return [];
        }
        $types = [ArrayParameterType::INTEGER, ArrayParameterType::INTEGER];
        $among = '(SELECT id FROM entry_join WHERE from_entry_id IN (?) UNION SELECT id FROM entry_join WHERE to_entry_id IN (?)) k';
        $pairs = [];
        foreach ($this->db->iterateAssociative(
            "SELECT p.join_id, f.name AS near, t.name AS far
                FROM $among JOIN join_pair p ON p.join_id = k.id JOIN field f ON f.id = p.from_field_id JOIN field t ON t.id = p.to_field_id
                ORDER BY p.join_id, p.position",
            [$ids, $ids],
            $types,
        ) as $row) {
            $pairs[Row::int($row, 'join_id')][] = [Row::text($row, 'near'), Row::text($row, 'far')];
        }
        $rows = $this->db->fetchAllAssociative(
            "SELECT j.*, f.name AS from_name, f.business_name AS from_title, t.name AS to_name, t.business_name AS to_title
             FROM $among JOIN entry_join j ON j.id = k.id JOIN entry f ON f.id = j.from_entry_id JOIN entry t ON t.id = j.to_entry_id
             WHERE j.gone_at IS NULL ORDER BY j.from_entry_id, j.id", [$ids, $ids], $types);
        $found = [];
        $wanted = array_flip($ids);
        foreach ([true, false] as $out) {
            foreach ($rows as $row) {
                $id = Row::int($row, $out ? 'from_entry_id' : 'to_entry_id');
                if (isset($wanted[$id])) {
                    $found[$id][] = self::view($row, $pairs[Row::int($row, 'id')] ?? [], $out);
                }
            }
        }

        return $found;
    }

    /**
     * @param array<string, mixed>        $row
     * @param list<array{string, string}> $pairs
     */
    private static function view(array $row, array $pairs, bool $out): JoinView
    {
        return new JoinView(
            Row::int($row, 'id'),
            $out,
            Row::int($row, 'from_entry_id'),
            Row::int($row, 'to_entry_id'),
            Entries::title(Row::text($row, 'from_title'), Row::text($row, 'from_name')),
            Entries::title(Row::text($row, 'to_title'), Row::text($row, 'to_name')),
            Row::text($row, 'from_name'),
            Row::text($row, 'to_name'),
            $pairs,
            new Cardinality(End::from(Row::text($row, 'from_end')), End::from(Row::text($row, 'to_end'))),
            Row::text($row, 'verb'),
            Row::text($row, 'verb_back'),
            JoinKind::of(Row::text($row, 'read_as'), Row::text($row, 'stated')),
            Row::text($row, 'on_delete'),
            Row::text($row, 'on_update'),
            array_values(array_filter(Row::json($row, 'names'), is_string(...))),
            Row::text($row, 'reason'),
        );
    }

    /** @return list<int> the entries that joins lead to from an entry, or from which they lead to it */
    public function neighbours(int $entry, int $most): array
    {
        $ids = $this->db->fetchFirstColumn(
            'SELECT DISTINCT IF(from_entry_id = ?, to_entry_id, from_entry_id) FROM entry_join
                WHERE gone_at IS NULL AND (from_entry_id = ? OR to_entry_id = ?) LIMIT '.$most,
            [$entry, $entry, $entry],
        );

        return array_values(array_map(intval(...), array_filter($ids, is_numeric(...))));
    }

    /** @return array<int, array<string, int>> how many joins lead from the entries of a source and schema */
    public function counts(): array
    {
        $counts = [];
        foreach ($this->db->iterateAssociative('SELECT e.source_id, e.schema_name, COUNT(*) AS n
            FROM entry_join j JOIN entry e ON e.id = j.from_entry_id WHERE '.self::COUNTED.' GROUP BY e.source_id, e.schema_name') as $row) {
            $counts[Row::int($row, 'source_id')][Row::text($row, 'schema_name')] = Row::int($row, 'n');
        }

        return $counts;
    }

    /** The join of a source that a constraint of this name declares. */
    public function named(int $source, string $name): ?int
    {
        $id = $this->db->fetchOne(
            'SELECT j.id FROM entry_join j JOIN entry e ON e.id = j.from_entry_id
                WHERE e.source_id = ? AND j.gone_at IS NULL AND JSON_CONTAINS(j.names, JSON_QUOTE(?)) LIMIT 1',
            [$source, $name],
        );

        return is_numeric($id) ? (int) $id : null;
    }

    /**
     * What the history calls joins: the entry and the fields that refer.
     *
     * @param list<int> $ids
     *
     * @return array<int, string>
     */
    public function names(array $ids): array
    {
        $names = [];
        foreach ($this->db->iterateAssociative(
            "SELECT p.join_id, e.name, GROUP_CONCAT(f.name ORDER BY p.position SEPARATOR ', ') AS fields
                FROM join_pair p JOIN field f ON f.id = p.from_field_id JOIN entry e ON e.id = f.entry_id WHERE p.join_id IN (?)
                GROUP BY p.join_id, e.name",
            [$ids],
            [ArrayParameterType::INTEGER],
        ) as $row) {
            $names[Row::int($row, 'join_id')] = Row::text($row, 'name').' by '.Row::text($row, 'fields');
        }

        return $names;
    }
}
