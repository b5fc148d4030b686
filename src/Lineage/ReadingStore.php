<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/**
 * What was read of views, and which field depends on which.
 *
 * @phpstan-type Dependence array{entry: int, field: int, from: int, part: string}
 */
final readonly class ReadingStore
{
    public function __construct(private Connection $db)
    {
    }

    /**
     * Takes the place of all that was kept of these views.
     *
     * @param list<int>                                   $views    all that the source has, those that are gone included
     * @param array<int, ViewReading>                     $readings by view
     * @param list<array{int, int, int, string}>          $edges    view, its field or 0, the field that it depends on, part
     */
    public function replace(array $views, array $readings, array $edges): void
    {
        foreach (array_chunk($views, Batch::SIZE) as $chunk) {
            $this->db->executeStatement('DELETE FROM lineage WHERE entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
            $this->db->executeStatement('DELETE FROM view_reading WHERE entry_id IN (?)', [$chunk], [ArrayParameterType::INTEGER]);
        }
        Batch::insert($this->db, 'INSERT INTO lineage (entry_id, field_id, from_id, part) VALUES', $edges);
        $rows = [];
        foreach ($readings as $view => $reading) {
            $rows[] = [$view, Batch::json(OpenForm::of($reading))];
        }
        Batch::insert($this->db, 'INSERT INTO view_reading (entry_id, data) VALUES', $rows, '', 50);
    }

    public function isEmpty(): bool
    {
        return false === $this->db->fetchOne('SELECT 1 FROM view_reading LIMIT 1');
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, ViewReading>
     */
    public function of(array $entries): array
    {
        $readings = [];
        if ([] !== $entries) {
            foreach ($this->db->iterateAssociative(
                'SELECT entry_id, data FROM view_reading WHERE entry_id IN (?)',
                [$entries],
                [ArrayParameterType::INTEGER],
            ) as $row) {
                $readings[Row::int($row, 'entry_id')] = OpenForm::read(ViewReading::class, Row::json($row, 'data'));
            }
        }

        return $readings;
    }

    /**
     * What depends on fields.
     *
     * @param list<int> $fields
     *
     * @return list<Dependence>
     */
    public function dependingOn(array $fields): array
    {
        return $this->edges('from_id', $fields);
    }

    /**
     * What fields of views depend on.
     *
     * @param list<int> $fields
     *
     * @return list<Dependence>
     */
    public function behind(array $fields): array
    {
        return $this->edges('field_id', $fields);
    }

    /**
     * All that views depend on, by their fields or as a whole.
     *
     * @param list<int> $entries
     *
     * @return list<Dependence>
     */
    public function behindViews(array $entries): array
    {
        return $this->edges('entry_id', $entries);
    }

    /**
     * @param list<int> $ids
     *
     * @return list<Dependence>
     */
    private function edges(string $column, array $ids): array
    {
        $edges = [];
        foreach (array_chunk(array_values(array_unique($ids)), 1000) as $chunk) {
            $rows = $this->db->iterateAssociative(
                "SELECT entry_id, field_id, from_id, part FROM lineage WHERE $column IN (?) ORDER BY entry_id, field_id, from_id",
                [$chunk],
                [ArrayParameterType::INTEGER],
            );
            foreach ($rows as $row) {
                $edges[] = [
                    'entry' => Row::int($row, 'entry_id'),
                    'field' => Row::int($row, 'field_id'),
                    'from' => Row::int($row, 'from_id'),
                    'part' => Row::text($row, 'part'),
                ];
            }
        }

        return $edges;
    }
}
