<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Profile;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Survey\Choice;
use Fasti\Profile\ProfileJob;
use Fasti\Profile\Profiles;
use Fasti\Register\EntryStore;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Survey\Surveys;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Fasti\Work\Jobs;

/** Profiles as runs: kept one by one, paused, gone on with, and what of them is shown. */
final class ProfileTest extends AppTestCase
{
    private string $path = '';
    private int $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->path = sys_get_temp_dir().'/fasti-profile-'.bin2hex(random_bytes(4)).'.sqlite';
        $database = new \PDO('sqlite:'.$this->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $database->exec("CREATE TABLE person (id INTEGER PRIMARY KEY, name TEXT, mail_address TEXT); CREATE TABLE reading (station INTEGER, flag TEXT,
            value REAL); CREATE TABLE zulu (a TEXT);
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) INSERT INTO person
                SELECT i, 'Ada Nr ' || i, 'hidden' || i || '@arrowmere.example' FROM n;
            INSERT INTO reading SELECT id % 5, CASE id % 4 WHEN 0 THEN 'G' WHEN 1 THEN 'S' WHEN 2 THEN 'B' END, id / 10.0 FROM person");
        $source = new Source();
        $source->name = 'rivers';
        $source->connection()->engine = 'sqlite';
        $source->connection()->path = $this->path;
        $source->choose(new Choice());
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();
        $this->source = $source->id();
        self::surveyed($this->source);
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
        parent::tearDown();
    }

    public function testTheWholeWayFromTheButtonToTheLedger(): void
    {
        $this->signedIn();
        $page = $this->client->request('GET', '/sources/'.$this->source);
        $this->client->submit($page->selectButton('Profile the data')->form());
        $run = self::scalar("SELECT MAX(id) FROM job WHERE kind = 'profile'");
        self::assertResponseRedirects("/jobs/$run");
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('h1', 'Profiling rivers');
        self::work($run);
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('.told', '3 of 3 entries were looked at');

        $page = $this->client->request('GET', '/register/'.self::entryId('reading'));
        $flag = $page->filter('#field-'.self::fieldId('reading', 'flag'));
        self::assertStringContainsString('75 % filled', $flag->text());
        self::assertStringContainsString('code', $flag->filter('.tags')->text());
        self::assertStringContainsString('from all rows', $flag->filter('.said')->text());
        self::assertSame(3, $flag->filter('.tops')->first()->filter('tr')->count());
        self::assertGreaterThan(5, $page->filter('#field-'.self::fieldId('reading', 'value').' .said rect')->count());
        self::assertStringContainsString('no row repeats another', $page->filter('.told-apart')->text());
    }

    public function testPersonalValuesAreNeitherKeptNorShownAndAStewardDecides(): void
    {
        $steward = $this->signedIn();
        $this->profiled();
        $figures = Row::text(self::db()->fetchAssociative('SELECT figures FROM profile WHERE entry_id = ?', [self::entryId('person')]) ?: [], 'figures');
        self::assertStringNotContainsString('hidden', $figures);
        self::assertStringNotContainsString('Ada', $figures);
        $page = $this->client->request('GET', '/register/'.self::entryId('person'));
        self::assertStringContainsString('personal', $page->filter('#field-'.self::fieldId('person', 'name').' .tags')->text());

        $texts = self::get(Texts::class);
        $texts->save($steward, FieldTopic::NAME, self::fieldId('reading', 'flag'), 'personal', '', 'yes', 'a');
        $kept = self::get(Profiles::class)->of(self::entryId('reading'))?->field('flag');
        self::assertSame([[], null, 'a steward says so'], [$kept?->frequent, $kept?->least, $kept?->personal], 'What was kept is forgotten at once.');
        $texts->save($steward, FieldTopic::NAME, self::fieldId('person', 'name'), 'personal', '', 'no', 'b');
        $this->profiled();
        $name = self::get(Profiles::class)->of(self::entryId('person'))?->field('name') ?? self::fail('There is no profile.');
        self::assertNotSame([], $name->shapes);
        self::assertSame('', $name->personal);
        $flag = self::get(Profiles::class)->of(self::entryId('reading'))?->field('flag') ?? self::fail('There is no profile.');
        self::assertSame('a steward says so', $flag->personal);
        $this->client->request('GET', '/register/'.self::entryId('person').'/history');
        self::assertStringContainsString('personal data', $this->content());
    }

    public function testARunIsPausedGoneOnWithAndCancelled(): void
    {
        $this->signedIn();
        $run = $this->asked();
        $token = (string) $this->client->request('GET', "/profiles/$run")->filter('form[action$="pause"] [name=_token]')->attr('value');
        $this->client->request('POST', "/jobs/$run/pause", ['_token' => $token]);
        self::work($run);
        self::assertSame('paused', self::state($run));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM profile'));
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('h1', 'The profile is paused');

        $this->client->request('POST', "/jobs/$run/resume", ['_token' => $token]);
        self::work($run);
        self::assertSame('done', self::state($run));
        self::assertSame(3, self::scalar('SELECT COUNT(*) FROM profile'));

        $run = $this->asked();
        $this->client->request('POST', "/jobs/$run/cancel", ['_token' => $token]);
        self::work($run);
        self::assertSame('cancelled', self::state($run));
    }

    public function testATableDroppedMeanwhileIsSaidAndTheOthersAreProfiled(): void
    {
        $this->signedIn();
        (new \PDO('sqlite:'.$this->path))->exec('DROP TABLE reading');
        $run = $this->profiled();

        self::assertSame(['done', '[]'], [self::state($run), self::db()->fetchOne("SELECT JSON_EXTRACT(payload, '$.waiting') FROM job WHERE id = ?", [$run])]);
        self::assertSame(2, self::scalar('SELECT COUNT(*) FROM profile'));
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('.answer.bad', 'main.reading was left out: This table or view is not there any more');
    }

    public function testASourceThatIsAwayEndsTheRunInWordsAndKeepsWhatWasThere(): void
    {
        $this->signedIn();
        $this->profiled();
        rename($this->path, $this->path.'.away');
        $run = $this->profiled();
        rename($this->path.'.away', $this->path);

        $this->client->request('GET', "/profiles/$run");
        self::assertStringContainsString('There is no file', $this->content());
        self::assertSame(3, self::scalar('SELECT COUNT(*) FROM profile'));
    }

    public function testARunLetsASurveyGoFirstAndGoesOnAfterwards(): void
    {
        $source = self::get(EntityManagerInterface::class)->find(Source::class, $this->source) ?? throw new \LogicException();
        $survey = self::get(Surveys::class)->start($source, null)->job->id();
        $run = $this->profiled();
        self::assertSame(['waiting', 1], [self::state($run), self::scalar('SELECT COUNT(*) FROM profile')]);

        self::work($survey);
        self::work($run);
        self::assertSame(['done', 3], [self::state($run), self::scalar('SELECT COUNT(*) FROM profile')]);
    }

    /** A view whose reading ends the session that reads it stands for a server that stops in the middle. */
    public function testAServerThatStopsInTheMiddleEndsTheRunInWordsAndTheRestCanFollow(): void
    {
        $this->signedIn();
        $target = Engines::made(__DIR__.'/../../../demo/mart.sql');
        $pdo = Engines::pdo($target);
        $pdo->exec('CREATE VIEW killer AS SELECT pg_terminate_backend(pg_backend_pid()) AS gone');
        $entities = self::get(EntityManagerInterface::class);
        $source = $entities->find(Source::class, $this->source) ?? throw new \LogicException();
        $source->connection()->engine = 'postgresql';
        $source->connection()->host = '127.0.0.1';
        $source->connection()->port = $target->port;
        $source->connection()->database = $target->database;
        $source->connection()->account = 'fasti';
        $entities->flush();
        foreach (['finding', 'field', 'entry'] as $table) {
            self::db()->executeStatement("DELETE FROM $table");
        }
        self::surveyed($this->source);
        $run = $this->profiled();
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('h1', 'The profile stopped');
        self::assertSelectorTextContains('.answer.bad', 'was lost in the middle of reading');
        $before = self::scalar('SELECT COUNT(*) FROM profile');
        self::assertSame(
            array_search(self::entryId('killer'), self::get(EntryStore::class)->idsWithData($this->source), true),
            $before,
            'What came before is kept.',
        );

        $pdo->exec('CREATE OR REPLACE VIEW killer AS SELECT true AS gone');
        self::db()->executeStatement("UPDATE job SET state = 'waiting' WHERE id = ?", [$run]);
        self::work($run);
        self::assertSame(16, self::scalar('SELECT COUNT(*) FROM profile'));
        Engines::drop($target);
    }

    public function testARunWhoseWorkerDiedCanGoOn(): void
    {
        $this->signedIn();
        $run = $this->asked();
        self::fallSilent($run);
        self::get(Jobs::class)->endAbandoned();
        $page = $this->client->request('GET', "/profiles/$run");

        self::assertStringContainsString('The worker stopped in the middle', $this->content());
        self::assertSame(1, $page->selectButton('Go on with the rest')->count());
    }

    public function testACodeThatTheTextDoesNotListMakesItDoubtful(): void
    {
        $steward = $this->signedIn();
        self::get(Texts::class)->save($steward, FieldTopic::NAME, self::fieldId('reading', 'flag'), 'meaning', '', 'G = good, S = suspect', 'a');
        $this->profiled();
        $this->client->request('GET', '/register/'.self::entryId('reading'));

        self::assertSelectorTextContains('#field-'.self::fieldId('reading', 'flag').' .doubt', 'the data has B besides');
    }

    public function testFieldsThatTellRowsApartAreNamedAndCounted(): void
    {
        $steward = $this->signedIn();
        try {
            self::get(Texts::class)->save($steward, EntryTopic::NAME, self::entryId('reading'), 'grainFields', '', 'station, colour', 'a');
            self::fail('It was taken.');
        } catch (BadText $e) {
            self::assertStringContainsString('no field colour', $e->getMessage());
        }
        self::get(Texts::class)->save($steward, EntryTopic::NAME, self::entryId('reading'), 'grainFields', '', 'station, flag', 'a');
        $this->profiled();
        $this->client->request('GET', '/register/'.self::entryId('reading'));

        self::assertSelectorTextContains('.told-apart', '180 rows repeat another');
    }

    private function asked(): int
    {
        $entries = self::get(EntryStore::class)->idsWithData($this->source);

        return self::get(Jobs::class)->start(
            self::get(ProfileJob::class),
            'source '.$this->source,
            ProfileJob::payload($this->source, $entries, 0),
            null,
        )->id();
    }

    private function profiled(): int
    {
        $run = $this->asked();
        self::work($run);

        return $run;
    }
}
