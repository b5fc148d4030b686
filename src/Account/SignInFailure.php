<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\Mapping as ORM;

/** Failed sign-ins of one account, one caller, or both together; see SlowSignIn. */
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

    /** Of an account and a caller together: when it last was the right password. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $succeededAt = null;

    public function __construct(string $who)
    {
        $this->who = $who;
        $this->last = new \DateTimeImmutable();
    }
}
