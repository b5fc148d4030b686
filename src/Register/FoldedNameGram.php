<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;

/** A three-letter window of an identifier: how identifiers are found in spite of a typing slip. */
#[ORM\Entity]
#[ORM\Table(name: 'identifier_gram')]
class FoldedNameGram
{
    #[ORM\Id, ORM\Column(length: 3, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $gram = '';

    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(onDelete: 'CASCADE')]
    public FoldedName $identifier;
}
