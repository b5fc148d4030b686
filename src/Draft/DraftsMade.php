<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\ORM\Mapping as ORM;

/** When the drafts of an entry were made, and whether something they are made from has changed since. */
#[ORM\Entity]
#[ORM\Table(name: 'drafts_made')]
class DraftsMade
{
    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $entryId = 0;

    #[ORM\Column]
    public bool $stale = false;

    #[ORM\Column]
    public \DateTimeImmutable $at;
}
