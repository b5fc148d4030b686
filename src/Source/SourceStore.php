<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\DBAL\Connection as Database;
use Fasti\Support\Row;

/**
 * What other rooms ask about sources without needing them whole.
 *
 * @phpstan-type Known array{id: int, name: string, purpose: string, owner: string, engine: string, surveyedAt: ?string}
 */
final readonly class SourceStore
{
    public function __construct(private Database $db)
    {
    }

    /** @return array<int, Known> by id, in the order of their names */
    public function all(): array
    {
        $all = [];
        foreach ($this->db->iterateAssociative('SELECT id, name, purpose, owner, engine, surveyed_at FROM source ORDER BY name') as $row) {
            $all[Row::int($row, 'id')] = [
                'id' => Row::int($row, 'id'), 'name' => Row::text($row, 'name'), 'purpose' => Row::text($row, 'purpose'), 'owner' => Row::text($row, 'owner'),
                'engine' => Row::text($row, 'engine'), 'surveyedAt' => Row::maybeText($row, 'surveyed_at'),
            ];
        }

        return $all;
    }

    /** As its last survey said; empty where there was none, or no such source. */
    public function engine(int $source): string
    {
        return $this->all()[$source]['engine'] ?? '';
    }

    public function named(string $name): ?int
    {
        foreach ($this->all() as $id => $source) {
            if ($source['name'] === $name) {
                return $id;
            }
        }

        return null;
    }
}
