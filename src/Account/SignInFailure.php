<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\Mapping as ORM;

/** Failed sign-ins of one address and one account name together, since the last success. */
#[ORM\Entity]
#[ORM\Table(name: 'sign_in_failure')]
class SignInFailure
{
    #[ORM\Id, ORM\Column(length: 64)]
    public string $who;

    #[ORM\Column]
    public int $failures = 0;

    #[ORM\Column]
    public \DateTimeImmutable $last;

    public function __construct(string $who)
    {
        $this->who = $who;
        $this->last = new \DateTimeImmutable();
    }
}
