<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Fasti\Account\Act\Act;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\Tests\App\AppTestCase;

/** Roles are made and changed on the pages of accounts. */
final class RolesTest extends AppTestCase
{
    private function id(string $name): int
    {
        return self::get(Roles::class)->named($name)?->id() ?? self::fail("There is no role $name.");
    }

    /** @param list<string> $acts */
    private function send(string $path, string $name, array $acts): void
    {
        $token = $this->client->request('GET', $path)->filter('#role_form__token')->attr('value');
        $this->client->request('POST', $path, ['role_form' => ['name' => $name, 'acts' => $acts, '_token' => $token]]);
    }

    public function testThePageSaysWhatEachRoleMayAndHowManyHaveIt(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $this->roleOf([Act::DESCRIBE, Act::PUBLISH]);
        $rights = $this->client->request('GET', '/accounts')->filter('.rights');

        self::assertSame(['reader', 'steward', 'administrator'], array_values(array_filter(
            $rights->filter('thead a')->each(static fn ($a): string => $a->text()),
            static fn (string $name): bool => !str_starts_with($name, 'r') || 'reader' === $name,
        )));
        $row = $rights->filter('tbody tr')->reduce(static fn ($tr): bool => 'make editions' === $tr->filter('th')->text());
        self::assertSame(['–', '✓', '✓', '✓'], $row->filter('td')->each(static fn ($td): string => $td->text()));
    }

    public function testOneIsMadeAndHoldsAtOnceForWhoHasIt(): void
    {
        $this->signedIn(Role::ADMINISTRATOR, 'Ren Abara');
        $this->send('/accounts/roles', 'reviewer', [Act::DECIDE]);
        self::assertResponseRedirects('/accounts');
        $role = self::get(Roles::class)->named('reviewer');
        self::assertSame([Act::READ, Act::DECIDE], $role?->acts());

        $this->signedIn('reviewer', 'Ida Fell');
        $this->client->request('GET', '/sources/new');
        self::assertResponseStatusCodeSame(403);
        $role = self::get(Roles::class)->named('reviewer') ?? self::fail('It is gone.');
        $role->allow([Act::SURVEY]);
        self::get(Roles::class)->save($role);
        $this->client->request('GET', '/sources/new');
        self::assertResponseIsSuccessful();
    }

    public function testItGetsAnotherNameAndWhoHasItKeepsIt(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $id = $this->id(Role::ADMINISTRATOR);
        $this->send('/accounts/roles/'.$id, 'keeper', array_values(array_diff(array_keys(Act::WORDS), [Act::READ])));
        self::assertResponseRedirects('/accounts');
        $this->client->followRedirect();

        self::assertResponseIsSuccessful('The session goes on.');
        self::assertSame($id, $this->id('keeper'));
        self::assertStringContainsString('The role “keeper” is saved', $this->content());
    }

    public function testWhatCannotBeIsSaid(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        foreach ([['', 'blank'], ['reader', 'There is a role of this name already'], ['<b>', 'has letters, digits, blanks and hyphens'],
            [str_repeat('a', 41), 'too long']] as [$name, $words]) {
            $this->send('/accounts/roles', $name, []);
            self::assertResponseStatusCodeSame(422);
            self::assertStringContainsString($words, $this->content());
        }
        $this->send('/accounts/roles/'.$this->id(Role::ADMINISTRATOR), 'administrator', [Act::DESCRIBE]);
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('It is your own role', $this->content());
        self::assertTrue(self::get(Roles::class)->named(Role::ADMINISTRATOR)?->may(Act::ADMINISTER));
        $this->client->request('GET', '/accounts/roles/99999');
        self::assertResponseStatusCodeSame(404);
    }

    public function testOneThatSomebodyHasStays(): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $free = $this->roleOf([Act::PUBLISH]);
        $had = $this->roleOf([Act::PUBLISH]);
        $this->account($had, 'Ida Fell')->active = false;
        $crawler = $this->client->request('GET', '/accounts/roles/'.$this->id($had));
        self::assertCount(0, $crawler->selectButton('Take the role away'));
        $crawler = $this->client->request('GET', '/accounts/roles/'.$this->id($free));
        $this->client->submit($crawler->selectButton('Take the role away')->form());
        self::assertResponseRedirects('/accounts');
        self::assertNull(self::get(Roles::class)->named($free));

        self::assertFalse(self::get(Roles::class)->remove(self::get(Roles::class)->named($had) ?? throw new \LogicException()));
        self::assertNotNull(self::get(Roles::class)->named($had));
    }

    public function testTheFirstAccountGetsOneThatMayLookAfterAccounts(): void
    {
        $roles = self::get(Roles::class);
        self::assertSame(Role::ADMINISTRATOR, $roles->administering()->name);

        self::db()->executeStatement('DELETE FROM account');
        self::db()->executeStatement('DELETE FROM account_role');
        self::get(\Doctrine\ORM\EntityManagerInterface::class)->clear();
        self::assertSame(array_keys(Act::WORDS), $roles->administering()->acts());
    }
}
