<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Register\Entry;

/** What was read of the query of a view, as the register has it. */
#[ORM\Entity]
#[ORM\Table(name: 'view_reading')]
class KeptReading
{
    #[ORM\Id, ORM\OneToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Entry $entry;

    /**
     * See ViewReading.
     *
     * @var array<string, mixed>
     */
    #[ORM\Column(type: 'json')]
    public array $data = [];
}
