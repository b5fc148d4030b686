<?php

declare(strict_types=1);

namespace Fasti\Work;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** Long work in the background. What it does is its kind's business; see JobKind. */
#[ORM\Entity]
#[ORM\Table(name: 'job')]
#[ORM\Index(name: 'job_lane', columns: ['lane', 'state'])]
#[ORM\Index(name: 'job_state', columns: ['state', 'heard_at'])]
class Job
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 30)]
    public string $kind;

    /** Jobs of one lane run one at a time: `source 12`. */
    #[ORM\Column(length: 60)]
    public string $lane;

    #[ORM\ManyToOne]
    public ?Account $account;

    #[ORM\Column(length: 12, enumType: State::class)]
    public State $state = State::Waiting;

    /** What was asked of it: nothing, pause or cancel. */
    #[ORM\Column(length: 8)]
    public string $asked = '';

    /** What it is doing, in words for people: "Reading columns". */
    #[ORM\Column(length: 400)]
    public string $doing = '';

    #[ORM\Column]
    public int $done = 0;

    #[ORM\Column]
    public int $total = 0;

    #[ORM\Column(type: 'text')]
    public string $error = '';

    /** @var list<string> what could not be done on the way, in sentences */
    #[ORM\Column(type: 'json')]
    public array $notes = [];

    /** @var array<string, mixed> what the kind needs to know, and to go on where it was */
    #[ORM\Column(type: 'json')]
    public array $payload;

    #[ORM\Column]
    public \DateTimeImmutable $askedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $startedAt = null;

    /** Its last sign of life. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $heardAt = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $endedAt = null;

    /** Who is at it; see WorkerProcess. */
    #[ORM\Column(length: 100)]
    public string $worker = '';

    /** @param array<string, mixed> $payload */
    public function __construct(string $kind, string $lane, array $payload, ?Account $account)
    {
        $this->kind = $kind;
        $this->lane = $lane;
        $this->payload = $payload;
        $this->account = $account;
        $this->askedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }

    public function number(string $member): int
    {
        $value = $this->payload[$member] ?? 0;

        return is_numeric($value) ? (int) $value : 0;
    }

    /** Whoever worked on it is gone, or nothing was heard of it for so long that they are taken for dead. */
    public function abandoned(): bool
    {
        return State::Running === $this->state && (WorkerProcess::isGone($this->worker) || $this->silent());
    }

    /** Nothing was heard of it for long. */
    public function silent(): bool
    {
        return State::Running === $this->state && null !== $this->heardAt && time() - $this->heardAt->getTimestamp() > Jobs::SILENCE;
    }
}
