<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Finding\Severity;
use Fasti\Register\Entry;
use Fasti\Register\Field;
use Fasti\Source\Source;

/** A finding as the register keeps it, from when it was first found until it is found no more. */
#[ORM\Entity]
#[ORM\Table(name: 'finding')]
#[ORM\Index(name: 'finding_of', columns: ['entry_id', 'ended_at'])]
#[ORM\Index(name: 'finding_new', columns: ['since', 'severity', 'ended_at', 'gone', 'set_aside_at', 'set_aside_until', 'check_name', 'check_group'])]
#[ORM\Index(name: 'finding_group', columns: ['source_id', 'check_name', 'ended_at'])]
class KeptFinding
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    /** Of what makes it the same one: check, group, place and property. */
    #[ORM\Column(length: 32, unique: true, options: ['fixed' => true])]
    public string $identity = '';

    #[ORM\Column(name: 'check_name', length: 40)]
    public string $check = '';

    #[ORM\Column(name: 'check_group', length: 190, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $group = '';

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $entry;

    /** The source has the entry no more, so that there is nothing to look at. */
    #[ORM\Column(options: ['default' => false])]
    public bool $gone = false;

    #[ORM\ManyToOne]
    public ?Field $field = null;

    /** The text that it is about: the name of a property; '' for none. */
    #[ORM\Column(length: 20)]
    public string $property = '';

    #[ORM\Column(type: 'text')]
    public string $title = '';

    #[ORM\Column(length: 12, enumType: Severity::class)]
    public Severity $severity = Severity::Doubt;

    #[ORM\Column]
    public \DateTimeImmutable $since;

    /** When it was found no more, or what it was about had changed. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $endedAt = null;

    /** When a person said that it is as it should be. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $setAsideAt = null;

    #[ORM\ManyToOne]
    public ?Account $setAsideBy = null;

    #[ORM\Column(length: 255)]
    public string $setAsideWhy = '';

    /** The last day for which it is set aside; null for good. */
    #[ORM\Column(type: 'date_immutable', nullable: true)]
    public ?\DateTimeImmutable $setAsideUntil = null;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
