<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Survey\Choice;

/** An existing database, or set of files, that is being documented. It keeps its identity when its connection changes. */
#[ORM\Entity]
#[ORM\Table(name: 'source')]
class Source
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 120, unique: true)]
    public string $name = '';

    #[ORM\Column(type: 'text')]
    public string $purpose = '';

    #[ORM\Column(length: 120)]
    public string $owner = '';

    /** @var Collection<int, Connection> the ways in which it is reached, one of them in use */
    #[ORM\OneToMany(targetEntity: Connection::class, mappedBy: 'source', cascade: ['persist', 'remove'], orphanRemoval: true)]
    #[ORM\OrderBy(['id' => 'ASC'])]
    public Collection $connections;

    /** @var array{schemas?: list<string>, include?: list<string>, exclude?: list<string>} */
    #[ORM\Column(type: 'json')]
    private array $choice = [];

    /** What kind of engine the last survey met: it decides what types mean. */
    #[ORM\Column(length: 20)]
    public string $engine = '';

    #[ORM\Column(name: 'every', length: 12, enumType: Cadence::class)]
    public Cadence $cadence = Cadence::Never;

    #[ORM\Column]
    public \DateTimeImmutable $addedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $surveyedAt = null;

    public function __construct()
    {
        $this->connections = new ArrayCollection();
        $this->add(new Connection($this))->inUse = true;
        $this->addedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }

    /** The one that is in use. */
    public function connection(): Connection
    {
        foreach ($this->connections as $connection) {
            if ($connection->inUse) {
                return $connection;
            }
        }
        throw new \LogicException('A source has one connection in use.');
    }

    public function add(Connection $connection): Connection
    {
        $this->connections->add($connection);

        return $connection;
    }

    public function use(Connection $chosen): void
    {
        foreach ($this->connections as $connection) {
            $connection->inUse = $connection === $chosen;
        }
    }

    public function choice(): Choice
    {
        return new Choice($this->choice['schemas'] ?? [], $this->choice['include'] ?? [], $this->choice['exclude'] ?? []);
    }

    public function choose(Choice $choice): void
    {
        $this->choice = ['schemas' => $choice->schemas, 'include' => $choice->include, 'exclude' => $choice->exclude];
    }

    public function hasChosen(): bool
    {
        return [] !== $this->choice;
    }
}
