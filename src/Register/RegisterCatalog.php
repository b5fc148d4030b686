<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Source\SourceStore;
use Fasti\Support\Row;

/** The structure of a source as the register has it: what a new survey is compared with. */
final readonly class RegisterCatalog
{
    public function __construct(private Connection $db, private SourceStore $sources)
    {
    }

    /** @return array{Catalog, array<string, true>} with what is gone, and the places (Place::key()) of that */
    public function of(int $sourceId): array
    {
        $columns = $gone = [];
        $fields = 'SELECT f.entry_id, f.facts FROM field f JOIN entry e ON e.id = f.entry_id WHERE e.source_id = ? AND f.gone_at IS NULL
            ORDER BY f.entry_id, f.position';
        foreach ($this->db->iterateAssociative($fields, [$sourceId]) as $row) {
            $columns[Row::int($row, 'entry_id')][] = Row::json($row, 'facts');
        }
        $tables = [];
        foreach ($this->db->iterateAssociative(
            'SELECT id, schema_name, name, comment, row_estimate, size_bytes, facts, gone_at FROM entry WHERE source_id = ? ORDER BY schema_name, name',
            [$sourceId],
        ) as $row) {
            $tables[] = $table = self::facts($row, $columns[Row::int($row, 'id')] ?? []);
            if (null !== $row['gone_at']) {
                $gone[$table->place()->key()] = true;
            }
        }

        return [new Catalog($this->sources->engine($sourceId), '', $tables), $gone];
    }

    public function entry(int $id): ?Table
    {
        $row = $this->db->fetchAssociative('SELECT id, schema_name, name, comment, row_estimate, size_bytes, facts FROM entry WHERE id = ?', [$id]);
        if (false === $row) {
            return null;
        }
        $columns = [];
        foreach ($this->db->iterateAssociative('SELECT facts FROM field WHERE entry_id = ? AND gone_at IS NULL ORDER BY position', [$id]) as $field) {
            $columns[] = Row::json($field, 'facts');
        }

        return self::facts($row, $columns);
    }

    /**
     * The table of a row of the register: what has a column of its own there, and the rest, which is kept together.
     *
     * @param array<string, mixed> $row
     * @param list<array<mixed>>   $columns
     */
    public static function facts(array $row, array $columns): Table
    {
        return OpenForm::read(Table::class, [
            'schema' => Row::text($row, 'schema_name'),
            'name' => Row::text($row, 'name'),
            'comment' => Row::text($row, 'comment'),
            'rowEstimate' => Row::maybeInt($row, 'row_estimate'),
            'sizeBytes' => Row::maybeInt($row, 'size_bytes'),
            'columns' => $columns,
        ] + Row::json($row, 'facts'));
    }
}
