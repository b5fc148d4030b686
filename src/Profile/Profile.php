<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Entry;

/** What the data of an entry said when it was last looked at. */
#[ORM\Entity]
#[ORM\Table(name: 'profile')]
#[ORM\UniqueConstraint(name: 'profile_of', columns: ['entry_id'])]
class Profile
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Entry $entry;

    #[ORM\Column]
    public \DateTimeImmutable $takenAt;

    /** @var array<string, mixed> ProfileArray::of(); no value of a personal field is in it */
    #[ORM\Column(type: 'json')]
    public array $figures = [];

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
