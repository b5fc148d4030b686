<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

use Fasti\Account\Account;
use Fasti\Account\Role;

final class MaySeePersonal extends ActVoter
{
    protected function act(): string
    {
        return Act::SEE_PERSONAL;
    }

    protected function may(Account $account, mixed $subject): bool
    {
        return $account->role->reaches(Role::Steward);
    }
}
