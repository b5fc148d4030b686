<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Source\Source;
use Fasti\Support\State;

/** One run that reads a source's structure. */
#[ORM\Entity]
#[ORM\Table(name: 'survey')]
class Survey
{
    /** Seconds without a sign of life after which a running survey is taken for dead. */
    public const SILENCE = 90;

    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\ManyToOne]
    public ?Account $account = null;

    #[ORM\Column(length: 12, enumType: State::class)]
    public State $state = State::Waiting;

    #[ORM\Column]
    public \DateTimeImmutable $askedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $startedAt = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $endedAt = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $heardAt = null;

    #[ORM\Column(length: 190)]
    public string $doing = '';

    #[ORM\Column]
    public int $done = 0;

    #[ORM\Column]
    public int $total = 0;

    #[ORM\Column]
    public bool $cancelAsked = false;

    #[ORM\Column(type: 'text')]
    public string $error = '';

    /** @var array<string, mixed> server, counts by what became of entries, totals, standouts, notes */
    #[ORM\Column(type: 'json')]
    public array $summary = [];

    /**
     * What changed since the register was last brought in line, item by item with what was decided; null for a first survey.
     *
     * @var list<array<string, mixed>>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $drift = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $decidedAt = null;

    #[ORM\ManyToOne]
    public ?Account $decidedBy = null;

    /** The catalog as JSON, compressed: what the next survey will be compared with. */
    #[ORM\Column(type: 'blob', length: 4294967295, nullable: true)]
    private mixed $catalog = null;

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

    public function keepCatalog(string $json): void
    {
        $this->catalog = gzencode($json, 6);
    }

    public function catalogJson(): ?string
    {
        if (\is_resource($this->catalog)) {
            // A stream can be read once only, and a comparison may ask twice.
            $this->catalog = stream_get_contents($this->catalog);
        }
        $bytes = $this->catalog;
        $json = \is_string($bytes) ? gzdecode($bytes) : false;

        return false === $json ? null : $json;
    }
}
