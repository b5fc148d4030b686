<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** A published, numbered, unchanging copy of the register: a folder and a zip under var/editions. */
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

    /** waiting, running, done, failed */
    #[ORM\Column(length: 12)]
    public string $state = 'waiting';

    #[ORM\Column]
    public \DateTimeImmutable $askedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $madeAt = null;

    #[ORM\Column]
    public int $done = 0;

    #[ORM\Column]
    public int $total = 0;

    #[ORM\Column(type: 'text')]
    public string $error = '';

    /** @var array{entries?: int, fields?: int, described?: int, sources?: list<string>, bytes?: int} */
    #[ORM\Column(type: 'json')]
    public array $counts = [];

    /** @var list<int> ids of the sources it covers; empty for all */
    #[ORM\Column(type: 'json')]
    public array $scope = [];

    public function __construct(int $number, string $title, ?Account $account)
    {
        $this->number = $number;
        $this->title = $title;
        $this->account = $account;
        $this->askedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
