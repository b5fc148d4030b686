<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;

/** What was looked for and not found: the words and how often, never by whom. */
#[ORM\Entity]
#[ORM\Table(name: 'sought')]
class Sought
{
    #[ORM\Id, ORM\Column(length: 120, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $words = '';

    #[ORM\Column(options: ['unsigned' => true])]
    public int $times = 0;

    #[ORM\Column]
    public \DateTimeImmutable $lastAt;
}
