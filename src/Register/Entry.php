<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\TableType;
use Fasti\Source\Source;

/**
 * One documented table or view. What the survey reads and what people write stand side by side and never overwrite one
 * another; an entry that is gone from its source keeps its text.
 */
#[ORM\Entity]
#[ORM\Table(name: 'entry')]
#[ORM\UniqueConstraint(name: 'entry_place', columns: ['source_id', 'schema_name', 'name'])]
#[ORM\Index(name: 'entry_by_name', columns: ['name', 'id'])]
#[ORM\Index(name: 'entry_text', columns: ['business_name', 'grain', 'meaning'], flags: ['fulltext'])]
class Entry
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Source $source;

    #[ORM\Column(length: 190, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $schemaName = '';

    #[ORM\Column(length: 255, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $name = '';

    #[ORM\Column(length: 20, enumType: TableType::class)]
    public TableType $tableType = TableType::Table;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public FoldedName $identifier;

    #[ORM\Column(type: 'text')]
    public string $comment = '';

    #[ORM\Column(type: 'bigint', nullable: true)]
    public ?int $rowEstimate = null;

    #[ORM\Column(type: 'bigint', nullable: true)]
    public ?int $sizeBytes = null;

    /** @var array<string, mixed> everything else of OpenForm::of() but its columns */
    #[ORM\Column(type: 'json')]
    public array $facts = [];

    #[ORM\Column(length: 32, options: ['fixed' => true])]
    public string $fingerprint = '';

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $goneAt = null;

    #[ORM\Column(length: 190)]
    public string $businessName = '';

    #[ORM\Column(type: 'text')]
    public string $grain = '';

    /** The fields that tell rows apart, when no key of the database does: names with commas between. */
    #[ORM\Column(type: 'text')]
    public string $grainFields = '';

    #[ORM\Column(type: 'text')]
    public string $meaning = '';

    #[ORM\Column(length: 12, enumType: Standing::class)]
    public Standing $standing = Standing::Open;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $fieldCount = 0;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $describedCount = 0;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $changedAt = null;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
