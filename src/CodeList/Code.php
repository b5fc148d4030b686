<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Doctrine\ORM\Mapping as ORM;

/** One value of a code list. */
#[ORM\Entity]
#[ORM\Table(name: 'code')]
#[ORM\UniqueConstraint(name: 'code_once', columns: ['list_id', 'code'])]
#[ORM\Index(name: 'code_order', columns: ['list_id', 'position', 'id'])]
class Code
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public CodeList $list;

    #[ORM\Column(length: 190, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $code = '';

    #[ORM\Column(length: 400)]
    public string $label = '';

    #[ORM\Column(type: 'text')]
    public string $meaning = '';

    #[ORM\Column(options: ['unsigned' => true])]
    public int $position = 0;

    /** Days as people write them: 2026-11-30; '' for always. */
    #[ORM\Column(length: 10)]
    public string $validFrom = '';

    #[ORM\Column(length: 10)]
    public string $validTo = '';

    /** The code that stands in its place now. */
    #[ORM\Column(length: 190)]
    public string $replacedBy = '';

    /** It was taken out; its texts are kept. */
    #[ORM\Column(options: ['default' => false])]
    public bool $removed = false;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
