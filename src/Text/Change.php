<?php

declare(strict_types=1);

namespace Fasti\Text;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** One change of one text about anything: who, when, before, after. Nothing is ever removed from here. */
#[ORM\Entity]
#[ORM\Table(name: 'change_event')]
#[ORM\Index(name: 'change_of', columns: ['topic', 'topic_id', 'property', 'id'])]
#[ORM\Index(name: 'change_on_page', columns: ['page', 'page_id', 'id'])]
#[ORM\Index(name: 'change_at', columns: ['at'])]
class Change
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 20)]
    public string $topic;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $topicId;

    /** The topic of the thing on whose page it is listed. */
    #[ORM\Column(length: 20)]
    public string $page;

    #[ORM\Column(options: ['unsigned' => true])]
    public int $pageId;

    #[ORM\Column(length: 20)]
    public string $property;

    #[ORM\Column(name: 'text_before', type: 'text', length: 16777215)]
    public string $before;

    #[ORM\Column(name: 'text_after', type: 'text', length: 16777215)]
    public string $after;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Column]
    public \DateTimeImmutable $at;

    /** One sitting at one text: what is typed in it becomes one change. */
    #[ORM\Column(length: 40)]
    public string $sitting;

    public function id(): int
    {
        return $this->id ?? 0;
    }
}
