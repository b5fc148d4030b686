<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** What a person did with a draft: took it, took it and wrote it otherwise, or dismissed it. */
#[ORM\Entity]
#[ORM\Table(name: 'draft_decision')]
#[ORM\Index(name: 'draft_decision_of', columns: ['topic', 'topic_id', 'property'])]
#[ORM\Index(name: 'draft_decision_rule', columns: ['rule', 'taken'])]
class DraftDecision
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Column(options: ['unsigned' => true])]
    public int $topicId = 0;

    #[ORM\Column(length: 20)]
    public string $property = '';

    #[ORM\Column(length: 40)]
    public string $rule = '';

    #[ORM\Column(length: 32, options: ['fixed' => true])]
    public string $evidence = '';

    #[ORM\Column]
    public bool $taken = false;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Column]
    public \DateTimeImmutable $at;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
