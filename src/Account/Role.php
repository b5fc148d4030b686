<?php

declare(strict_types=1);

namespace Fasti\Account;

enum Role: string
{
    case Reader = 'reader';
    case Steward = 'steward';
    case Administrator = 'administrator';

    public function security(): string
    {
        return 'ROLE_'.strtoupper($this->value);
    }
}
