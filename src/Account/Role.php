<?php

declare(strict_types=1);

namespace Fasti\Account;

/** What somebody is to the register. What each role may do is said by the voters in Act/. */
enum Role: string
{
    case Reader = 'reader';
    case Steward = 'steward';
    case Administrator = 'administrator';

    /** The framework wants roles by such names; nothing here asks for them. */
    public function security(): string
    {
        return 'ROLE_'.strtoupper($this->value);
    }

    /** It is this role or one that may do all that this may. */
    public function reaches(self $least): bool
    {
        $order = self::cases();

        return array_search($this, $order, true) >= array_search($least, $order, true);
    }
}
