<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Drift;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Survey\Choice;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Tests\App\AppTestCase;
use Fasti\Text\Texts;

/** A source that changes between two surveys, and what a steward makes of it. */
final class DriftTest extends AppTestCase
{
    private const FIRST = [
        'CREATE TABLE landowner (no INTEGER PRIMARY KEY, parish TEXT, since DATE, telephone TEXT)',
        'CREATE TABLE station (id INTEGER PRIMARY KEY, code VARCHAR(5), opened_on DATE, owner INTEGER REFERENCES landowner (no))',
        'CREATE TABLE old_import (line TEXT, weight REAL)',
        'CREATE TABLE untouched (id INTEGER PRIMARY KEY, remark TEXT)',
    ];
    private const SECOND = [
        'ALTER TABLE landowner RENAME TO land_contact',
        'DROP TABLE old_import',
        'ALTER TABLE station RENAME COLUMN opened_on TO in_service_from',
        'CREATE TABLE water_body (id INTEGER PRIMARY KEY, kind TEXT)',
    ];

    private string $path = '';
    private Account $steward;
    private int $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->path = sys_get_temp_dir().'/fasti-drift-'.bin2hex(random_bytes(4)).'.sqlite';
        $this->change(self::FIRST);
        $source = new Source();
        $source->name = 'rivers';
        $source->connection()->engine = 'sqlite';
        $source->connection()->path = $this->path;
        $source->choose(new Choice());
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();
        $this->source = $source->id();
        $this->steward = $this->signedIn();
        $this->survey();
        $this->write(EntryTopic::NAME, self::entryId('landowner'), 'meaning', 'Who owns land along the river.');
        $this->write(FieldTopic::NAME, self::fieldId('station', 'opened_on'), 'meaning', 'The day of its first reading.');
        $this->write(FieldTopic::NAME, self::fieldId('station', 'code'), 'meaning', 'At most 5 letters.');
        $this->write(EntryTopic::NAME, self::entryId('untouched'), 'meaning', 'Filled from old_import, see landowner.');
        $this->write(EntryTopic::NAME, self::entryId('old_import'), 'meaning', 'What came before.');
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
        parent::tearDown();
    }

    public function testNothingIsAskedWhenNothingHasChanged(): void
    {
        $id = $this->survey();

        self::assertSame(0, self::scalar('SELECT decided_at IS NULL FROM survey WHERE id = ?', $id));
        $this->client->request('GET', "/surveys/$id");
        self::assertSelectorTextContains('h1', 'What the survey found');
    }

    public function testTheRegisterWaitsForADecisionAndThenFollows(): void
    {
        $landowner = self::entryId('landowner');
        $opened = self::fieldId('station', 'opened_on');
        $this->change(self::SECOND);
        $id = $this->survey();
        self::assertSame($landowner, self::entryId('landowner'), 'Nothing is followed unasked.');
        $page = $this->client->request('GET', "/surveys/$id");
        $said = $page->filter('.drift')->text();
        foreach ([
            'landowner → main.land_contact', 'opened_on → in_service_from', 'It has the same type and the same place', 'gone main.old_import',
            'new main.water_body',
        ] as $words) {
            self::assertStringContainsString($words, $said);
        }
        $this->client->submit($page->selectButton('Follow all of it')->form());
        self::assertResponseRedirects("/surveys/$id");

        self::assertSame($landowner, self::entryId('land_contact'), 'It is the same entry, with its text.');
        self::assertSame($opened, self::fieldId('station', 'in_service_from'));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE id = ? AND meaning = 'Who owns land along the river.'", $landowner));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'old_import' AND gone_at IS NOT NULL AND meaning = 'What came before.'"));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'water_body'"));
        self::assertSame(2, self::scalar("SELECT COUNT(*) FROM change_event WHERE property = 'name'"));
        $this->client->request('GET', '/register/'.$landowner.'/history');
        self::assertStringContainsString('main.landowner', $this->content());
        $this->client->followRedirects();
        $this->client->request('GET', "/surveys/$id");
        self::assertSelectorTextContains('.told', 'Oona Lisk decided about it');
        self::assertSame(0, self::scalar('SELECT decided_at IS NULL FROM survey WHERE id = ?', $this->survey()), 'All was followed, so nothing is left.');
    }

    public function testSomeMayBeLeftForLaterAndComeAgain(): void
    {
        $this->change(self::SECOND);
        $id = $this->survey();
        $form = $this->client->request('GET', "/surveys/$id")->selectButton('Follow all of it')->form();
        $answers = array_map(static fn (array $item): string => 'water_body' === $item['name'] ? 'yes' : 'no', $this->items($id));
        $this->client->request('POST', $form->getUri(), ['item' => $answers] + $form->getPhpValues());

        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'water_body'"));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry WHERE gone_at IS NOT NULL'));
        self::assertNotSame(0, self::entryId('landowner'));
        self::assertSame(['land_contact', 'station', 'old_import'], array_column($this->items($this->survey()), 'name'));
    }

    public function testARenameMayBeRefused(): void
    {
        $this->change(self::SECOND);
        $id = $this->survey();
        $form = $this->client->request('GET', "/surveys/$id")->selectButton('Follow all of it')->form();
        $items = $this->items($id);
        $answers = array_map(static fn (array $item): string => 'renamed' === $item['change'] ? 'apart' : 'yes', $items);
        $station = (int) array_search('station', array_column($items, 'name'), true);
        $this->client->request('POST', $form->getUri(), ['item' => $answers, 'apart' => [$station => ['in_service_from']]] + $form->getPhpValues());

        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'landowner' AND gone_at IS NOT NULL AND meaning <> ''"));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'land_contact' AND meaning = ''"));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM field WHERE name = 'opened_on' AND gone_at IS NOT NULL AND meaning <> ''"));
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM field WHERE name = 'in_service_from' AND meaning = ''"));
    }

    public function testWhatIsGoneComesBackWithItsText(): void
    {
        $this->change(['ALTER TABLE old_import RENAME TO hidden_away']);
        $this->change(['DROP TABLE hidden_away']);
        $this->followAll();
        self::assertSame(1, self::scalar("SELECT gone_at IS NOT NULL FROM entry WHERE name = 'old_import'"));
        $this->change([self::FIRST[2]]);
        $this->followAll();

        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'old_import' AND gone_at IS NULL AND meaning = 'What came before.'"));
    }

    public function testTextsThatAChangeMakesDoubtfulHaveANoteInTheMargin(): void
    {
        $this->change([
            ...self::SECOND,
            'PRAGMA writable_schema = 1',
            "UPDATE sqlite_master SET sql = REPLACE(sql, 'VARCHAR(5)', 'VARCHAR(9)') WHERE name = 'station'",
        ]);
        $this->followAll();

        $this->client->request('GET', '/register/'.self::entryId('station'));
        self::assertSelectorTextContains('#field-'.self::fieldId('station', 'code').' .doubt', 'The text speaks of 5, as the type did');
        $page = $this->client->request('GET', '/register/'.self::entryId('untouched'));
        self::assertSame(2, $page->filter('.doubt')->count());
        self::assertStringContainsString(
            'names landowner, which is called land_contact now',
            $page->filter('.doubt')->text().$page->filter('.doubt')->eq(1)->text(),
        );
        self::assertStringContainsString('names old_import, which is gone', $page->filter('.doubt')->text().$page->filter('.doubt')->eq(1)->text());

        // Writing the text anew settles it; so does saying that it still holds.
        $this->write(EntryTopic::NAME, self::entryId('untouched'), 'meaning', 'Filled by hand.', 'Filled from old_import, see landowner.');
        self::assertSame(0, $this->client->request('GET', '/register/'.self::entryId('untouched'))->filter('.doubt')->count());
        $open = "SELECT %s FROM finding WHERE check_name = 'doubtful-text' AND ended_at IS NULL AND set_aside_at IS NULL";
        $this->post('/register/findings/'.self::scalar(\sprintf($open, 'id')).'/aside', [], $this->textsToken());
        self::assertResponseIsSuccessful();
        self::assertSame(0, self::scalar(\sprintf($open, 'COUNT(*)')));
    }

    public function testADecisionIsTakenOnceAndOnlyAboutTheLatest(): void
    {
        $this->change(self::SECOND);
        $first = $this->survey();
        $form = $this->client->request('GET', "/surveys/$first")->selectButton('Follow all of it')->form();
        $this->survey();
        $this->client->request('POST', $form->getUri(), $form->getPhpValues());
        self::assertSame(0, self::scalar("SELECT COUNT(*) FROM entry WHERE name = 'land_contact'"), 'A later survey has taken its place.');
        $this->client->request('GET', "/surveys/$first");
        self::assertSelectorTextContains('.told', 'a later survey has taken its place');
    }

    public function testAnyTwoSurveysCanBeCompared(): void
    {
        $first = self::scalar('SELECT MIN(id) FROM survey');
        $this->change(self::SECOND);
        $second = $this->survey();
        $page = $this->client->request('GET', "/sources/$this->source/compare?a=$first&b=$second");
        self::assertStringContainsString('landowner → main.land_contact', $page->filter('.drift')->text());
        $this->client->request('GET', "/sources/$this->source/compare?a=$first&b=$first");
        self::assertSelectorTextContains('.told', 'Nothing has changed');
    }

    public function testAReaderSeesTheDriftAndDecidesNothing(): void
    {
        $this->change(self::SECOND);
        $id = $this->survey();
        $this->signedIn(Role::READER, 'Ida Fell');
        $page = $this->client->request('GET', "/surveys/$id");

        self::assertSame(0, $page->filter('form[action$="decide"]')->count());
        self::assertStringContainsString('old_import', $page->filter('.drift')->text());
    }

    /** @param list<string> $statements */
    private function change(array $statements): void
    {
        $database = new \PDO('sqlite:'.$this->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        foreach ($statements as $statement) {
            $database->exec($statement);
        }
    }

    private function survey(): int
    {
        return self::surveyed($this->source);
    }

    private function followAll(): void
    {
        $id = $this->survey();
        $this->client->submit($this->client->request('GET', "/surveys/$id")->selectButton('Follow all of it')->form());
    }

    private function write(string $subject, int $id, string $property, string $value, string $base = ''): void
    {
        self::get(Texts::class)->save($this->steward, $subject, $id, $property, $base, $value, bin2hex(random_bytes(4)));
    }

    /** @return list<array{name: string, change: string}> */
    private function items(int $survey): array
    {
        /** @var list<array{name: string, change: string}> $items */
        $items = Row::json(self::db()->fetchAssociative('SELECT drift FROM survey WHERE id = ?', [$survey]) ?: [], 'drift');

        return $items;
    }
}
