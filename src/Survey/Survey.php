<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Statements;
use Fasti\Source\Source;
use Fasti\Work\Job;
use Fasti\Work\State;

/** One run that reads a source's structure: what it found, and what was decided about it. How it runs is its job's business. */
#[ORM\Entity]
#[ORM\Table(name: 'survey')]
class Survey
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\OneToOne, ORM\JoinColumn(nullable: false)]
    public Job $job;

    /** When what it found was stored, together with it; null where it came to nothing. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $endedAt = null;

    /** The name of the connection that it read through. */
    #[ORM\Column(length: 40)]
    public string $through = '';

    /** @var array<string, mixed> server, counts by what became of entries, totals, notes */
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

    public function __construct(Source $source, Job $job)
    {
        $this->source = $source;
        $this->job = $job;
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }

    public function isDone(): bool
    {
        return null !== $this->endedAt;
    }

    /** Where it stands. What it found counts from the moment it is stored, even where its worker died right after. */
    public function state(): State
    {
        return $this->isDone() ? State::Done : $this->job->state;
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

    /** How much of the scripts that it read was understood; null where it read none. */
    public function statements(): ?Statements
    {
        $kept = $this->summary['statements'] ?? null;

        return \is_array($kept) ? OpenForm::read(Statements::class, $kept) : null;
    }

    public function catalog(): Catalog
    {
        $data = json_decode($this->catalogJson() ?? '[]', true);

        return OpenForm::read(Catalog::class, \is_array($data) ? $data : []);
    }
}
