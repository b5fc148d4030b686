<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\DBAL\Connection as Database;
use Fasti\Support\Row;

/** What other rooms ask about sources without needing them whole. */
final readonly class SourceStore
{
    public function __construct(private Database $db)
    {
    }

    /** @return array<int, KnownSource> by id, in the order of their names */
    public function all(): array
    {
        $all = [];
        foreach ($this->db->iterateAssociative('SELECT id, name, purpose, owner, engine, surveyed_at FROM source ORDER BY name') as $row) {
            $all[Row::int($row, 'id')] = new KnownSource(
                Row::int($row, 'id'), Row::text($row, 'name'), Row::text($row, 'purpose'), Row::text($row, 'owner'), Row::text($row, 'engine'),
                Row::maybeText($row, 'surveyed_at'),
            );
        }

        return $all;
    }

    /** As its last survey said; empty where there was none, or no such source. */
    public function engine(int $source): string
    {
        return $this->all()[$source]->engine ?? '';
    }

    public function named(string $name): ?int
    {
        foreach ($this->all() as $id => $source) {
            if ($source->name === $name) {
                return $id;
            }
        }

        return null;
    }
}
