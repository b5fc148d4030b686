<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\Mapping as ORM;
use Symfony\Bridge\Doctrine\Validator\Constraints\UniqueEntity;
use Symfony\Component\Security\Core\User\EquatableInterface;
use Symfony\Component\Security\Core\User\PasswordAuthenticatedUserInterface;
use Symfony\Component\Security\Core\User\UserInterface;
use Symfony\Component\Validator\Constraints as Assert;

#[ORM\Entity]
#[ORM\Table(name: 'account')]
#[UniqueEntity('email', message: 'There is an account with this e-mail address already.')]
class Account implements UserInterface, PasswordAuthenticatedUserInterface, EquatableInterface
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 180, unique: true)]
    #[Assert\NotBlank, Assert\Email, Assert\Length(max: 180)]
    public string $email = '';

    #[ORM\Column(length: 120)]
    #[Assert\NotBlank, Assert\Length(max: 120)]
    public string $name = '';

    #[ORM\ManyToOne(fetch: 'EAGER'), ORM\JoinColumn(nullable: false)]
    #[Assert\NotNull(message: 'Choose a role.')]
    public ?Role $role = null;

    #[ORM\Column(length: 255)]
    private string $passwordHash = '';

    #[ORM\Column]
    public bool $active = true;

    public function id(): int
    {
        return $this->id ?? 0;
    }

    /** Whether its role has an act, and the account is open. */
    public function may(string $act): bool
    {
        return $this->active && true === $this->role?->may($act);
    }

    public function getRoles(): array
    {
        return null === $this->role ? [] : [$this->role->security()];
    }

    public function eraseCredentials(): void
    {
    }

    public function getUserIdentifier(): string
    {
        return '' === $this->email ? throw new \LogicException('The account has no e-mail address.') : $this->email;
    }

    public function getPassword(): string
    {
        return $this->passwordHash;
    }

    public function setPassword(#[\SensitiveParameter] string $hash): void
    {
        $this->passwordHash = $hash;
    }

    /** Whether a session that began with this account still stands. It ends with a new password or role, and when the account is closed. */
    public function isEqualTo(UserInterface $user): bool
    {
        return $user instanceof self && $user->active && $user->id === $this->id
            && $user->role?->id() === $this->role?->id() && $user->passwordHash === $this->passwordHash;
    }

    public function initials(): string
    {
        $parts = preg_split('/\s+/', trim($this->name), -1, \PREG_SPLIT_NO_EMPTY);
        $parts = false === $parts ? [] : $parts;

        return mb_strtoupper(mb_substr($parts[0] ?? '?', 0, 1).(\count($parts) > 1 ? mb_substr($parts[\count($parts) - 1], 0, 1) : ''));
    }
}
