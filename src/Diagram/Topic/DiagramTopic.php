<?php

declare(strict_types=1);

namespace Fasti\Diagram\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Diagram\DiagramProperties;
use Fasti\Diagram\Pieces;
use Fasti\Support\Row;
use Fasti\Text\Property;
use Fasti\Text\Subject;
use Fasti\Text\Topic;
use Symfony\Bundle\SecurityBundle\Security;

/** A kept diagram: its name, what it is for, and what stands where on it. */
final readonly class DiagramTopic implements Topic
{
    public const NAME = 'diagram';

    public function __construct(private Connection $db, private Pieces $pieces, private Security $security)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function locked(int $id): ?Subject
    {
        return false === $this->db->fetchOne('SELECT id FROM diagram WHERE id = ? FOR UPDATE', [$id]) ? null : new Subject(self::NAME, $id, self::NAME, $id);
    }

    public function read(int $id, string $column): string
    {
        if (DiagramProperties::ARRANGEMENT === $column) {
            return $this->pieces->of($id)->json();
        }
        $text = $this->db->fetchOne("SELECT $column FROM diagram WHERE id = ?", [$id]);

        return \is_scalar($text) ? (string) $text : '';
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        if (DiagramProperties::ARRANGEMENT !== $column) {
            $this->db->executeStatement("UPDATE diagram SET $column = ? WHERE id = ?", [$value, $subject->id]);

            return;
        }
        $before = $this->pieces->of($subject->id)->pieces;
        $after = Arrangement::fromJson($value)->pieces;
        $gone = array_fill_keys(array_keys(array_diff_key($before, $after)), null);
        $user = $this->security->getUser();
        $owner = Row::int(['id' => $this->db->fetchOne('SELECT owner_id FROM diagram WHERE id = ?', [$subject->id])], 'id');
        $this->pieces->write($subject->id, $user instanceof Account ? $user->id() : $owner, $after + $gone);
    }

    public function touched(Subject $subject, Property $property): void
    {
        $this->db->executeStatement('UPDATE diagram SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$subject->id]);
    }

    public function names(array $ids): array
    {
        return [];
    }
}
