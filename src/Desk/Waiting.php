<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;

/** Something that nobody has described, in the queue. */
#[ORM\Entity]
#[ORM\Table(name: 'waiting')]
#[ORM\Index(name: 'waiting_order', columns: ['place', 'entry_id', 'topic', 'topic_id'])]
#[ORM\Index(name: 'waiting_entry', columns: ['entry_id'])]
#[ORM\Index(name: 'waiting_source', columns: ['source_id', 'place', 'entry_id', 'topic', 'topic_id'])]
class Waiting
{
    #[ORM\Id, ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $topicId = 0;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $entryId = 0;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $sourceId = 0;

    /** Its worth below zero: what is worth the most comes first in an index. */
    #[ORM\Column]
    public float $place = 0.0;

    /** There is a draft of its meaning. */
    #[ORM\Column]
    public bool $drafted = false;

    /** @var list<string> what makes it worth describing */
    #[ORM\Column(type: 'json')]
    public array $why = [];
}
