<?php

declare(strict_types=1);

namespace Fasti\Design\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Design\Outline;
use Fasti\Design\DesignBrief;
use Fasti\Design\Designs;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;
use Symfony\Bundle\SecurityBundle\Security;

/** A design: its outline says everything, its name and its rules included. */
final readonly class DesignTopic implements Topic
{
    public const NAME = 'design';

    public function __construct(private Connection $db, private Security $security)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $row = $this->db->fetchAssociative('SELECT owner_id, shared FROM design WHERE id = ? FOR UPDATE', [$id]);
        $user = $this->security->getUser();
        // What somebody has not shared is there for nobody else.
        $hidden = false === $row || (0 === Row::int($row, 'shared') && $user instanceof Account && $user->id() !== Row::int($row, 'owner_id'));

        return $hidden ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM design WHERE id = ?", [$id]);

        return \is_scalar($text) ? (string) $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE design SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    /** The name follows the outline, and so does what was understood last. */
    public function touched(Subject $subject, Property $property): void
    {
        $outline = $this->read($subject->id, 'outline');
        $read = Outline::read($outline);
        [$name, $purpose] = Designs::called($read->design);
        $set = ['name = ?', 'purpose = ?', 'changed_at = UTC_TIMESTAMP()'];
        $values = [$name, $purpose];
        if ([] === $read->faults) {
            array_push($set, 'readable = outline', 'brief = ?');
            $values[] = DesignBrief::of($outline)->json();
        }
        $this->db->executeStatement('UPDATE design SET '.implode(', ', $set).' WHERE id = ?', [...$values, $subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
