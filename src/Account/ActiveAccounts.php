<?php

declare(strict_types=1);

namespace Fasti\Account;

use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAccountStatusException;
use Symfony\Component\Security\Core\User\UserCheckerInterface;
use Symfony\Component\Security\Core\User\UserInterface;

/** Lets nobody in whose account has been closed. Checked after the password, so that it tells strangers nothing. */
final class ActiveAccounts implements UserCheckerInterface
{
    public function checkPreAuth(UserInterface $user): void
    {
    }

    public function checkPostAuth(UserInterface $user, ?TokenInterface $token = null): void
    {
        if ($user instanceof Account && !$user->active) {
            throw new CustomUserMessageAccountStatusException('This account is closed. An administrator can open it again.');
        }
    }
}
