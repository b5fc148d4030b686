<?php

declare(strict_types=1);

namespace Fasti\Model\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Model\KeptModel;
use Fasti\Model\ModelBrief;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;
use Symfony\Bundle\SecurityBundle\Security;

/** An analytic model: its name, its purpose, and what it offers. */
final readonly class ModelTopic implements Topic
{
    public const NAME = 'model';

    public function __construct(private Connection $db, private Security $security)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        $row = $this->db->fetchAssociative('SELECT owner_id, shared FROM analytic_model WHERE id = ? FOR UPDATE', [$id]);
        $user = $this->security->getUser();
        // What somebody has not shared is there for nobody else.
        $hidden = false === $row || (0 === Row::int($row, 'shared') && $user instanceof Account && $user->id() !== Row::int($row, 'owner_id'));

        return $hidden ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        $text = $this->db->fetchOne("SELECT $column FROM analytic_model WHERE id = ?", [$id]);

        return \is_scalar($text) ? (string) $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        $this->db->executeStatement("UPDATE analytic_model SET $column = ? WHERE id = ?", [$value, $subject->id]);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $brief = ModelBrief::of(KeptModel::modelOf($this->read($subject->id, 'definition')));
        $this->db->executeStatement('UPDATE analytic_model SET changed_at = UTC_TIMESTAMP(), brief = ? WHERE id = ?', [$brief->json(), $subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
