<?php

declare(strict_types=1);

namespace Fasti\Text;

use Doctrine\ORM\Mapping as ORM;

/** A text for which its topic's table has no column. */
#[ORM\Entity]
#[ORM\Table(name: 'said')]
class Said
{
    #[ORM\Id, ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $topicId = 0;

    #[ORM\Id, ORM\Column(length: 20)]
    public string $property = '';

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $text = '';
}
