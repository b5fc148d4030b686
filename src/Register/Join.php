<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Join\End;

/** How rows of one entry find rows of another. Declared by the database so far; steward's own will follow. */
#[ORM\Entity]
#[ORM\Table(name: 'entry_join')]
#[ORM\UniqueConstraint(name: 'join_place', columns: ['from_entry_id', 'name'])]
class Join
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $fromEntry;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $toEntry;

    #[ORM\Column(length: 190, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $name = '';

    /** @var list<array{string, string}> */
    #[ORM\Column(type: 'json')]
    public array $pairs = [];

    #[ORM\Column(length: 12)]
    public string $kind = 'declared';

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
