<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\Account\SlowSignIn;
use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\PasswordHasher\Hasher\PasswordHasherFactoryInterface;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\PasswordHasher\PasswordHasherInterface;
use Symfony\Component\Security\Core\Exception\BadCredentialsException;
use Symfony\Component\Security\Core\Exception\UserNotFoundException;
use Symfony\Component\Security\Http\Event\LoginFailureEvent;

final class SignInTest extends AppTestCase
{
    private function person(): Account
    {
        $account = $this->account();
        $account->setPassword(self::get(UserPasswordHasherInterface::class)->hashPassword($account, 'twelve-letters'));
        self::get(EntityManagerInterface::class)->flush();

        return $account;
    }

    private function try(string $email, string $password): string
    {
        $form = $this->client->request('GET', '/sign-in')->selectButton('Sign in')->form(['email' => $email, 'password' => $password]);
        $this->client->submit($form);
        if ($this->client->getResponse()->isRedirect()) {
            $this->client->followRedirect();
        }

        return $this->client->getRequest()->getPathInfo().' '.$this->client->getCrawler()->filter('[role=alert]')->text('');
    }

    public function testTheRightPasswordOpensTheDesk(): void
    {
        $this->try($this->person()->email, 'twelve-letters');

        self::assertResponseRedirects('/desk');
        self::assertStringNotContainsString('twelve-letters', $this->keptHash());
    }

    private function keptHash(): string
    {
        $hash = self::db()->fetchOne('SELECT password_hash FROM account ORDER BY id DESC LIMIT 1');

        return \is_string($hash) ? $hash : '';
    }

    public function testAWrongPasswordAndAnUnknownAccountReadAlike(): void
    {
        $person = $this->person();
        $words = '/sign-in That e-mail address and password do not belong together. Check both.';

        self::assertSame($words, $this->try($person->email, 'wrong'));
        self::assertSame($words, $this->try('nobody@example.org', 'wrong'));
    }

    public function testAfterFiveFailuresTheNextTryHasToWaitEvenWithTheRightPassword(): void
    {
        $person = $this->person();
        for ($i = 0; $i < 5; ++$i) {
            $this->try($person->email, 'wrong');
        }

        self::assertMatchesRegularExpression('/Too many failed tries. Wait \d seconds/', $this->try($person->email, 'twelve-letters'));
        self::assertStringContainsString('do not belong together', $this->try('another@example.org', 'wrong'), 'Others are not held up.');

        self::db()->executeStatement('UPDATE sign_in_failure SET last = UTC_TIMESTAMP() - INTERVAL 1 HOUR');
        $this->try($person->email, 'twelve-letters');
        self::assertResponseRedirects('/desk');
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM sign_in_failure WHERE failures = 0 AND succeeded_at IS NOT NULL'));
    }

    /** The database takes each of these for the same address. */
    public function testGuessesInOtherSpellingsCountForTheSameAccount(): void
    {
        $person = $this->person();
        $spellings = [$person->email, strtoupper($person->email), ' '.$person->email, strtr($person->email, ['o' => 'ö']), strtr($person->email, ['a' => 'à'])];
        $let = 0;
        foreach ([...$spellings, ...$spellings] as $email) {
            $let += str_contains($this->try($email, 'wrong'), 'do not belong together') ? 1 : 0;
        }

        self::assertSame(5, $let);
    }

    public function testAnAccountIsSlowedAFewSecondsAtMostAndNotAtAllForCallersItKnows(): void
    {
        $person = $this->person();
        $this->from('198.51.100.7');
        $this->try($person->email, 'twelve-letters');
        self::assertResponseRedirects('/desk');
        $this->client->request('POST', '/sign-out', ['_csrf_token' => 'x']);
        $this->client->getCookieJar()->clear();
        for ($i = 0; $i < 40; ++$i) {
            $this->from('203.0.113.'.$i);
            $said = $this->try($person->email, 'wrong');
        }
        self::assertMatchesRegularExpression('/Wait [1-8] seconds/', $said, 'Many callers together are slowed.');

        $this->from('198.51.100.8');
        self::db()->executeStatement('UPDATE sign_in_failure SET last = UTC_TIMESTAMP() - INTERVAL 9 SECOND');
        self::assertStringContainsString('do not belong together', $this->try($person->email, 'wrong'), 'It is never locked.');
        $this->from('198.51.100.7');
        $this->try($person->email, 'twelve-letters');
        self::assertResponseRedirects('/desk', null, 'Whoever has signed in from here before is not held up.');
    }

