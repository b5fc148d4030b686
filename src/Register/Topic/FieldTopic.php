<?php

declare(strict_types=1);

namespace Fasti\Register\Topic;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

final readonly class FieldTopic implements Topic
{
    public const NAME = 'field';

    public function __construct(private Connection $db, private EntryTopic $entries)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    /** The entry first, since its counts follow: whoever writes in another of its fields waits there, and holds nothing yet. */
    public function locked(int $id): ?Subject
    {
        $entry = $this->db->fetchOne('SELECT entry_id FROM field WHERE id = ?', [$id]);
        if (!is_numeric($entry) || null === $this->entries->locked((int) $entry)) {
            return null;
        }
        $this->db->fetchOne('SELECT id FROM field WHERE id = ? FOR UPDATE', [$id]);

        return new Subject(self::NAME, $id, EntryTopic::NAME, (int) $entry);
    }

    public function read(int $id, string $column): string
    {
        // A locking read: a snapshot may be older than what the lock waited for.
        $text = $this->db->fetchOne("SELECT $column FROM field WHERE id = ? FOR UPDATE", [$id]);

        return \is_string($text) ? $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE field SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $described = 'meaning' === $property->name()
            ? ", described_count = (SELECT COUNT(*) FROM field f WHERE f.entry_id = entry.id AND f.gone_at IS NULL AND f.meaning <> '')"
            : '';
        $this->db->executeStatement("UPDATE entry SET changed_at = UTC_TIMESTAMP()$described WHERE id = ?", [$subject->pageId]);
    }

    public function names(array $ids): array
    {
        $names = [];
        foreach ($this->db->iterateAssociative('SELECT id, name FROM field WHERE id IN (?)', [$ids], [ArrayParameterType::INTEGER]) as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'name');
        }

        return $names;
    }
}
