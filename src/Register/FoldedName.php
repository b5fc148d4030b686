<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\ORM\Mapping as ORM;

/** One distinct identifier of the whole register, folded for search. Many fields share it. */
#[ORM\Entity]
#[ORM\Table(name: 'identifier')]
class FoldedName
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    public int $id = 0;

    #[ORM\Column(length: 190, unique: true, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $folded = '';
}
