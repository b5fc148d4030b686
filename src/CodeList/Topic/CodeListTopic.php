<?php

declare(strict_types=1);

namespace Fasti\CodeList\Topic;

use Doctrine\DBAL\Connection;
use Fasti\CodeList\CodeLists;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

/** A code list: its name and what it is for. Its new name goes into what is said of the fields that use it. */
final readonly class CodeListTopic implements Topic
{
    public const NAME = 'code-list';

    public function __construct(private Connection $db, private CodeLists $lists)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $there = $this->db->fetchOne('SELECT id FROM code_list WHERE id = ? FOR UPDATE', [$id]);

        return false === $there ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM code_list WHERE id = ? FOR UPDATE", [$id]);

        return \is_string($text) ? $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $before = 'name' === $column ? $this->read($subject->id, 'name') : '';
        $this->db->executeStatement("UPDATE code_list SET $column = ? WHERE id = ?", [$value, $subject->id]);
        if ('' !== $before) {
            $this->lists->renamed($before, $value);
        }
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE code_list SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
