<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** A diagram that was made for a purpose and kept. What stands where on it are its pieces. */
#[ORM\Entity]
#[ORM\Table(name: 'diagram')]
class Diagram
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 120)]
    public string $name = '';

    #[ORM\Column(length: 400)]
    public string $purpose = '';

    #[ORM\Column(length: 12)]
    public string $standing = 'open';

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $owner;

    #[ORM\Column]
    public \DateTimeImmutable $changedAt;

    /** Counts the changes of its pieces, so that who looks at it knows what is new. */
    #[ORM\Column(options: ['unsigned' => true])]
    public int $moves = 0;

    /** How its lines were led last, by the id of the join. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $ways = '{}';

    /** What it showed of its sources when somebody last looked after it: entries with their names, and joins. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $known = '{}';

    /** A small picture of it, and the count of moves and of what was known when it was made. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $small = '';

    public function __construct(string $name, string $purpose, Account $owner)
    {
        $this->name = $name;
        $this->purpose = $purpose;
        $this->owner = $owner;
        $this->changedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return (int) $this->id;
    }
}
