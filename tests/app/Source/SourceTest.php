<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

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
        yield 'no such database, seen by one who may see all' => [['account' => OddSchema::ACCOUNT.'_all', 'secret' => 'all', 'database' => 'nowhere'], 'has no database “nowhere”'];
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
        $given = ['connection' => (string) $source->connection()->id(), 'host' => '127.0.0.1', 'port' => (string) self::port(), 'database' => OddSchema::NAME, 'account' => OddSchema::ACCOUNT, 'secret' => ''];

        self::assertTrue($this->test($given)['ok']);
        self::assertFalse($this->test(['host' => '127.0.0.2'] + $given)['ok']);
    }

    public function testASessionIsReadOnlyAndStatementsHaveALimit(): void
    {
        $rows = self::get(Sources::class)->rows(Address::fromUrl(OddSchema::url(['account' => OddSchema::ACCOUNT.'_writer', 'secret' => 'writes'])), 60) ?? self::fail('It has no session.');
        self::assertGreaterThan(0, (float) (iterator_to_array($rows->rows('SELECT @@max_statement_time AS t'), false)[0]['t'] ?? 0));
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage('READ ONLY');
        iterator_to_array($rows->rows('INSERT INTO uses (id) VALUES (1)'));
    }

    public function testAddingASourceKeepsItsSecretSealedAndLeadsOn(): void
    {
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/new');
        $this->client->submit($crawler->selectButton('Save and choose what to read')->form(['source_form[name]' => 'Odd', 'source_form[url]' => OddSchema::url()]));
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

        $this->client->submit($this->client->getCrawler()->selectButton('Save and choose what to read')->form(['source_form[name]' => 'taken', 'source_form[url]' => OddSchema::url()]));
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
        $this->signedIn(Role::Steward, 'S'.random_int(0, \PHP_INT_MAX));
        $token = $this->client->request('GET', '/sources/new')->filter('[x-data=connection]')->attr('data-token');
        $this->client->request('POST', '/sources/test', $given + ['_token' => $token]);

        return $this->answer();
    }
}
