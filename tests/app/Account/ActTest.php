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
    private const READER = [Act::READ, Act::ASK_MODELS];
    private const STEWARD = [Act::READ, Act::DESCRIBE, Act::SURVEY, Act::DECIDE, Act::PUBLISH, Act::ASK_MODELS, Act::ASK, Act::SEE_PERSONAL];

    /** @return list<string> */
    private function may(string $role, bool $active = true): array
    {
        $account = $this->account($role, 'A '.random_int(0, \PHP_INT_MAX));
        $account->active = $active;
        $token = new UsernamePasswordToken($account, 'main', $account->getRoles());
        $decides = static::getContainer()->get('security.access.decision_manager');
        self::assertInstanceOf(AccessDecisionManagerInterface::class, $decides);

        return array_values(array_filter(array_keys(Act::WORDS), static fn (string $act): bool => $decides->decide($token, [$act])));
    }

    public function testEveryActHasWords(): void
    {
        self::assertSame(array_values(array_filter((new \ReflectionClass(Act::class))->getConstants(), is_string(...))), array_keys(Act::WORDS));
    }

    public function testTheRolesThatThereAreAtFirstMayWhatTheyMayAndNothingElse(): void
    {
        self::assertSame(self::READER, $this->may(Role::READER));
        self::assertSame(self::STEWARD, $this->may(Role::STEWARD));
        self::assertSame(array_keys(Act::WORDS), $this->may(Role::ADMINISTRATOR));
    }

    public function testARoleMayWhatIsInItsListAndLookThingsUpAnyhow(): void
    {
        self::assertSame([Act::READ, Act::PUBLISH, Act::SEE_PERSONAL], $this->may($this->roleOf([Act::SEE_PERSONAL, Act::PUBLISH, 'fly'])));
        self::assertSame([Act::READ], $this->may($this->roleOf([])));
    }

    #[TestWith([Role::STEWARD])]
    #[TestWith([Role::ADMINISTRATOR])]
    public function testAClosedAccountMayNothing(string $role): void
    {
        self::assertSame([], $this->may($role, false));
    }
}