    public function testACallerThatTriesManyAccountsIsSlowed(): void
    {
        $this->person();
        for ($i = 0; $i < 31; ++$i) {
            $said = $this->try("somebody$i@example.org", 'wrong');
        }

        self::assertMatchesRegularExpression('/Too many failed tries/', $said);
    }

    public function testForAnAddressThatNobodyHasAHashIsWorkedOutToo(): void
    {
        $hasher = $this->createMock(PasswordHasherInterface::class);
        $hasher->expects(self::once())->method('hash');
        $factory = $this->createMock(PasswordHasherFactoryInterface::class);
        $factory->method('getPasswordHasher')->willReturn($hasher);
        $slow = new SlowSignIn(self::db(), new RequestStack(), $factory);
        $event = $this->createMock(LoginFailureEvent::class);
        $event->method('getException')->willReturn(new BadCredentialsException('', 0, new UserNotFoundException()));

        $slow->failed($event);
    }

    /** @return iterable<string, array{\Closure(Account): void}> */
    public static function changes(): iterable
    {
        yield 'closed' => [static function (Account $account): void { $account->active = false; }];
        yield 'another role' => [static function (Account $account): void { $account->role = self::get(Roles::class)->named(Role::READER); }];
        yield 'another password' => [static function (Account $account): void { $account->setPassword('y'); }];
    }

    /** @param \Closure(Account): void $change */
    #[DataProvider('changes')]
    public function testItsSessionsEndWhenAnAccountChanges(\Closure $change): void
    {
        $account = $this->signedIn();
        $this->client->request('GET', '/sources');
        self::assertResponseIsSuccessful();
        $entities = self::get(EntityManagerInterface::class);
        $change($entities->find(Account::class, $account->id()) ?? self::fail('There is no account.'));
        $entities->flush();
        $entities->clear();

        $this->client->request('GET', '/sources');
        self::assertResponseRedirects('/sign-in');
    }

    private function from(string $address): void
    {
        $this->client->setServerParameter('REMOTE_ADDR', $address);
    }

    public function testAClosedAccountIsNotLetInAndIsToldWhy(): void
    {
        $person = $this->person();
        $person->active = false;
        self::get(EntityManagerInterface::class)->flush();

        self::assertStringContainsString('This account is closed', $this->try($person->email, 'twelve-letters'));
    }

    public function testAnAdministratorCannotLockThemselvesOut(): void
    {
        $own = $this->signedIn(Role::ADMINISTRATOR);
        $crawler = $this->client->request('GET', '/accounts/'.$own->id());
        $this->client->submit($crawler->selectButton('Save')->form(['account_form[role]' => (string) self::get(Roles::class)->named(Role::READER)?->id()]));

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('You cannot close your own account', $this->content());
    }

    public function testAnAdministratorAddsAnAccount(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $form = static fn (string $password): array => [
            'account_form[name]' => 'Ida Fell',
            'account_form[email]' => 'ida@example.org',
            'account_form[role]' => (string) self::get(Roles::class)->named(Role::READER)?->id(),
            'account_form[password]' => $password,
        ];
        $this->client->submit($this->client->request('GET', '/accounts/new')->selectButton('Save')->form($form('short')));
        self::assertResponseStatusCodeSame(422);

        $this->client->submit($this->client->getCrawler()->selectButton('Save')->form($form('long-enough-now')));
        self::assertResponseRedirects('/accounts');
        self::assertSame('reader', self::db()->fetchOne("SELECT r.name FROM account JOIN account_role r ON r.id = role_id WHERE email = 'ida@example.org'"));
    }
}
