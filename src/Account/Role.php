<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Act\Act;

/** What somebody is to the register: a list of acts. */
#[ORM\Entity]
#[ORM\Table(name: 'account_role')]
class Role
{
    /** Those that there are at first; each may be changed like any other. */
    public const READER = 'reader';
    public const STEWARD = 'steward';
    public const ADMINISTRATOR = 'administrator';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    /** @var list<string> */
    #[ORM\Column(type: 'json')]
    private array $acts = [Act::READ];

    public function __construct(#[ORM\Column(length: 40, unique: true)] public string $name)
    {
    }

    public function id(): int
    {
        return $this->id ?? 0;
    }

    /** The framework wants a role by such a name; nothing here asks for it. */
    public function security(): string
    {
        return 'ROLE_ACCOUNT';
    }

    public function may(string $act): bool
    {
        return \in_array($act, $this->acts, true);
    }

    /** @return list<string> in the order in which acts are listed */
    public function acts(): array
    {
        return array_values(array_intersect(array_keys(Act::WORDS), $this->acts));
    }

    /** @param list<string> $acts besides looking things up, which everybody may who may sign in */
    public function allow(array $acts): void
    {
        $this->acts = array_values(array_intersect(array_keys(Act::WORDS), [Act::READ, ...$acts]));
    }
}
