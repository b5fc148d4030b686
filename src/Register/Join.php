<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Join\End;

/**
 * How rows of one entry find rows of another. It is known by the fields that it pairs (see JoinPair): two constraints over
 * the same pairs are one join with two names, and a constraint that is renamed is the same join.
 */
#[ORM\Entity]
#[ORM\Table(name: 'entry_join')]
class Join
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $fromEntry;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $toEntry;

    /** Of the ids of its fields, pair by pair; see Joins::identity(). */
    #[ORM\Column(length: 32, unique: true, options: ['fixed' => true])]
    public string $identity = '';

    /** @var list<string> of the constraints that declare it */
    #[ORM\Column(type: 'json')]
    public array $names = [];

    /** What the last survey made of it: declared, proposed, or empty where it read nothing of it. */
    #[ORM\Column(length: 12)]
    public string $readAs = '';

    /** Fasti proposes it: waiting, or empty. */
    #[ORM\Column(length: 12)]
    public string $proposed = '';

    /** Of one that is proposed: how often such a one is right. */
    #[ORM\Column(nullable: true)]
    public ?float $confidence = null;

    /** Only rows with this value in this field take part. */
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: true)]
    public ?Field $whereField = null;

    #[ORM\Column(length: 190)]
    public string $whereValue = '';

    /** What a person made of it: documented, dismissed, or empty. A survey never touches this. */
    #[ORM\Column(length: 12)]
    public string $stated = '';

    /** Of one that was worked out: how. */
    #[ORM\Column(type: 'text')]
    public string $reason = '';

    #[ORM\Column(length: 20)]
    public string $onDelete = '';

    #[ORM\Column(length: 20)]
    public string $onUpdate = '';

    #[ORM\Column(length: 12, enumType: End::class)]
    public End $fromEnd = End::NoneOrMore;

    #[ORM\Column(length: 12, enumType: End::class)]
    public End $toEnd = End::One;

    #[ORM\Column(length: 190)]
    public string $verb = '';

    #[ORM\Column(length: 190)]
    public string $verbBack = '';

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $goneAt = null;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
