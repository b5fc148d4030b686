<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Entry;

/** What an entry is for: as it seems, and as a steward says. */
#[ORM\Entity]
#[ORM\Table(name: 'entry_role')]
#[ORM\Index(name: 'entry_role_area', columns: ['area'])]
class EntryRole
{
    #[ORM\Id, ORM\OneToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Entry $entry;

    /** As it seems. */
    #[ORM\Column(length: 12)]
    public string $kind = '';

    #[ORM\Column(length: 400)]
    public string $reason = '';

    /** @var list<string> */
    #[ORM\Column(type: 'json')]
    public array $traits = [];

    /** What its key is: natural, surrogate, of what it links. */
    #[ORM\Column(length: 40)]
    public string $keyKind = '';

    /** As a steward says; the text itself is kept with all others. */
    #[ORM\Column(length: 12)]
    public string $decided = '';

    /** The subject area in which a steward has put it. */
    #[ORM\Column(length: 120)]
    public string $area = '';
}
