<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
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

    public function name(int $field): string
    {
        $name = $this->db->fetchOne('SELECT name FROM field WHERE id = ?', [$field]);

        return \is_string($name) ? $name : '';
    }
}
