<?php

declare(strict_types=1);

namespace Fasti\Account\Act;

use Fasti\Account\Account;
use Fasti\Account\Role;

final class MayRead extends ActVoter
{
    protected function act(): string
    {
        return Act::READ;
    }

    protected function may(Account $account, mixed $subject): bool
    {
        return $account->role->reaches(Role::Reader);
    }
}
