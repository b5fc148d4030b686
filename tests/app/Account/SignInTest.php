<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Tests\App\AppTestCase;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;

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

    public function testTheRightPasswordOpensTheRegister(): void
    {
        $this->try($this->person()->email, 'twelve-letters');

        self::assertResponseRedirects('/register');
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
        self::assertResponseRedirects('/register');
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM sign_in_failure WHERE failures > 1'));
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
        $own = $this->signedIn(Role::Administrator);
        $crawler = $this->client->request('GET', '/accounts/'.$own->id());
        $this->client->submit($crawler->selectButton('Save')->form(['account_form[role]' => 'reader']));

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('You cannot close your own account', $this->content());
    }

    public function testAnAdministratorAddsAnAccount(): void
    {
        $this->signedIn(Role::Administrator);
        $form = static fn (string $password): array => ['account_form[name]' => 'Ida Fell', 'account_form[email]' => 'ida@example.org', 'account_form[role]' => 'reader', 'account_form[password]' => $password];
        $this->client->submit($this->client->request('GET', '/accounts/new')->selectButton('Save')->form($form('short')));
        self::assertResponseStatusCodeSame(422);

        $this->client->submit($this->client->getCrawler()->selectButton('Save')->form($form('long-enough-now')));
        self::assertResponseRedirects('/accounts');
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM account WHERE email = 'ida@example.org' AND role = 'reader'"));
    }
}
