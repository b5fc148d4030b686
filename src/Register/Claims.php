<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Account\Account;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** What a room has waiting for a person. Found by tag; shown on the desk. */
#[AutoconfigureTag]
interface Claims
{
    /** @return iterable<Claim> only what the account may act on */
    public function of(Account $account): iterable;
}
