<?php

declare(strict_types=1);

namespace Fasti\Register\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

final readonly class EntryTopic implements Topic
{
    public const NAME = 'entry';

    public function __construct(private Connection $db)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        return false === $this->db->fetchOne('SELECT id FROM entry WHERE id = ? FOR UPDATE', [$id]) ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM entry WHERE id = ? FOR UPDATE", [$id]);

        return \is_string($text) ? $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE entry SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE entry SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
