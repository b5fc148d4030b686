<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Register\Entry;
use Fasti\Register\Field;

/** A note in the margin: a change of the source has made a text doubtful. It stays until somebody settles it. */
#[ORM\Entity]
#[ORM\Table(name: 'margin_note')]
#[ORM\Index(name: 'margin_note_open', columns: ['entry_id', 'settled_at'])]
class MarginNote
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $entry;

    #[ORM\ManyToOne]
    public ?Field $field = null;

    /** The text that is doubtful: one of Subject::properties(). */
    #[ORM\Column(length: 20)]
    public string $property = '';

    #[ORM\Column(type: 'text')]
    public string $reason = '';

    #[ORM\Column]
    public \DateTimeImmutable $madeAt;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $settledAt = null;

    #[ORM\ManyToOne]
    public ?Account $settledBy = null;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
