<?php

declare(strict_types=1);

namespace Fasti\Design;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\Outline;
use Fasti\Kept\Kept;
use Fasti\Source\Source;

/** A design of the register: an outline, and where its tablets stand. Its name and its purpose are as its outline says them. */
#[ORM\Entity]
#[ORM\Table(name: 'design')]
class KeptDesign extends Kept
{
    /** That it began with; null for one that began with nothing. */
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    public ?Source $source = null;

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

    /**
     * What is to happen to rows that its planned change cannot keep as they are: key of a question → one of its fates.
     *
     * @var array<string, string>
     */
    #[ORM\Column(type: 'json')]
    public array $fates = [];

    /**
     * How many such rows there were when somebody had them counted: of which questions, when, and by key how many, or why nobody knows.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $counted = null;

    public function __construct(string $name, Account $owner, ?Source $source = null)
    {
        parent::__construct($name, '', $owner);
        $this->source = $source;
    }

    /** As it was understood last. */
    public function design(): Design
    {
        return Outline::read($this->readable)->design;
    }
}
