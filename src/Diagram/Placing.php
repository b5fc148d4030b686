<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Doctrine\ORM\Mapping as ORM;

/** Where the tablets of a diagram that draws itself stood last, so that a small change leaves the picture as it was. */
#[ORM\Entity]
#[ORM\Table(name: 'diagram_placing')]
class Placing
{
    #[ORM\Id, ORM\Column(length: 120)]
    public string $scope = '';

    /** By entry: x and y. */
    #[ORM\Column(type: 'text', length: 16777215)]
    public string $places = '{}';

    /** Entries that have come or gone since the whole was placed; 0 while it is as the layout made it. */
    #[ORM\Column(options: ['unsigned' => true])]
    public int $changes = 0;
}
