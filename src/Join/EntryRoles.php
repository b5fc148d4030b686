<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Join\KindGuess;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** Kinds and subject areas of entries. */
final readonly class EntryRoles
{
    public function __construct(private Connection $db)
    {
    }

    /** @param array<int, KindGuess> $guesses by entry */
    public function keep(array $guesses): void
    {
        $rows = [];
        foreach ($guesses as $entry => $guess) {
            $rows[] = [$entry, $guess->kind->value, mb_substr($guess->reason, 0, 400), Batch::json($guess->traits), $guess->key, '', ''];
        }
        Batch::insert($this->db, 'INSERT INTO entry_role (entry_id, kind, reason, traits, key_kind, decided, area) VALUES', $rows,
            'ON DUPLICATE KEY UPDATE kind = VALUES(kind), reason = VALUES(reason), traits = VALUES(traits), key_kind = VALUES(key_kind)');
    }

    /** A steward has said it, or taken it back. */
    public function say(int $entry, string $column, string $value): void
    {
        $decided = 'decided' === $column;
        $this->db->executeStatement(
            'INSERT INTO entry_role (entry_id, kind, reason, traits, key_kind, decided, area) VALUES (?, \'\', \'\', \'[]\', \'\', ?, ?)
                ON DUPLICATE KEY UPDATE '.($decided ? 'decided = VALUES(decided)' : 'area = VALUES(area)'),
            [$entry, $decided ? $value : '', $decided ? '' : $value],
        );
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, Role> by entry
     */
    public function of(array $entries): array
    {
        $found = [];
        foreach (array_chunk($entries, Batch::SIZE) as $chunk) {
            foreach ($this->db->iterateAssociative('SELECT * FROM entry_role WHERE entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]) as $row) {
                $found[Row::int($row, 'entry_id')] = new Role(
                    Row::text($row, 'kind'), Row::text($row, 'decided'), Row::text($row, 'reason'),
                    array_values(array_filter(Row::json($row, 'traits'), is_string(...))), Row::text($row, 'key_kind'), Row::text($row, 'area'),
                );
            }
        }

        return $found;
    }

    /** @return array<string, list<int>> area → entries, by name */
    public function areas(): array
    {
        $areas = [];
        foreach ($this->db->iterateAssociative("SELECT entry_id, area FROM entry_role WHERE area <> '' ORDER BY area, entry_id") as $row) {
            $areas[Row::text($row, 'area')][] = Row::int($row, 'entry_id');
        }

        return $areas;
    }

    /** @return array<string, int> kind, as decided or as it seems → entries */
    public function kinds(): array
    {
        $kinds = [];
        foreach ($this->db->iterateAssociative("SELECT IF(decided <> '', decided, kind) AS kind, COUNT(*) AS n FROM entry_role GROUP BY 1") as $row) {
            if ('' !== Row::text($row, 'kind')) {
                $kinds[Row::text($row, 'kind')] = Row::int($row, 'n');
            }
        }

        return $kinds;
    }

    /** A condition on the column e.id. */
    public function ofKind(string $kind): string
    {
        return "e.id IN (SELECT entry_id FROM entry_role WHERE IF(decided <> '', decided, kind) = ".$this->db->quote($kind).')';
    }

    /** The same. */
    public function inArea(string $area): string
    {
        return 'e.id IN (SELECT entry_id FROM entry_role WHERE area = '.$this->db->quote($area).')';
    }

    /** How many entries have a kind, as decided or as it seems. */
    public function count(): int
    {
        return Row::int(['n' => $this->db->fetchOne("SELECT COUNT(*) FROM entry_role WHERE kind <> '' OR decided <> ''")], 'n');
    }
}
