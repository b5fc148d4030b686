<?php

declare(strict_types=1);

namespace Fasti\Design;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\Outline;
use Fasti\Source\Source;

/** A design of the register: an outline, and where its tablets stand. It is its owner's own until it is shared. */
#[ORM\Entity]
#[ORM\Table(name: 'design')]
class KeptDesign
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    /** As its outline says it; kept beside it for lists. */
    #[ORM\Column(length: 120)]
    public string $name = '';

    #[ORM\Column(length: 400)]
    public string $purpose = '';

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $owner;

    /** That it began with; null for one that began with nothing. */
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    public ?Source $source = null;

    #[ORM\Column]
    public bool $shared = false;

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $outline = '';

    /** The outline as it was when every line of it was understood last. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $readable = '';

    /** @var array<string, mixed> see DesignBrief */
    #[ORM\Column(type: 'json')]
    public array $brief = [];

    /**
     * Where tablets stand: depth → number of the tablet → x and y.
     *
     * @var array<string, array<int|string, array{float, float}>>
     */
    #[ORM\Column(type: 'json')]
    public array $places = [];

    /**
     * What came of its last run on a scratch server.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $ran = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $ranAt = null;

    /**
     * What came of its planned change on a scratch copy.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $rehearsed = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $rehearsedAt = null;

    /**
     * Of its source, the places of the entries that were taken; null for all of them.
     *
     * @var list<string>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $taken = null;

    #[ORM\Column]
    public \DateTimeImmutable $changedAt;

    public function __construct(string $name, Account $owner, ?Source $source = null)
    {
        $this->name = $name;
        $this->owner = $owner;
        $this->source = $source;
        $this->changedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return (int) $this->id;
    }

    /** As it was understood last. */
    public function design(): Design
    {
        return Outline::read($this->readable)->design;
    }
}
