<?php

declare(strict_types=1);

namespace Fasti\Term\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Term\Terms;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;

/** A term of the glossary. */
final readonly class TermTopic implements Topic
{
    public const NAME = 'term';

    public function __construct(private Connection $db, private Terms $terms)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $there = $this->db->fetchOne('SELECT id FROM term WHERE id = ? FOR UPDATE', [$id]);

        return false === $there ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM term WHERE id = ? FOR UPDATE", [$id]);

        return \is_string($text) ? $text : '';
    }

    /** Others that name the term go on naming it. */
    public function write(Subject $subject, string $column, string $value): void
    {
        $before = 'name' === $column ? $this->read($subject->id, 'name') : '';
        $this->db->executeStatement("UPDATE term SET $column = ? WHERE id = ?", [$value, $subject->id]);
        if ('' !== $before) {
            $this->terms->renamed($before, $value);
        }
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE term SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
