<?php

declare(strict_types=1);

namespace Fasti\Diagram\Topic;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Diagram\Arrangement;
use Fasti\Diagram\DiagramProperties;
use Fasti\Diagram\Pieces;
use Fasti\Kept\KeptTopic;
use Fasti\Support\Row;
use Fasti\Text\Subject;
use Symfony\Bundle\SecurityBundle\Security;

/** A kept diagram: its name, what it is for, and what stands where on it. */
final readonly class DiagramTopic extends KeptTopic
{
    public const NAME = 'diagram';

    public function __construct(Connection $db, Security $security, private Pieces $pieces)
    {
        parent::__construct($db, $security);
    }

    public function name(): string
    {
        return self::NAME;
    }

    protected function table(): string
    {
        return 'diagram';
    }

    public function read(int $id, string $column): string
    {
        if (DiagramProperties::ARRANGEMENT === $column) {
            return $this->pieces->of($id)->json();
        }

        return parent::read($id, $column);
    }

    public function write(Subject $subject, string $column, string $value): void
    {
        if (DiagramProperties::ARRANGEMENT !== $column) {
            parent::write($subject, $column, $value);

            return;
        }
        $before = $this->pieces->of($subject->id)->pieces;
        $after = Arrangement::fromJson($value)->pieces;
        $gone = array_fill_keys(array_keys(array_diff_key($before, $after)), null);
        $user = $this->security->getUser();
        $owner = Row::int(['id' => $this->db->fetchOne('SELECT owner_id FROM diagram WHERE id = ?', [$subject->id])], 'id');
        $this->pieces->write($subject->id, $user instanceof Account ? $user->id() : $owner, $after + $gone);
    }
}
