<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Profile;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Survey\Choice;
use Fasti\Profile\Message\RunProfile;
use Fasti\Profile\ProfileRun;
use Fasti\Profile\Profiles;
use Fasti\Profile\RunProfileHandler;
use Fasti\Register\Subject;
use Fasti\Register\Texts;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Survey\Message\RunSurvey;
use Fasti\Survey\RunSurveyHandler;
use Fasti\Survey\Survey;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;
use Symfony\Component\Messenger\MessageBusInterface;
use Symfony\Component\Messenger\Worker;

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
        $database->exec("CREATE TABLE person (id INTEGER PRIMARY KEY, name TEXT, mail_address TEXT); CREATE TABLE reading (station INTEGER, flag TEXT, value REAL); CREATE TABLE zulu (a TEXT);
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) INSERT INTO person SELECT i, 'Ada Nr ' || i, 'hidden' || i || '@arrowmere.example' FROM n;
            INSERT INTO reading SELECT id % 5, CASE id % 4 WHEN 0 THEN 'G' WHEN 1 THEN 'S' WHEN 2 THEN 'B' END, id / 10.0 FROM person");
        $source = new Source();
        [$source->name, $source->connection()->engine, $source->connection()->path] = ['rivers', 'sqlite', $this->path];
        $source->choose(new Choice());
        $entities = self::get(EntityManagerInterface::class);
        $survey = new Survey($source, null);
        $entities->persist($source);
        $entities->persist($survey);
        $entities->flush();
        $this->source = $source->id();
        self::get(RunSurveyHandler::class)(new RunSurvey($survey->id()));
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
        self::assertResponseRedirects();
        $this->client->followRedirect();
        self::assertSelectorTextContains('h1', 'Profiling rivers');
        $this->profiled();
        $this->client->request('GET', '/profiles/'.self::scalar('SELECT MAX(id) FROM profile_run'));
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
        $texts->save($steward, Subject::Field, self::fieldId('reading', 'flag'), 'personal', '', 'yes', 'a');
        $kept = self::get(Profiles::class)->of(self::entryId('reading'))['profile']->fields['flag'] ?? null;
        self::assertSame([[], null, 'a steward says so'], [$kept?->frequent, $kept?->least, $kept?->personal], 'What was kept is forgotten at once.');
        $texts->save($steward, Subject::Field, self::fieldId('person', 'name'), 'personal', '', 'no', 'b');
        $this->profiled();
        $name = self::get(Profiles::class)->of(self::entryId('person'))['profile']->fields['name'] ?? self::fail('There is no profile.');
        self::assertNotSame([], $name->shapes);
        self::assertSame('', $name->personal);
        $flag = self::get(Profiles::class)->of(self::entryId('reading'))['profile']->fields['flag'] ?? self::fail('There is no profile.');
        self::assertSame('a steward says so', $flag->personal);
        $this->client->request('GET', '/register/'.self::entryId('person').'/history');
        self::assertStringContainsString('personal data', $this->content());
    }

    public function testARunIsPausedGoneOnWithAndCancelled(): void
    {
        $this->signedIn();
        $run = $this->asked();
        $token = (string) $this->client->request('GET', "/profiles/$run")->filter('form[action$="pause"] [name=_token]')->attr('value');
        $this->client->request('POST', "/profiles/$run/pause", ['_token' => $token]);
        self::get(RunProfileHandler::class)(new RunProfile($run));
        self::assertSame('paused', self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM profile'));
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('h1', 'The profile is paused');

        $this->client->request('POST', "/profiles/$run/resume", ['_token' => $token]);
        self::get(RunProfileHandler::class)(new RunProfile($run));
        self::assertSame('done', self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]));
        self::assertSame(3, self::scalar('SELECT COUNT(*) FROM profile'));

        $run = $this->asked();
        $this->client->request('POST', "/profiles/$run/cancel", ['_token' => $token]);
        self::get(RunProfileHandler::class)(new RunProfile($run));
        self::assertSame('cancelled', self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]));
    }

    public function testATableDroppedMeanwhileIsSaidAndTheOthersAreProfiled(): void
    {
        $this->signedIn();
        (new \PDO('sqlite:'.$this->path))->exec('DROP TABLE reading');
        $run = $this->profiled();

        self::assertSame(['done', '[]'], [self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]), self::db()->fetchOne('SELECT waiting FROM profile_run WHERE id = ?', [$run])]);
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
        $entities = self::get(EntityManagerInterface::class);
        $survey = new Survey($entities->find(Source::class, $this->source) ?? throw new \LogicException(), null);
        $entities->persist($survey);
        $entities->flush();
        $run = $this->profiled();
        self::assertSame(['waiting', 1], [self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]), self::scalar('SELECT COUNT(*) FROM profile')]);

        self::get(RunSurveyHandler::class)(new RunSurvey($survey->id()));
        self::get(RunProfileHandler::class)(new RunProfile($run));
        self::assertSame(['done', 3], [self::db()->fetchOne('SELECT state FROM profile_run WHERE id = ?', [$run]), self::scalar('SELECT COUNT(*) FROM profile')]);
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
        [$source->connection()->engine, $source->connection()->host, $source->connection()->port, $source->connection()->database, $source->connection()->account] = ['postgresql', '127.0.0.1', $target->port, $target->database, 'fasti'];
        $survey = new Survey($source, null);
        $entities->persist($survey);
        $entities->flush();
        self::db()->executeStatement('DELETE f FROM field f JOIN entry e ON e.id = f.entry_id');
        self::db()->executeStatement('DELETE FROM entry');
        self::get(RunSurveyHandler::class)(new RunSurvey($survey->id()));
        $run = $this->profiled();
        $this->client->request('GET', "/profiles/$run");
        self::assertSelectorTextContains('h1', 'The profile stopped');
        self::assertSelectorTextContains('.answer.bad', 'was lost in the middle of reading');
        $before = self::scalar('SELECT COUNT(*) FROM profile');
        self::assertSame(self::scalar("SELECT COUNT(*) FROM entry WHERE name < 'killer'"), $before, 'What came before is kept.');

        $pdo->exec('CREATE OR REPLACE VIEW killer AS SELECT true AS gone');
        self::db()->executeStatement("UPDATE profile_run SET state = 'waiting' WHERE id = ?", [$run]);
        self::get(RunProfileHandler::class)(new RunProfile($run));
        self::assertSame(13, self::scalar('SELECT COUNT(*) FROM profile'));
        Engines::drop($target);
    }

    public function testARunWhoseWorkerDiedCanGoOn(): void
    {
        $this->signedIn();
        $run = $this->asked();
        self::db()->executeStatement("UPDATE profile_run SET state = 'running' WHERE id = ?", [$run]);
        self::get(RunProfileHandler::class)->workerStarted(new WorkerStartedEvent(new Worker([], self::get(MessageBusInterface::class))));
        self::get(EntityManagerInterface::class)->clear();
        $page = $this->client->request('GET', "/profiles/$run");

        self::assertStringContainsString('The worker stopped in the middle', $this->content());
        self::assertSame(1, $page->selectButton('Go on with the rest')->count());
    }

    public function testACodeThatTheTextDoesNotListMakesItDoubtful(): void
    {
        $steward = $this->signedIn();
        self::get(Texts::class)->save($steward, Subject::Field, self::fieldId('reading', 'flag'), 'meaning', '', 'G = good, S = suspect', 'a');
        $this->profiled();
        $this->client->request('GET', '/register/'.self::entryId('reading'));

        self::assertSelectorTextContains('#field-'.self::fieldId('reading', 'flag').' .doubt', 'the data has B besides');
    }

    public function testFieldsThatTellRowsApartAreNamedAndCounted(): void
    {
        $steward = $this->signedIn();
        try {
            self::get(Texts::class)->save($steward, Subject::Entry, self::entryId('reading'), 'grainFields', '', 'station, colour', 'a');
            self::fail('It was taken.');
        } catch (\Fasti\Register\BadText $e) {
            self::assertStringContainsString('no field colour', $e->getMessage());
        }
        self::get(Texts::class)->save($steward, Subject::Entry, self::entryId('reading'), 'grainFields', '', 'station, flag', 'a');
        $this->profiled();
        $this->client->request('GET', '/register/'.self::entryId('reading'));

        self::assertSelectorTextContains('.told-apart', '180 rows repeat another');
    }

    private function asked(): int
    {
        $entities = self::get(EntityManagerInterface::class);
        $run = new ProfileRun($entities->find(Source::class, $this->source) ?? throw new \LogicException(), null);
        $run->waiting = array_values(array_map(intval(...), array_filter(self::db()->fetchFirstColumn('SELECT id FROM entry WHERE source_id = ? ORDER BY name', [$this->source]), is_numeric(...))));
        $run->total = \count($run->waiting);
        $entities->persist($run);
        $entities->flush();

        return $run->id();
    }

    private function profiled(): int
    {
        $run = self::scalar("SELECT COALESCE(MAX(id), 0) FROM profile_run WHERE state = 'waiting'") ?: $this->asked();
        self::get(RunProfileHandler::class)(new RunProfile($run));

        return $run;
    }
}
