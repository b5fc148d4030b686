<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;
use Symfony\Bundle\SecurityBundle\Security;

/** A thing that somebody keeps, as something to write about: its name, its purpose, and what a kind adds. */
abstract readonly class KeptTopic implements Topic
{
    public function __construct(protected Connection $db, protected Security $security)
    {
    }

    abstract protected function table(): string;

    public function locked(int $id): ?Subject
    {
        $row = $this->db->fetchAssociative("SELECT owner_id, shared, thrown_at FROM {$this->table()} WHERE id = ? FOR UPDATE", [$id]);
        $user = $this->security->getUser();
        // What somebody has not shared is there for nobody else, and what is thrown away for nobody at all.
        $hidden = false === $row || null !== $row['thrown_at']
            || (0 === Row::int($row, 'shared') && $user instanceof Account && $user->id() !== Row::int($row, 'owner_id'));

        return $hidden ? null : new Subject($this->name(), $id, $this->name(), $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM {$this->table()} WHERE id = ?", [$id]);

        return \is_scalar($text) ? (string) $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE {$this->table()} SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement("UPDATE {$this->table()} SET changed_at = UTC_TIMESTAMP() WHERE id = ?", [$subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
