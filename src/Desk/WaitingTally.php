<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;

/** How much of a source waits, kept along with it: counting it takes longer than a page may. */
#[ORM\Entity]
#[ORM\Table(name: 'waiting_tally')]
class WaitingTally
{
    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $sourceId = 0;

    #[ORM\Id, ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Id, ORM\Column]
    public bool $drafted = false;

    #[ORM\Column]
    public int $n = 0;
}
