<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\ORM\Mapping as ORM;

/** A draft as it was made last, for pages and for the queue. */
#[ORM\Entity]
#[ORM\Table(name: 'draft')]
#[ORM\Index(name: 'draft_of', columns: ['entry_id'])]
class KeptDraft
{
    #[ORM\Id, ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $topicId = 0;

    #[ORM\Id, ORM\Column(length: 20)]
    public string $property = '';

    /** 0 for the surest. */
    #[ORM\Id, ORM\Column(type: 'smallint', options: ['unsigned' => true])]
    public int $place = 0;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $entryId = 0;

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $text = '';

    #[ORM\Column]
    public float $confidence = 0.0;

    /** @var list<string> */
    #[ORM\Column(type: 'json')]
    public array $because = [];

    #[ORM\Column(length: 40)]
    public string $rule = '';

    #[ORM\Column(length: 32, options: ['fixed' => true])]
    public string $evidence = '';
}
