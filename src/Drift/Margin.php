<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Twig\Attribute\AsTwigFunction;

/** What stands in the margin of an entry because the source has changed. */
final readonly class Margin
{
    public function __construct(private Connection $db)
    {
    }

    /** @return array<int, list<array{id: int, property: string, reason: string, at: string}>> by field, 0 for the entry itself */
    #[AsTwigFunction('margin_notes')]
    public function of(int $entryId): array
    {
        $notes = [];
        foreach ($this->db->iterateAssociative('SELECT id, field_id, property, reason, made_at FROM margin_note WHERE entry_id = ? AND settled_at IS NULL ORDER BY id', [$entryId]) as $row) {
            $notes[Row::maybeInt($row, 'field_id') ?? 0][] = ['id' => Row::int($row, 'id'), 'property' => Row::text($row, 'property'), 'reason' => Row::text($row, 'reason'), 'at' => Row::text($row, 'made_at')];
        }

        return $notes;
    }

    /** @return int how many notes of a source wait for somebody */
    #[AsTwigFunction('open_margin_notes')]
    public function open(int $sourceId): int
    {
        $count = $this->db->fetchOne('SELECT COUNT(*) FROM margin_note n JOIN entry e ON e.id = n.entry_id WHERE e.source_id = ? AND n.settled_at IS NULL', [$sourceId]);

        return is_numeric($count) ? (int) $count : 0;
    }
}
