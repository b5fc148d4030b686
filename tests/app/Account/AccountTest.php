<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Fasti\Account\Account;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Security\Core\User\InMemoryUser;

final class AccountTest extends TestCase
{
    #[TestWith(['Oona Lisk', 'OL'])]
    #[TestWith(['Ren van den Abara', 'RA'])]
    #[TestWith(['pell', 'P'])]
    #[TestWith(['  östen  ärlig ', 'ÖÄ'])]
    #[TestWith(['', '?'])]
    public function testTheLettersOfAName(string $name, string $letters): void
    {
        $account = new Account();
        $account->name = $name;

        self::assertSame($letters, $account->initials());
    }

    public function testOneWithoutARoleMayNothingAndOneWithoutAnAddressIsNobody(): void
    {
        $account = new Account();
        self::assertSame([], $account->getRoles());
        self::assertFalse($account->may('read'));
        self::assertFalse($account->isEqualTo(new InMemoryUser('a', 'b')));
        $this->expectExceptionMessage('The account has no e-mail address.');
        $account->getUserIdentifier();
    }
}
