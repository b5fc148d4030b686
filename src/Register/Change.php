<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** One change of one text: who, when, before, after. Nothing is ever removed from here. */
#[ORM\Entity]
#[ORM\Table(name: 'change_event')]
#[ORM\Index(name: 'change_of', columns: ['subject', 'subject_id', 'property', 'id'])]
#[ORM\Index(name: 'change_in_entry', columns: ['entry_id', 'id'])]
class Change
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 8, enumType: Subject::class)]
    public Subject $subject;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $subjectId;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $entryId;

    #[ORM\Column(length: 20)]
    public string $property;

    #[ORM\Column(name: 'text_before', type: 'text', length: 16777215)]
    public string $before;

    #[ORM\Column(name: 'text_after', type: 'text', length: 16777215)]
    public string $after;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Column]
    public \DateTimeImmutable $at;

    /** One sitting at one text: what is typed in it becomes one change. */
    #[ORM\Column(length: 40)]
    public string $sitting;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
