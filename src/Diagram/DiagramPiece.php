<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** A piece of a kept diagram. One that was removed stays here without a value, so that others see that. */
#[ORM\Entity]
#[ORM\Table(name: 'diagram_piece')]
#[ORM\Index(name: 'diagram_piece_entry', columns: ['entry_id'])]
#[ORM\Index(name: 'diagram_piece_move', columns: ['diagram_id', 'move'])]
class DiagramPiece
{
    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Diagram $diagram;

    #[ORM\Id, ORM\Column(length: 24)]
    public string $piece = '';

    #[ORM\Column(nullable: true, options: ['unsigned' => true])]
    public ?int $entryId = null;

    #[ORM\Column(type: 'text', length: 65535, nullable: true)]
    public ?string $value = null;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $move = 0;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;
}
