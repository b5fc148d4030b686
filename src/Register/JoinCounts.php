<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Support\Row;

/** How many joins there are: of each standing, of each schema, at each entry. */
final readonly class JoinCounts
{
    public function __construct(private Connection $db)
    {
    }

    /** @return array<int, array<string, int>> how many joins lead from the entries of a source and schema */
    public function counts(): array
    {
        $counts = [];
        foreach ($this->db->iterateAssociative('SELECT e.source_id, e.schema_name, COUNT(*) AS n
            FROM entry_join j JOIN entry e ON e.id = j.from_entry_id WHERE '.Joins::COUNTED.' GROUP BY e.source_id, e.schema_name') as $row) {
            $counts[Row::int($row, 'source_id')][Row::text($row, 'schema_name')] = Row::int($row, 'n');
        }

        return $counts;
    }

    /** @return array<int, array{int, int}> source → how many proposals wait, and how many of them are as sure as that */
    public function waiting(float $sure): array
    {
        $waiting = [];
        $rows = $this->db->iterateAssociative(
            "SELECT f.source_id, COUNT(*) AS n, COALESCE(SUM(j.confidence >= ?), 0) AS sure FROM entry_join j JOIN entry f ON f.id = j.from_entry_id
             WHERE j.gone_at IS NULL AND j.read_as <> 'declared' AND j.stated = '' AND (j.proposed <> '' OR j.read_as <> '') GROUP BY f.source_id
             ORDER BY n DESC",
            [$sure],
        );
        foreach ($rows as $row) {
            $waiting[Row::int($row, 'source_id')] = [Row::int($row, 'n'), Row::int($row, 'sure')];
        }

        return $waiting;
    }

    /** @return array<int, int> entry → joins that count and lead to it or from it */
    public function degrees(int $source): array
    {
        $degrees = [];
        foreach (['from', 'to'] as $end) {
            $rows = $this->db->iterateAssociative(
                "SELECT j.{$end}_entry_id AS entry, COUNT(*) AS n FROM entry_join j JOIN entry e ON e.id = j.{$end}_entry_id
                 WHERE e.source_id = ? AND ".Joins::COUNTED.' GROUP BY entry',
                [$source],
            );
            foreach ($rows as $row) {
                $degrees[Row::int($row, 'entry')] = ($degrees[Row::int($row, 'entry')] ?? 0) + Row::int($row, 'n');
            }
        }

        return $degrees;
    }

    /** Of a source, or of all. */
    public function tally(int $source = 0): JoinTally
    {
        $row = $this->db->fetchAssociative(
            "SELECT COALESCE(SUM(j.read_as <> 'declared' AND j.stated = '' AND (j.proposed <> '' OR j.read_as <> '')), 0) AS proposed,
                COALESCE(SUM(j.read_as = 'declared'), 0) AS declared,
                COALESCE(SUM(j.stated = 'documented' AND j.read_as <> 'declared'), 0) AS documented,
                COALESCE(SUM(j.stated = 'dismissed' AND j.read_as <> 'declared'), 0) AS dismissed
                FROM entry_join j JOIN entry f ON f.id = j.from_entry_id WHERE j.gone_at IS NULL AND ? IN (0, f.source_id)",
            [$source],
        ) ?: [];

        return new JoinTally(Row::int($row, 'proposed'), Row::int($row, 'declared'), Row::int($row, 'documented'), Row::int($row, 'dismissed'));
    }
}
