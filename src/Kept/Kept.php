<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;

/** What a person makes and keeps under a name: it is its owner's own until it is shared, and stays when it is thrown away, to be taken back. */
#[ORM\MappedSuperclass]
abstract class Kept
{
    /** The greatest lengths, in characters. */
    public const NAME = 120;
    public const PURPOSE = 400;

    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: self::NAME)]
    public string $name = '';

    #[ORM\Column(length: self::PURPOSE)]
    public string $purpose = '';

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $owner;

    #[ORM\Column]
    public bool $shared = false;

    #[ORM\Column]
    public \DateTimeImmutable $changedAt;

    /** Since when it is thrown away; null while it is not. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $thrownAt = null;

    public function __construct(string $name, string $purpose, Account $owner)
    {
        $this->name = $name;
        $this->purpose = $purpose;
        $this->owner = $owner;
        $this->changedAt = new \DateTimeImmutable();
    }

    public function id(): int
    {
        return (int) $this->id;
    }

    public function isOf(Account $account): bool
    {
        return $this->owner->id() === $account->id();
    }

    public function isSeenBy(Account $account): bool
    {
        return null === $this->thrownAt && ($this->shared || $this->isOf($account));
    }

    /** Who may change it: its owner, and once it is shared whoever describes. */
    public function isChangedBy(Account $account): bool
    {
        return $account->may(Act::DESCRIBE) && $this->isSeenBy($account);
    }
}
