<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** Texts that were written in one go, in several places, so that they can be taken back in one go. */
#[ORM\Entity]
#[ORM\Table(name: 'taking')]
class Taking
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Column]
    public \DateTimeImmutable $at;

    /** @var list<int> changes of the history */
    #[ORM\Column(type: 'json')]
    public array $changes = [];

    #[ORM\Column(type: 'text')]
    public string $text = '';

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $undoneAt = null;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
