<?php

declare(strict_types=1);

namespace Fasti\CodeList\Topic;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

/** A code; its history stands with its list. */
final readonly class CodeTopic implements Topic
{
    public const NAME = 'code';

    public function __construct(private Connection $db)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $list = $this->db->fetchOne('SELECT list_id FROM code WHERE id = ? FOR UPDATE', [$id]);

        return is_numeric($list) ? new Subject(self::NAME, $id, CodeListTopic::NAME, (int) $list) : null;
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM code WHERE id = ?", [$id]);

        return \is_scalar($text) ? (string) $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE code SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE code_list SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->pageId]);
    }

    public function names(array $ids): array
    {
        $names = [];
        foreach ($this->db->iterateAssociative('SELECT id, code FROM code WHERE id IN (?)', [$ids], [ArrayParameterType::INTEGER]) as $row) {
            $names[Row::int($row, 'id')] = Row::text($row, 'code');
        }

        return $names;
    }
}
