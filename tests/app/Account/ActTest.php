<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Fasti\Account\Act\Act;
use Fasti\Account\Role;
use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\TestWith;
use Symfony\Component\Security\Core\Authentication\Token\UsernamePasswordToken;
use Symfony\Component\Security\Core\Authorization\AccessDecisionManagerInterface;

/** Who may do what. */
final class ActTest extends AppTestCase
{
    private const READER = [Act::READ];
    private const STEWARD = [Act::READ, Act::DESCRIBE, Act::SURVEY, Act::DECIDE, Act::PUBLISH, Act::ASK, Act::SEE_PERSONAL];

    /** @return list<string> */
    private function may(Role $role, bool $active = true): array
    {
        $account = $this->account($role, 'A '.random_int(0, \PHP_INT_MAX));
        $account->active = $active;
        $token = new UsernamePasswordToken($account, 'main', $account->getRoles());
        $decides = static::getContainer()->get('security.access.decision_manager');
        self::assertInstanceOf(AccessDecisionManagerInterface::class, $decides);

        return array_values(array_filter(self::acts(), static fn (string $act): bool => $decides->decide($token, [$act])));
    }

    /** @return list<string> */
    private static function acts(): array
    {
        return array_values(array_filter((new \ReflectionClass(Act::class))->getConstants(), is_string(...)));
    }

    public function testEachRoleMayWhatItMayAndNothingElse(): void
    {
        self::assertSame(self::READER, $this->may(Role::Reader));
        self::assertSame(self::STEWARD, $this->may(Role::Steward));
        self::assertSame(self::acts(), $this->may(Role::Administrator));
    }

    #[TestWith([Role::Steward])]
    #[TestWith([Role::Administrator])]
    public function testAClosedAccountMayNothing(Role $role): void
    {
        self::assertSame([], $this->may($role, false));
    }
}
