<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Fasti\Account\FirstCode;
use Fasti\Tests\App\AppTestCase;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;

/** Where nobody has an account yet. */
final class FirstAccountTest extends AppTestCase
{
    public function testTheFirstPageMakesTheFirstAdministratorWithTheCode(): void
    {
        $this->client->request('GET', '/');
        $this->client->followRedirect();
        self::assertResponseRedirects('/first-account');
        $form = $this->client->followRedirect()->selectButton('Make the account')->form();
        $given = ['account_form[name]' => 'Ren Abara', 'account_form[email]' => 'ren@example.org', 'account_form[password]' => 'long-enough-now'];

        $this->client->submit($form, $given + ['account_form[code]' => 'AAAA-BBBB-CCCC']);
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('.errors', 'This is not the code');
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM account'));

        // Small letters and blanks are no reason to send anybody away.
        $this->client->submit($form, $given + ['account_form[code]' => strtolower(strtr(self::get(FirstCode::class)->code(), '-', ' '))]);
        self::assertResponseRedirects('/sign-in');
        $role = self::db()->fetchOne("SELECT r.name FROM account JOIN account_role r ON r.id = role_id WHERE email = 'ren@example.org' AND active = 1");
        self::assertSame('administrator', $role);
        $this->client->request('GET', '/first-account');
        self::assertResponseRedirects('/sign-in', null, 'It makes one only.');
    }

    public function testTheCodeIsPrintedAsLongAsItIsGoodForSomething(): void
    {
        self::assertSame(self::get(FirstCode::class)->code()."\n", $this->printed());
        $this->account();
        self::assertSame('', $this->printed());
    }

    private function printed(): string
    {
        $tester = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find('fasti:first-code'));
        $tester->execute([]);

        return $tester->getDisplay();
    }
}
