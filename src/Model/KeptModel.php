<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelFinding;
use Fasti\Kept\Kept;
use Fasti\Source\Connection;
use Fasti\Source\Source;

/** An analytic model of the register. It is its owner's own until it is shared. */
#[ORM\Entity]
#[ORM\Table(name: 'analytic_model')]
class KeptModel extends Kept
{
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    /** The connection whose data it is asked of; null for whichever the source uses. */
    #[ORM\ManyToOne, ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    public ?Connection $connection = null;

    /** Only those may ask it who may ask the data of sources: its owner keeps it from readers. */
    #[ORM\Column]
    public bool $withheld = false;

    /** Why it was shared although faults speak against it. */
    #[ORM\Column(length: 400)]
    public string $sharedDespite = '';

    /**
     * Findings that somebody lives with, by their keys: why, until when (a date, or '' for ever), by whom and when.
     *
     * @var array<string, array{why: string, until: string, by: string, at: string}>
     */
    #[ORM\Column(type: 'json')]
    public array $accepted = [];

    /** Its roles, joins, measures, hierarchies and choices, as JSON. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $definition = '{}';

    /** @var array<string, mixed> see ModelBrief */
    #[ORM\Column(type: 'json')]
    public array $brief = [];

    /**
     * What the last look at the data found: findings in their open form, notes, and where it looked.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $looked = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $lookedAt = null;

    /**
     * What its kept trials say through another connection, beside what they say through its own; see Repointing.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $repointing = null;

    public function __construct(string $name, string $purpose, Account $owner, Source $source)
    {
        parent::__construct($name, $purpose, $owner);
        $this->source = $source;
    }

    public function model(): Model
    {
        return self::modelOf($this->definition, $this->name, $this->purpose);
    }

    /** The model that a definition says; see definitionOf(). */
    public static function modelOf(string $definition, string $name = 'model', string $purpose = ''): Model
    {
        $data = json_decode($definition, true);

        return OpenForm::read(Model::class, ['name' => $name, 'purpose' => $purpose] + (\is_array($data) ? $data : []));
    }

    /** What is kept of a model beside its name and its purpose, which have places of their own. */
    public static function definitionOf(Model $model): string
    {
        return json_encode(
            array_diff_key(OpenForm::of($model), ['name' => true, 'purpose' => true]),
            \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
        );
    }

    public function connection(): Connection
    {
        return $this->connection ?? $this->source->connection();
    }

    /** One of its source; null for whichever that uses. */
    public function connectionNumbered(int $number): ?Connection
    {
        foreach ($this->source->connections as $connection) {
            if ($connection->id() === $number) {
                return $connection;
            }
        }

        return null;
    }

    /** @return list<ModelFinding> */
    public function dataFindings(): array
    {
        $found = [];
        foreach (\is_array($this->looked['findings'] ?? null) ? $this->looked['findings'] : [] as $finding) {
            if (\is_array($finding)) {
                $found[] = OpenForm::read(ModelFinding::class, $finding);
            }
        }

        return $found;
    }

    /** @return array<string, list<array<string, mixed>>> the first rows that show what was found in the data, by the key of the finding */
    public function dataRows(): array
    {
        $rows = [];
        foreach (\is_array($this->looked['rows'] ?? null) ? $this->looked['rows'] : [] as $key => $some) {
            foreach (\is_array($some) ? $some : [] as $row) {
                $plain = [];
                foreach (\is_array($row) ? $row : [] as $name => $value) {
                    $plain[(string) $name] = $value;
                }
                $rows[(string) $key][] = $plain;
            }
        }

        return $rows;
    }

    /** Where the data was looked at. */
    public function lookedThrough(): string
    {
        $through = $this->looked['through'] ?? '';

        return \is_string($through) ? $through : '';
    }

    /** @return list<string> */
    public function lookedNotes(): array
    {
        $notes = $this->looked['notes'] ?? [];

        return array_values(array_filter(\is_array($notes) ? $notes : [], is_string(...)));
    }

    /** @return array{new: list<string>, gone: list<string>, before: string} what differs from the look before, on another connection or at another time */
    public function lookedDifference(): array
    {
        $texts = fn (string $key): array => array_values(array_filter(\is_array($this->looked[$key] ?? null) ? $this->looked[$key] : [], is_string(...)));
        $before = $this->looked['before'] ?? '';

        return ['new' => $texts('new'), 'gone' => $texts('gone'), 'before' => \is_string($before) ? $before : ''];
    }

    /** @return array{why: string, until: string, by: string, at: string}|null where somebody lives with it, and not only until a day that has passed */
    public function acceptance(ModelFinding $finding, \DateTimeImmutable $now): ?array
    {
        $accepted = $this->accepted[$finding->key()] ?? null;

        return null !== $accepted && ('' === $accepted['until'] || $accepted['until'] >= $now->format('Y-m-d')) ? $accepted : null;
    }
}
