<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Join;

/** What speaks for a join, and what the data says of it. */
#[ORM\Entity]
#[ORM\Table(name: 'join_evidence')]
class JoinEvidence
{
    #[ORM\Id, ORM\OneToOne, ORM\JoinColumn(name: 'join_id', nullable: false, onDelete: 'CASCADE')]
    public Join $join;

    /** @var list<array{string, float}> in words, with what each counts */
    #[ORM\Column(type: 'json')]
    public array $evidence = [];

    /** Of the evidence: what was dismissed comes back when it is another. */
    #[ORM\Column(length: 32)]
    public string $digest = '';

    /** @var list<array<string, mixed>> see Examples */
    #[ORM\Column(type: 'json')]
    public array $examples = [];

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $lookedAt = null;

    /** @var array<string, mixed>|null see JoinFigures */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $figures = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $observedAt = null;
}
