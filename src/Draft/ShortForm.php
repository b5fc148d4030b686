<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\ORM\Mapping as ORM;

/** A short form that names use. */
#[ORM\Entity]
#[ORM\Table(name: 'short_form')]
class ShortForm
{
    #[ORM\Id, ORM\Column(length: 20, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $short = '';

    #[ORM\Column(length: 120)]
    public string $stands = '';

    /** learned from names, said by a person, or dismissed by one. */
    #[ORM\Column(length: 10)]
    public string $standing = 'learned';

    #[ORM\Column(length: 400)]
    public string $because = '';

    #[ORM\Column]
    public float $confidence = 1.0;
}
