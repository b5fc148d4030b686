<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

use Fasti\Account\Account;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Authorization\Voter\Vote;
use Symfony\Component\Security\Core\Authorization\Voter\Voter;

/**
 * One act. What it is about comes as the subject, where it depends on that.
 *
 * @extends Voter<string, mixed>
 */
abstract class ActVoter extends Voter
{
    abstract protected function act(): string;

    abstract protected function may(Account $account, mixed $subject): bool;

    public function supportsAttribute(string $attribute): bool
    {
        return $this->act() === $attribute;
    }

    protected function supports(string $attribute, mixed $subject): bool
    {
        return $this->act() === $attribute;
    }

    protected function voteOnAttribute(string $attribute, mixed $subject, TokenInterface $token, ?Vote $vote = null): bool
    {
        $account = $token->getUser();

        return $account instanceof Account && $account->active && $this->may($account, $subject);
    }
}
