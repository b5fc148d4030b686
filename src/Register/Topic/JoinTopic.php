<?php

declare(strict_types=1);

namespace Fasti\Register\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Register\Joins;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

/** A join; its history stands with the entry that holds the reference. */
final readonly class JoinTopic implements Topic
{
    public const NAME = 'join';

    public function __construct(private Connection $db, private EntryTopic $entries, private Joins $joins)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $entry = $this->db->fetchOne('SELECT from_entry_id FROM entry_join WHERE id = ?', [$id]);
        if (!is_numeric($entry) || null === $this->entries->locked((int) $entry)) {
            return null;
        }
        $this->db->fetchOne('SELECT id FROM entry_join WHERE id = ? FOR UPDATE', [$id]);

        return new Subject(self::NAME, $id, EntryTopic::NAME, (int) $entry);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM entry_join WHERE id = ? FOR UPDATE", [$id]);

        return \is_string($text) ? $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE entry_join SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE entry SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->pageId]);
    }

    public function names(array $ids): array
    {
        return $this->joins->names($ids);
    }
}
