<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

use Fasti\Account\Account;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Authorization\Voter\Vote;
use Symfony\Component\Security\Core\Authorization\Voter\Voter;

/**
 * Acts, by the role of the account.
 *
 * @extends Voter<string, mixed>
 */
final class ActVoter extends Voter
{
    public function supportsAttribute(string $attribute): bool
    {
        return isset(Act::WORDS[$attribute]);
    }

    protected function supports(string $attribute, mixed $subject): bool
    {
        return isset(Act::WORDS[$attribute]);
    }

    protected function voteOnAttribute(string $attribute, mixed $subject, TokenInterface $token, ?Vote $vote = null): bool
    {
        $account = $token->getUser();

        return $account instanceof Account && $account->may($attribute);
    }
}
