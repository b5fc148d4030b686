<?php

declare(strict_types=1);

namespace Fasti\Text;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Support\Row;

/** Texts for which their topic's table has no column. */
final readonly class SaidStore
{
    public function __construct(private Connection $db)
    {
    }

    public function one(string $topic, int $id, string $property): string
    {
        $text = $this->db->fetchOne('SELECT text FROM said WHERE topic = ? AND topic_id = ? AND property = ?', [$topic, $id, $property]);

        return \is_string($text) ? $text : '';
    }

    /**
     * @param list<int>    $ids
     * @param list<string> $properties
     *
     * @return array<int, array<string, string>> by id and property
     */
    public function of(string $topic, array $ids, array $properties): array
    {
        $said = [];
        if ([] !== $ids && [] !== $properties) {
            $rows = $this->db->iterateAssociative(
                'SELECT topic_id, property, text FROM said WHERE topic = ? AND topic_id IN (?) AND property IN (?)',
                [$topic, $ids, $properties],
                [1 => ArrayParameterType::INTEGER, 2 => ArrayParameterType::STRING],
            );
            foreach ($rows as $row) {
                $said[Row::int($row, 'topic_id')][Row::text($row, 'property')] = Row::text($row, 'text');
            }
        }

        return $said;
    }

    /** @return array<int, string> by id, all that is said of one property */
    public function all(string $topic, string $property): array
    {
        $said = [];
        foreach ($this->db->iterateAssociative(
            'SELECT topic_id, text FROM said WHERE topic = ? AND property = ? ORDER BY topic_id',
            [$topic, $property],
        ) as $row) {
            $said[Row::int($row, 'topic_id')] = Row::text($row, 'text');
        }

        return $said;
    }

    public function write(string $topic, int $id, string $property, string $text): void
    {
        if ('' === $text) {
            $this->db->executeStatement('DELETE FROM said WHERE topic = ? AND topic_id = ? AND property = ?', [$topic, $id, $property]);
        } else {
            $this->db->executeStatement(
                'INSERT INTO said (topic, topic_id, property, text) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE text = VALUES(text)',
                [$topic, $id, $property, $text],
            );
        }
    }
}
