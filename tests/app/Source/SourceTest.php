<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Role;
use Fasti\Core\Dialect\Address;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Source\Vault;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\Attributes\DataProvider;

final class SourceTest extends AppTestCase
{
    public static function setUpBeforeClass(): void
    {
        OddSchema::make();
    }

    public static function tearDownAfterClass(): void
    {
        OddSchema::drop();
    }

    /** @return iterable<string, array{array<string, string>, string}> */
    public static function troubles(): iterable
    {
        yield 'unknown host' => [['host' => 'no-such-host.invalid'], 'No host is known by the name “no-such-host.invalid”'];
        yield 'nothing listens' => [['port' => '1'], 'Nothing answers at 127.0.0.1:1'];
        yield 'wrong password' => [['secret' => 'wrong'], 'does not accept this account with this password'];
        yield 'no such database, seen by one who may see all' => [
            ['account' => OddSchema::ACCOUNT.'_all', 'secret' => 'all', 'database' => 'nowhere'],
            'has no database “nowhere”',
        ];
        yield 'no rights on it' => [['database' => 'mysql'], 'has no rights on the database “mysql”'];
        yield 'a semicolon in the host' => [['host' => 'a%3Bb'], 'The host holds a character'];
    }

    /** @param array<string, string> $parts */
    #[DataProvider('troubles')]
    public function testATestOfTheConnectionSaysWhatIsWrongAndWhatToDo(array $parts, string $words): void
    {
        $answer = $this->test(['url' => OddSchema::url($parts)]);

        self::assertFalse($answer['ok']);
        self::assertIsString($answer['message']);
        self::assertStringContainsString($words, $answer['message']);
        self::assertNotSame('', $answer['advice']);
        self::assertStringNotContainsString(OddSchema::SECRET, $this->content());
    }

    public function testAGoodConnectionSaysWhatMayBeRead(): void
    {
        $answer = $this->test(['url' => OddSchema::url(['database' => ''])]);

        self::assertTrue($answer['ok']);
        self::assertIsString($answer['advice']);
        self::assertStringContainsString('may read 5 tables and 2 views in 1 schema ('.OddSchema::NAME.')', $answer['advice']);
        self::assertIsString($answer['message']);
        self::assertStringContainsString('MariaDB', $answer['message']);
    }

    public function testAnAccountWithoutAnyRightsSeesNothing(): void
    {
        $answer = $this->test(['url' => OddSchema::url(['account' => OddSchema::ACCOUNT.'_poor', 'secret' => 'poor', 'database' => ''])]);

        self::assertIsString($answer['advice']);
        self::assertStringContainsString('0 tables and 0 views in 0 schemas', $answer['advice']);
    }

    public function testAKeptSecretIsNeverSentToAnotherHost(): void
    {
        $source = $this->source('odd', OddSchema::NAME, OddSchema::ACCOUNT, OddSchema::SECRET);
        $given = [
            'connection' => (string) $source->connection()->id(),
            'host' => '127.0.0.1',
            'port' => (string) self::port(),
            'database' => OddSchema::NAME,
            'account' => OddSchema::ACCOUNT,
            'secret' => '',
        ];

        self::assertTrue($this->test($given)['ok']);
        self::assertFalse($this->test(['host' => '127.0.0.2'] + $given)['ok']);
    }

    /** @return iterable<string, array{array<string, string>}> */
    public static function elsewhere(): iterable
    {
        yield 'another host' => [['source_form[host]' => '127.0.0.2']];
        yield 'another port' => [['source_form[port]' => '3999']];
        yield 'another account' => [['source_form[account]' => 'somebody_else']];
        yield 'another kind' => [['source_form[engine]' => 'postgresql']];
        yield 'a pasted address' => [['source_form[url]' => 'mysql://fasti_odd@127.0.0.2:3306/x']];
    }

    /** @param array<string, string> $changed */
    #[DataProvider('elsewhere')]
    public function testAKeptSecretIsAskedForAgainWhenItWouldGoElsewhere(array $changed): void
    {
        $source = $this->source('odd', OddSchema::NAME, OddSchema::ACCOUNT, OddSchema::SECRET);
        $sealed = $source->connection()->sealedSecret;
        $this->signedIn();
        $form = $this->client->request('GET', '/sources/'.$source->id().'/connection')->selectButton('Save and choose what to read')->form();
        $this->client->submit($form, $changed);

        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('.errors', 'secret');
        self::assertSame($sealed, self::db()->fetchOne('SELECT sealed_secret FROM connection WHERE source_id = ?', [$source->id()]));
        self::assertSame('127.0.0.1', self::db()->fetchOne('SELECT host FROM connection WHERE source_id = ?', [$source->id()]), 'Nothing is saved.');
    }

    /** @return iterable<string, array{array<string, string>}> */
    public static function own(): iterable
    {
        $own = ['account' => 'fasti', 'secret' => 'x', 'database' => ''];
        yield 'its account' => [$own];
        yield 'by another name of the machine' => [['host' => 'localhost'] + $own];
        yield 'by another address of the machine' => [['host' => '127.0.0.9'] + $own];
        $name = $_SERVER['DATABASE_NAME'] ?? '';
        yield 'its database' => [['database' => \is_string($name) ? $name : '']];
    }

    /** @param array<string, string> $parts */
    #[DataProvider('own')]
    public function testTheOwnDatabaseOfFastiIsNoSource(array $parts): void
    {
        self::assertSame('This is Fasti\'s own database, which it does not read as a source.', $this->test(['url' => OddSchema::url($parts)])['message']);
    }

