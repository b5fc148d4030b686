<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;

/** Something that nobody has described, in the queue. */
#[ORM\Entity]
#[ORM\Table(name: 'waiting')]
#[ORM\Index(name: 'waiting_worth', columns: ['worth', 'topic', 'topic_id'])]
#[ORM\Index(name: 'waiting_entry', columns: ['entry_id'])]
#[ORM\Index(name: 'waiting_source', columns: ['source_id', 'worth'])]
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

    #[ORM\Column]
    public float $worth = 0.0;

    /** @var list<string> what makes it worth describing */
    #[ORM\Column(type: 'json')]
    public array $why = [];
}
