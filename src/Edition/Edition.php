<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Work\Job;

/** A published, numbered, unchanging copy of the register: a folder and a zip under var/editions. How it is made is its job's business. */
#[ORM\Entity]
#[ORM\Table(name: 'edition')]
class Edition
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(unique: true)]
    public int $number = 0;

    #[ORM\Column(length: 190)]
    public string $title = '';

    #[ORM\Column(type: 'text')]
    public string $note = '';

    #[ORM\ManyToOne]
    public ?Account $account = null;

    #[ORM\OneToOne, ORM\JoinColumn(nullable: false)]
    public Job $job;

    /** When it was whole; null until then. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $madeAt = null;

    /** @var array{entries?: int, fields?: int, described?: int, sources?: list<string>, bytes?: int} */
    #[ORM\Column(type: 'json')]
    public array $counts = [];

    /** @var list<int> ids of the sources it covers; empty for all */
    #[ORM\Column(type: 'json')]
    public array $scope = [];

    public function __construct(int $number, string $title, ?Account $account, Job $job)
    {
        $this->number = $number;
        $this->title = $title;
        $this->account = $account;
        $this->job = $job;
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
