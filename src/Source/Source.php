<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Survey\Choice;

/** An existing database that is being documented. It keeps its identity when its connection changes. */
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

    #[ORM\OneToOne(cascade: ['persist'])]
    #[ORM\JoinColumn(nullable: false)]
    public Connection $connection;

    /** @var array{schemas?: list<string>, include?: list<string>, exclude?: list<string>} */
    #[ORM\Column(type: 'json')]
    private array $choice = [];

    /** What kind of engine the last survey met: it decides what types mean. */
    #[ORM\Column(length: 20)]
    public string $engine = 'mariadb';

    #[ORM\Column(length: 12, enumType: Cadence::class)]
    public Cadence $every = Cadence::Never;

    #[ORM\Column]
    public \DateTimeImmutable $addedAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $surveyedAt = null;

    public function __construct()
    {
        $this->connection = new Connection();
        $this->addedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return $this->id ?? 0;
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
