<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;

/** How much of something was described on a day. */
#[ORM\Entity]
#[ORM\Table(name: 'coverage_day')]
class CoverageDay
{
    #[ORM\Id, ORM\Column(name: 'on_day', type: 'date_immutable')]
    public \DateTimeImmutable $day;

    /** What is counted: all, source, schema, area or owner. */
    #[ORM\Id, ORM\Column(length: 10)]
    public string $kind = '';

    #[ORM\Id, ORM\Column(length: 190, options: ['collation' => 'utf8mb4_nopad_bin'])]
    public string $name = '';

    #[ORM\Column(options: ['unsigned' => true])]
    public int $fields = 0;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $described = 0;
}
