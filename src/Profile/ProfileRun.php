<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Source\Source;
use Fasti\Support\State;

/** One run that profiles entries of a source, one after the other. It can be paused, and goes on where it was. */
#[ORM\Entity]
#[ORM\Table(name: 'profile_run')]
class ProfileRun
{
    /** Seconds without a sign of life after which a running one is taken for dead. */
    public const SILENCE = 180;

    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\ManyToOne]
    public ?Account $account = null;

    #[ORM\Column(length: 12, enumType: State::class)]
    public State $state = State::Waiting;

    /** @var list<int> entries still to be profiled */
    #[ORM\Column(type: 'json')]
    public array $waiting = [];

    #[ORM\Column]
    public int $total = 0;

    #[ORM\Column(length: 400)]
    public string $doing = '';

    /** What was asked of it: nothing, pause or cancel. */
    #[ORM\Column(length: 8)]
    public string $asked = '';

    #[ORM\Column(type: 'text')]
    public string $error = '';

    /** @var list<string> entries that could not be profiled, in sentences */
    #[ORM\Column(type: 'json')]
    public array $notes = [];

    #[ORM\Column]
    public \DateTimeImmutable $askedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $heardAt = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $endedAt = null;

    public function __construct(Source $source, ?Account $account)
    {
        $this->source = $source;
        $this->account = $account;
        $this->askedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
