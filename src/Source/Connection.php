<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\ORM\Mapping as ORM;

/** One way in which a source is reached: its test server, its live server, a delivery of files. The secret is kept sealed; see Vault. */
#[ORM\Entity]
#[ORM\Table(name: 'connection')]
#[ORM\UniqueConstraint(name: 'connection_label', columns: ['source_id', 'label'])]
class Connection
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne(inversedBy: 'connections')]
    #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Source $source;

    /** What people call it: live, test, … */
    #[ORM\Column(length: 40)]
    public string $label = 'live';

    /** Surveys and profiles of the source go through it. One of a source's connections is. */
    #[ORM\Column]
    public bool $inUse = false;

    #[ORM\Column(length: 20)]
    public string $engine = '';

    #[ORM\Column(length: 255)]
    public string $host = '';

    #[ORM\Column]
    public int $port = 0;

    #[ORM\Column(name: 'database_name', length: 190)]
    public string $database = '';

    #[ORM\Column(length: 190)]
    public string $account = '';

    /** Of a file or a folder, for sources that are no servers. */
    #[ORM\Column(length: 700)]
    public string $path = '';

    /** The dialect of SQL scripts, empty to work it out. */
    #[ORM\Column(length: 12)]
    public string $dialect = '';

    #[ORM\Column(type: 'text')]
    public string $sealedSecret = '';

    /** @var array{server: string, schemas: array<string, array<string, string>>}|null what it showed when it was last looked at */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $inventory = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $lookedAt = null;

    public function __construct(Source $source)
    {
        $this->source = $source;
    }

    /** @return list<string> names of the files, the first few */
    public function files(): array
    {
        if (!is_dir($this->path)) {
            return '' === $this->path ? [] : [basename($this->path)];
        }
        $names = array_filter(array_map(basename(...), glob($this->path.'/*') ?: []), static fn (string $name): bool => !str_starts_with($name, '.'));

        return \array_slice(array_values($names), 0, 12);
    }

    /** Where it leads, in a few signs. */
    public function where(): string
    {
        return '' === $this->host ? implode(', ', $this->files()) : $this->host.':'.$this->port.('' === $this->database ? '' : '/'.$this->database);
    }

    public function id(): ?int
    {
        return $this->id;
    }
}
