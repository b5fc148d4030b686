<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;

/** A field of an entry. */
#[ORM\Entity]
#[ORM\Table(name: 'field')]
#[ORM\UniqueConstraint(name: 'field_place', columns: ['entry_id', 'name'])]
#[ORM\Index(name: 'field_text', columns: ['business_name', 'meaning'], flags: ['fulltext'])]
class Field
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $entry;

    #[ORM\Column(length: 700, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $name = '';

    #[ORM\Column(options: ['unsigned' => true])]
    public int $position = 0;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public FoldedName $identifier;

    /** @var array<string, mixed> OpenForm::of() */
    #[ORM\Column(type: 'json')]
    public array $facts = [];

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $goneAt = null;

    #[ORM\Column(length: 190)]
    public string $businessName = '';

    #[ORM\Column(type: 'text')]
    public string $meaning = '';

    /** A person's word on whether it holds personal data: yes, no, or empty to go by what the profile thinks. */
    #[ORM\Column(length: 3)]
    public string $personal = '';

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
