<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** Fields by their names, and what was decided about them. */
final readonly class Fields
{
    public function __construct(private Connection $db)
    {
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, array<string, int>> entry → name → id, those that are gone included
     */
    public function ids(array $entries): array
    {
        $ids = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative(
                'SELECT id, entry_id, name FROM field WHERE entry_id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $ids[Row::int($row, 'entry_id')][Row::text($row, 'name')] = Row::int($row, 'id');
            }
        }

        return $ids;
    }

    /** @return list<string> names of the fields that an entry has now */
    public function names(int $entry): array
    {
        return array_values(array_filter(
            $this->db->fetchFirstColumn('SELECT name FROM field WHERE entry_id = ? AND gone_at IS NULL', [$entry]),
            is_string(...),
        ));
    }

    /** @return array<string, string> field → yes or no, where a person has said whether it is personal */
    public function decisions(int $entry): array
    {
        $decisions = [];
        foreach ($this->db->iterateAssociative("SELECT name, personal FROM field WHERE entry_id = ? AND personal <> ''", [$entry]) as $row) {
            $decisions[Row::text($row, 'name')] = Row::text($row, 'personal');
        }

        return $decisions;
    }

    /**
     * @param list<int> $fields
     *
     * @return array<int, string> field → its name
     */
    public function called(array $fields): array
    {
        $names = [];
        if ([] !== $fields) {
            foreach ($this->db->iterateAssociative('SELECT id, name FROM field WHERE id IN (?)', [$fields], [ArrayParameterType::INTEGER]) as $row) {
                $names[Row::int($row, 'id')] = Row::text($row, 'name');
            }
        }

        return $names;
    }

    /**
     * Where fields stand.
     *
     * @param list<int> $fields
     *
     * @return array<int, FieldAt> by field
     */
    public function placed(array $fields): array
    {
        $placed = [];
        foreach (array_chunk(array_values(array_unique($fields)), Batch::SIZE) as $chunk) {
            $rows = $this->db->iterateAssociative(
                'SELECT f.id, f.name, f.business_name, f.gone_at, e.id AS entry, e.source_id, e.schema_name, e.name AS entry_name,
                    e.business_name AS entry_business_name,
                    e.table_type, e.standing, LEFT(f.meaning, 400) AS meaning FROM field f JOIN entry e ON e.id = f.entry_id WHERE f.id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $placed[Row::int($row, 'id')] = new FieldAt(
                    Row::int($row, 'id'),
                    Row::int($row, 'entry'),
                    Row::int($row, 'source_id'),
                    new FieldPlace(Row::text($row, 'schema_name'), Row::text($row, 'entry_name'), Row::text($row, 'name')),
                    Row::text($row, 'business_name'),
                    Row::text($row, 'entry_business_name'),
                    Row::text($row, 'table_type'),
                    Standing::Retired->value === Row::text($row, 'standing'),
                    null !== $row['gone_at'],
                    Row::text($row, 'meaning'),
                );
            }
        }

        return $placed;
    }

    /** @return list<int> the fields that an entry has now, in its order */
    public function present(int $entry): array
    {
        return array_values(array_map(intval(...), array_filter(
            $this->db->fetchFirstColumn('SELECT id FROM field WHERE entry_id = ? AND gone_at IS NULL ORDER BY position', [$entry]),
            is_numeric(...),
        )));
    }

    /**
     * Fields of the same name in entries of the same name, in other sources; the name of the entry may stand before it.
     *
     * @param list<int> $fields
     *
     * @return array<int, list<int>> field → its namesakes
     */
    public function namesakes(array $fields): array
    {
        $found = [];
        foreach (array_chunk($fields, Batch::SIZE) as $chunk) {
            $rows = $this->db->iterateAssociative(
                'SELECT f.id, g.id AS other FROM field f JOIN entry e ON e.id = f.entry_id JOIN entry d ON d.name = e.name AND d.source_id <> e.source_id
                    AND d.gone_at IS NULL
                    JOIN field g ON g.entry_id = d.id AND g.gone_at IS NULL
                        AND (g.name = f.name OR g.name = CONCAT(e.name, \'_\', f.name) OR f.name = CONCAT(e.name, \'_\', g.name)) WHERE f.id IN (?)',
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $found[Row::int($row, 'id')][] = Row::int($row, 'other');
            }
        }

        return $found;
    }

    public function name(int $field): string
    {
        $name = $this->db->fetchOne('SELECT name FROM field WHERE id = ?', [$field]);

        return \is_string($name) ? $name : '';
    }

    /**
     * Fields of the same name in any naming style, wherever they stand; those that are described first.
     *
     * @param list<int> $fields
     * @param bool      $all    those too that nobody has described
     *
     * @return array<int, list<AlikeField>> by identifier of what was asked
     */
    public function alike(array $fields, int $most = 60, bool $all = true): array
    {
        $found = [];
        $identifiers = [] === $fields ? []
            : $this->db->fetchFirstColumn('SELECT DISTINCT identifier_id FROM field WHERE id IN (?)', [$fields], [ArrayParameterType::INTEGER]);
        foreach ($identifiers as $identifier) {
            $identifier = is_numeric($identifier) ? (int) $identifier : 0;
            // Two questions, in the order of the index, stop early; one that sorts would read them all.
            foreach ($all ? ['<>', '='] : ['<>'] as $is) {
                $left = $most - \count($found[$identifier] ?? []);
                $rows = $left < 1 ? [] : $this->db->fetchAllAssociative(
                    "SELECT id, entry_id FROM field WHERE identifier_id = ? AND gone_at IS NULL AND meaning $is '' ORDER BY id LIMIT ".$left,
                    [$identifier],
                );
                foreach ($rows as $row) {
                    $found[$identifier][] = new AlikeField(Row::int($row, 'id'), Row::int($row, 'entry_id'), '<>' === $is);
                }
            }
        }

        return $found;
    }

    /** @return list<int> entries that have a field of the same name as this one, in any naming style */
    public function entriesAlike(int $field): array
    {
        return array_values(array_map(intval(...), array_filter($this->db->fetchFirstColumn(
            'SELECT DISTINCT g.entry_id FROM field f JOIN field g ON g.identifier_id = f.identifier_id WHERE f.id = ? LIMIT 500',
            [$field],
        ), is_numeric(...))));
    }

    /**
     * What nobody has described of a source, with what makes a field worth it.
     *
     * @return iterable<UndescribedField>
     */
    public function undescribed(int $source): iterable
    {
        $rows = $this->db->iterateAssociative(
            "SELECT f.id, f.entry_id, f.name, a.alike FROM field f JOIN entry e ON e.id = f.entry_id
             JOIN (SELECT identifier_id, COUNT(*) AS alike FROM field WHERE gone_at IS NULL GROUP BY identifier_id) a ON a.identifier_id = f.identifier_id
             WHERE e.source_id = ? AND e.gone_at IS NULL AND f.gone_at IS NULL AND f.meaning = '' ORDER BY f.entry_id, f.position",
            [$source],
        );
        foreach ($rows as $row) {
            yield new UndescribedField(Row::int($row, 'id'), Row::int($row, 'entry_id'), Row::text($row, 'name'), Row::int($row, 'alike'));
        }
    }

    /**
     * All that is said of fields that are there.
     *
     * @return iterable<Saying>
     */
    public function sayings(): iterable
    {
        $rows = $this->db->iterateAssociative(
            "SELECT f.id, f.entry_id, e.source_id, f.name, f.identifier_id, f.business_name, f.meaning, JSON_UNQUOTE(JSON_EXTRACT(f.facts, '$.type')) AS type
             FROM field f JOIN entry e ON e.id = f.entry_id
             WHERE f.gone_at IS NULL AND e.gone_at IS NULL AND (f.meaning <> '' OR f.business_name <> '') ORDER BY f.id",
        );
        foreach ($rows as $row) {
            yield new Saying(
                Row::int($row, 'id'), Row::int($row, 'entry_id'), Row::int($row, 'source_id'), Row::text($row, 'name'), Row::int($row, 'identifier_id'),
                Row::text($row, 'business_name'), Row::text($row, 'meaning'), Row::text($row, 'type'),
            );
        }
    }
}
