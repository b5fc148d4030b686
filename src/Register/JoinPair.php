<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;

/** Two fields that a join holds equal. */
#[ORM\Entity]
#[ORM\Table(name: 'join_pair')]
class JoinPair
{
    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public Join $join;

    #[ORM\Id, ORM\Column(type: 'smallint', options: ['unsigned' => true])]
    public int $position = 0;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Field $fromField;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Field $toField;
}
