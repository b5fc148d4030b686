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
    public const COUNTED = "j.gone_at IS NULL AND (j.read_as = 'declared' OR j.stated = 'documented')";

    public function __construct(private Connection $db, private Fields $fields)
    {
    }

    /** Of those that are there: a survey reads them, somebody states them, or Fasti proposes them and nobody has said no. */
    public const LIVE = "j.gone_at IS NULL AND (j.read_as = 'declared' OR j.stated = 'documented' OR (j.stated = '' AND
        (j.read_as <> '' OR j.proposed <> '')))";

    /**
     * Equal for the same pairs in whatever order, and the same condition.
     *
     * @param list<array{int, int}>      $pairs ids of the fields, from and to
     * @param array{int, string}|null    $where id of a field, and its value
     */
    public static function identity(array $pairs, ?array $where = null): string
    {
        $said = array_map(static fn (array $pair): string => $pair[0].'>'.$pair[1], $pairs);
        sort($said);
        if (null !== $where) {
            $said[] = '?'.$where[0].'='.$where[1];
        }

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
                $join['cardinality']->from->value, $join['cardinality']->to->value, '', '', '', '',
            ];
        }
        Batch::insert($this->db, 'INSERT INTO entry_join (from_entry_id, to_entry_id, identity, names, read_as, stated, reason, on_delete, on_update,
            from_end, to_end, verb, verb_back, proposed, where_value)
            VALUES', $rows,
            'ON DUPLICATE KEY UPDATE names = VALUES(names), read_as = VALUES(read_as), reason = VALUES(reason), on_delete = VALUES(on_delete),
                on_update = VALUES(on_update), from_end = VALUES(from_end), to_end = VALUES(to_end), gone_at = NULL');
        $this->pair(array_diff_key($read, $known));
    }

    /**
     * @param list<Table>        $tables
     * @param array<string, int> $ids
     *
     * @return array<string, array{from: int, to: int, names: list<string>, kind: string, key: ForeignKey, cardinality: Cardinality, pairs: list<array{int,
     *     int}>}> by identity
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
     * @return array<int, list<JoinView>> by entry; a join between two of the entries stands under each side, one with itself once
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
            "SELECT j.*, f.name AS from_name, f.business_name AS from_title, t.name AS to_name, t.business_name AS to_title, w.name AS where_name
             FROM $among JOIN entry_join j ON j.id = k.id JOIN entry f ON f.id = j.from_entry_id JOIN entry t ON t.id = j.to_entry_id
                LEFT JOIN field w ON w.id = j.where_field_id
             WHERE ".self::LIVE.' ORDER BY j.from_entry_id, j.id', [$ids, $ids], $types);
        $found = [];
        $wanted = array_flip($ids);
        foreach ([true, false] as $out) {
            foreach ($rows as $row) {
                $id = Row::int($row, $out ? 'from_entry_id' : 'to_entry_id');
                // One that leads back to its own entry stands there once.
                if (isset($wanted[$id]) && ($out || Row::int($row, 'from_entry_id') !== Row::int($row, 'to_entry_id'))) {
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
            null === ($row['where_field_id'] ?? null) ? null : [Row::text($row, 'where_name'), Row::text($row, 'where_value')],
            is_numeric($row['confidence'] ?? null) ? (float) $row['confidence'] : null,
        );
    }

    /** @return list<int> the entries that joins lead to from an entry, or from which they lead to it */
    public function neighbours(int $entry, int $most): array
    {
        $ids = $this->db->fetchFirstColumn(
            'SELECT DISTINCT IF(j.from_entry_id = ?, j.to_entry_id, j.from_entry_id) FROM entry_join j
                WHERE '.self::LIVE.' AND (j.from_entry_id = ? OR j.to_entry_id = ?) LIMIT '.$most,
            [$entry, $entry, $entry],
        );

        return array_values(array_map(intval(...), array_filter($ids, is_numeric(...))));
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

    /** One join whatever became of it, from the side that holds the reference. */
    public function one(int $id): ?JoinView
    {
        return $this->views('j.id = ?', [$id])[0] ?? null;
    }

    /**
     * The joins of a source, those with a condition on them included.
     *
     * @param bool $all those too that were dismissed
     *
     * @return list<JoinView> each once, from the side that holds the reference
     */
    public function ofSource(int $source, bool $all = false): array
    {
        return $this->views('f.source_id = ? AND '.($all ? '(j.gone_at IS NULL)' : self::LIVE), [$source]);
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, JoinView> by id
     */
    public function many(array $ids): array
    {
        $found = [];
        foreach (array_chunk($ids, Batch::SIZE) as $chunk) {
            foreach ($this->views('j.id IN ('.implode(',', array_map(intval(...), $chunk)).')', []) as $join) {
                $found[$join->id] = $join;
            }
        }

        return $found;
    }

    /** @return list<JoinView> what stewards have dismissed */
    public function dismissed(int $source): array
    {
        return $this->views("j.gone_at IS NULL AND j.stated = 'dismissed' AND j.read_as <> 'declared' AND ? IN (0, f.source_id)", [$source]);
    }

    /** @return list<JoinView> the joins of the whole register, of all sources */
    public function everywhere(): array
    {
        return $this->views(self::LIVE, []);
    }

    /**
     * @param list<int|string> $parameters
     *
     * @return list<JoinView>
     */
    private function views(string $where, array $parameters): array
    {
        $from = 'FROM entry_join j JOIN entry f ON f.id = j.from_entry_id JOIN entry t ON t.id = j.to_entry_id LEFT JOIN field w ON w.id = j.where_field_id
            WHERE '.$where;
        $pairs = [];
        foreach ($this->db->iterateAssociative(
            "SELECT p.join_id, a.name AS near, b.name AS far FROM join_pair p JOIN field a ON a.id = p.from_field_id JOIN field b ON b.id = p.to_field_id
                WHERE p.join_id IN (SELECT j.id $from) ORDER BY p.join_id, p.position",
            $parameters,
        ) as $row) {
            $pairs[Row::int($row, 'join_id')][] = [Row::text($row, 'near'), Row::text($row, 'far')];
        }
        $views = [];
        foreach ($this->db->iterateAssociative(
            "SELECT j.*, f.name AS from_name, f.business_name AS from_title, t.name AS to_name, t.business_name AS to_title, w.name AS where_name $from
                ORDER BY f.schema_name, f.name, j.id",
            $parameters,
        ) as $row) {
            $views[] = self::view($row, $pairs[Row::int($row, 'id')] ?? [], true);
        }

        return $views;
    }

    /**
     * What people and surveys made of joins.
     *
     * @param list<int> $ids
     *
     * @return array<int, JoinStanding>
     */
    public function standings(array $ids): array
    {
        $standings = [];
        foreach (array_chunk($ids, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT id, read_as, stated, proposed, gone_at FROM entry_join WHERE id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $standings[Row::int($row, 'id')] = new JoinStanding(
                    Row::text($row, 'read_as'), Row::text($row, 'stated'), Row::text($row, 'proposed'), null !== $row['gone_at'],
                );
            }
        }

        return $standings;
    }

    /**
     * @param list<int> $fields
     *
     * @return list<array{int, int}> from, to: fields that joins which count pair, where both are among these
     */
    public function paired(array $fields): array
    {
        $paired = [];
        if ([] !== $fields) {
            $rows = $this->db->iterateAssociative(
                'SELECT p.from_field_id, p.to_field_id FROM join_pair p JOIN entry_join j ON j.id = p.join_id
                 WHERE p.from_field_id IN (?) AND p.to_field_id IN (?) AND '.self::COUNTED,
                [$fields, $fields],
                [ArrayParameterType::INTEGER, ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $paired[] = [Row::int($row, 'from_field_id'), Row::int($row, 'to_field_id')];
            }
        }

        return $paired;
    }

    /**
     * Brings what is proposed for a source in line with what was found. Declared and stated joins keep what they are; what was
     * proposed before and is not found again goes, unless somebody has decided about it.
     *
     * @param list<array{from: int, to: int, pairs: list<array{int, int}>, where: array{int, string}|null,
     *                                cardinality: Cardinality, confidence: float}> $proposals
     *
     * @return array<string, int> identity → join
     */
    public function propose(int $source, array $proposals): array
    {
        $rows = $byIdentity = [];
        foreach ($proposals as $one) {
            $identity = self::identity($one['pairs'], $one['where']);
            $byIdentity[$identity] = $one;
            $rows[] = [
                $one['from'], $one['to'], $identity, '[]', '', '', '', '', '', $one['cardinality']->from->value, $one['cardinality']->to->value, '', '',
                'waiting', (string) round($one['confidence'], 4), $one['where'][0] ?? null, $one['where'][1] ?? '',
            ];
        }
        Batch::insert($this->db, 'INSERT INTO entry_join (from_entry_id, to_entry_id, identity, names, read_as, stated, reason, on_delete, on_update,
            from_end, to_end, verb, verb_back,
            proposed, confidence, where_field_id, where_value) VALUES', $rows,
            "ON DUPLICATE KEY UPDATE proposed = 'waiting', confidence = VALUES(confidence), gone_at = NULL,
                from_end = IF(read_as = '' AND stated = '', VALUES(from_end), from_end), to_end = IF(read_as = '' AND stated = '', VALUES(to_end), to_end)");
        $this->pair($byIdentity);
        $ids = [];
        foreach (array_chunk(array_keys($byIdentity), Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT id, identity FROM entry_join WHERE identity IN (?)',
                [$chunk],
                [ArrayParameterType::STRING],
            ) as $row) {
                $ids[Row::text($row, 'identity')] = Row::int($row, 'id');
            }
        }
        $before = $this->db->fetchFirstColumn(
            "SELECT j.id FROM entry_join j JOIN entry f ON f.id = j.from_entry_id WHERE f.source_id = ? AND j.proposed <> '' AND j.gone_at IS NULL",
            [$source],
        );
        $lost = array_values(array_diff(array_map(intval(...), array_filter($before, is_numeric(...))), $ids));
        foreach (array_chunk($lost, Batch::SIZE) as $chunk) {
            $this->db->executeStatement(
                "UPDATE entry_join SET proposed = '', gone_at = IF(read_as = '' AND stated <> 'documented', UTC_TIMESTAMP(), NULL) WHERE id IN (?)",
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
        }

        return $ids;
    }

    /** What was dismissed waits again, since what speaks for it has changed. */
    public function reopen(int $id): void
    {
        $this->db->executeStatement("UPDATE entry_join SET stated = '' WHERE id = ? AND stated = 'dismissed'", [$id]);
    }

    /**
     * A join that a person states, or the one that is known by these fields already.
     *
     * @param non-empty-list<array{int, int}> $pairs ids of the fields
     * @param array{int, string}|null         $where
     */
    public function stated(int $from, int $to, array $pairs, ?array $where, Cardinality $cardinality): int
    {
        $identity = self::identity($pairs, $where);
        $this->db->executeStatement(
            "INSERT INTO entry_join (from_entry_id, to_entry_id, identity, names, read_as, stated, reason, on_delete, on_update, from_end, to_end, verb,
                verb_back, proposed, where_field_id, where_value)
                VALUES (?, ?, ?, '[]', '', '', '', '', '', ?, ?, '', '', '', ?, ?) ON DUPLICATE KEY UPDATE gone_at = NULL",
            [$from, $to, $identity, $cardinality->from->value, $cardinality->to->value, $where[0] ?? null, $where[1] ?? ''],
        );
        $this->pair([$identity => ['pairs' => $pairs]]);

        return Row::int(['id' => $this->db->fetchOne('SELECT id FROM entry_join WHERE identity = ?', [$identity])], 'id');
    }

    /**
     * @param list<int> $ids
     *
     * @return array<int, array{pairs: list<array{int, int}>, where: array{int, string}|null}> joins by the ids of their fields
     */
    public function fieldsOf(array $ids): array
    {
        $found = [];
        foreach (array_chunk($ids, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT p.join_id, p.from_field_id, p.to_field_id, j.where_field_id, j.where_value FROM join_pair p JOIN entry_join j ON j.id = p.join_id
                    WHERE p.join_id IN (?) ORDER BY p.join_id, p.position',
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $id = Row::int($row, 'join_id');
                $found[$id] ??= [
                    'pairs' => [],
                    'where' => null === $row['where_field_id'] ? null : [Row::int($row, 'where_field_id'), Row::text($row, 'where_value')],
                ];
                $found[$id]['pairs'][] = [Row::int($row, 'from_field_id'), Row::int($row, 'to_field_id')];
            }
        }

        return $found;
    }
}
