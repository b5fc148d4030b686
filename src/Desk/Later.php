<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;

/** What somebody has put off. */
#[ORM\Entity]
#[ORM\Table(name: 'later')]
class Later
{
    #[ORM\Id, ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $account;

    #[ORM\Id, ORM\Column(length: 20)]
    public string $topic = '';

    #[ORM\Id, ORM\Column(options: ['unsigned' => true])]
    public int $topicId = 0;

    #[ORM\Column(name: 'until_at')]
    public \DateTimeImmutable $until;
}