    public function testASourceMayHaveSeveralConnectionsAndOneIsInUse(): void
    {
        $source = $this->source('odd', OddSchema::NAME, OddSchema::ACCOUNT, OddSchema::SECRET);
        $id = $source->id();
        $this->signedIn();
        $form = $this->client->request('GET', "/sources/$id/connections/new")->selectButton('Save and choose what to read')->form();
        $this->client->submit($form, ['source_form[label]' => 'live', 'source_form[url]' => OddSchema::url()]);
        self::assertSelectorTextContains('.errors', 'has a connection of this name already');
        $form = $this->client->request('GET', "/sources/$id/connections/new")->selectButton('Save and choose what to read')->form();
        $this->client->submit(
            $form,
            ['source_form[label]' => 'test', 'source_form[url]' => OddSchema::url(['account' => OddSchema::ACCOUNT.'_writer', 'secret' => 'writes'])],
        );
        self::assertResponseRedirects("/sources/$id");

        $page = $this->client->followRedirect();
        self::assertSame(
            ['live in use', 'test'],
            $page->filter('.ways > li')->each(static fn ($way): string => trim($way->filter('a')->text().' '.$way->filter('.patina')->text(''))),
        );
        $this->client->submit($page->selectButton('Use this one')->form());
        self::assertSame('test', self::db()->fetchOne('SELECT label FROM connection WHERE source_id = ? AND in_use = 1', [$id]));
        self::get(EntityManagerInterface::class)->clear();
        self::surveyed($id);
        self::assertSame('test', self::db()->fetchOne('SELECT through FROM survey WHERE source_id = ?', [$id]));
        self::get(EntityManagerInterface::class)->clear();
        $page = $this->client->request('GET', "/sources/$id");
        self::assertStringContainsString('test', $page->filter('.columns table')->last()->text());

        $this->client->submit($page->selectButton('Remove')->form());
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM connection WHERE source_id = ?', $id));
    }

    public function testASessionIsReadOnlyAndStatementsHaveALimit(): void
    {
        $rows = self::get(Sources::class)->rows(
            Address::fromUrl(OddSchema::url(['account' => OddSchema::ACCOUNT.'_writer', 'secret' => 'writes'])),
            60,
        ) ?? self::fail('It has no session.');
        self::assertGreaterThan(0, (float) (iterator_to_array($rows->rows('SELECT @@max_statement_time AS t'), false)[0]['t'] ?? 0));
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('only reads');
        iterator_to_array($rows->rows('INSERT INTO uses (id) VALUES (1)'));
    }

    public function testAddingASourceKeepsItsSecretSealedAndLeadsOn(): void
    {
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/new');
        $this->client->submit(
            $crawler->selectButton('Save and choose what to read')->form(['source_form[name]' => 'Odd', 'source_form[url]' => OddSchema::url()]),
        );
        $id = self::scalar("SELECT id FROM source WHERE name = 'Odd'");
        self::assertResponseRedirects("/sources/$id/choice");

        $sealed = self::db()->fetchOne('SELECT sealed_secret FROM connection WHERE source_id = ?', [$id]);
        self::assertIsString($sealed);
        self::assertStringNotContainsString(OddSchema::SECRET, $sealed.base64_decode($sealed, true));
        self::assertSame(OddSchema::SECRET, self::get(Vault::class)->open($sealed));
        foreach (["/sources/$id", "/sources/$id/connection", "/sources/$id/choice"] as $page) {
            $this->client->request('GET', $page);
            self::assertResponseIsSuccessful();
            self::assertStringNotContainsString(htmlspecialchars(OddSchema::SECRET), $this->content());
        }
    }

    public function testTheChoiceIsKeptAndAppliesToTheNextSurvey(): void
    {
        $source = $this->source('odd', OddSchema::NAME, OddSchema::ACCOUNT, OddSchema::SECRET);
        $this->signedIn();
        $page = '/sources/'.$source->id().'/choice';
        $crawler = $this->client->request('GET', $page);
        self::assertCount(0, $crawler->filter('.objects li'), 'Nothing connects by merely opening a page.');
        $this->client->submit($crawler->selectButton('Look now')->form());
        self::assertResponseRedirects($page);
        $crawler = $this->client->request('GET', $page);
        self::assertCount(7, $crawler->filter('.objects li'));
        $this->client->submit($crawler->selectButton('Keep this choice and survey')->form(['include' => 'u* ?arts', 'exclude' => 'broken']));
        $this->client->followRedirect();
        self::assertResponseRedirects();

        $crawler = $this->client->request('GET', $page);
        self::assertSame('u* ?arts', $crawler->filter('#include')->attr('value'));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM job WHERE state = 'waiting'"));
    }

    public function testAFormThatIsNotFilledInSaysWhere(): void
    {
        $this->source('taken');
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/new');
        $this->client->submit($crawler->selectButton('Save and choose what to read')->form());
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('#source_form_name_errors', 'Give the source a name');
        self::assertSelectorTextContains('#source_form_host_errors', 'No host is given');

        $this->client->submit(
            $this->client->getCrawler()
                ->selectButton('Save and choose what to read')
                ->form(['source_form[name]' => 'taken', 'source_form[url]' => OddSchema::url()]),
        );
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('#source_form_name_errors', 'Another source has this name already');
    }

    public function testADamagedSealIsSaidInWords(): void
    {
        $this->expectExceptionMessage('sealed with another key');
        self::get(Vault::class)->open(base64_encode(random_bytes(80)));
    }

    /**
     * @param array<string, string> $given
     *
     * @return array<mixed>
     */
    private function test(array $given): array
    {
        $this->signedIn(Role::STEWARD, 'S'.random_int(0, \PHP_INT_MAX));
        $token = $this->client->request('GET', '/sources/new')->filter('[x-data=connection]')->attr('data-token');
        $this->client->request('POST', '/sources/test', $given + ['_token' => $token]);

        return $this->answer();
    }
}
