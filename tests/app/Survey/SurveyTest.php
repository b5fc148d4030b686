<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Address;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Survey\Surveys;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\OddSchema;
use Fasti\Work\Jobs;

/** Surveys of a real server, with everything in it that is awkward to read. */
final class SurveyTest extends AppTestCase
{
    public static function setUpBeforeClass(): void
    {
        OddSchema::make();
    }

    public static function tearDownAfterClass(): void
    {
        OddSchema::drop();
    }

    private static function read(): Catalog
    {
        static $catalog = null;

        return $catalog instanceof Catalog ? $catalog : $catalog = self::get(Sources::class)->reader(Address::fromUrl(OddSchema::url()))->read(
            new Choice(),
            new SilentProgress(),
        );
    }

    private static function table(string $name): Table
    {
        return self::read()->table(OddSchema::NAME, $name) ?? throw new \LogicException($name);
    }

    public function testEveryNameThatTheDatabaseAllowsIsRead(): void
    {
        self::assertSame(
            ['2024', 'broken', 'order', 'parts', 'seen', 'uses', 'with space'],
            array_map(static fn (Table $table): string => $table->name, [...self::read()->tables]),
        );
        self::assertSame(['a b', 'quo"te`', 'größe', '顧客'], array_map(static fn ($column): string => $column->name, self::table('with space')->columns));
        self::assertSame("keywords 'quoted'", self::table('order')->comment);
        self::assertSame('日本', self::table('with space')->column('顧客')?->comment);
    }

    public function testTypesDefaultsAndTheRestOfAColumn(): void
    {
        $space = self::table('with space');
        self::assertSame(['int(10) unsigned', true, false], [$space->columns[0]->type, $space->columns[0]->autoNumbered, $space->columns[0]->nullable]);
        self::assertSame(
            ['latin1', 'latin1_bin', null],
            [$space->column('quo"te`')?->charset, $space->column('quo"te`')?->collation, $space->column('quo"te`')?->default],
        );
        self::assertSame(
            ['decimal(6,2) unsigned', '1.50', null],
            [$space->column('größe')?->type, $space->column('größe')?->default, $space->column('größe')?->collation],
        );
        $parts = self::table('parts');
        self::assertSame(["enum('x','y,z','it''s')", "'x'"], [$parts->column('kind')?->type, $parts->column('kind')?->default]);
        self::assertSame(['`a` * 2', true], [$parts->column('twice')?->generated?->expression, $parts->column('twice')?->generated?->stored]);
        self::assertFalse($parts->column('thrice')?->generated?->stored);
        self::assertSame(['current_timestamp(3)', 'current_timestamp(3)'], [$parts->column('at')?->default, $parts->column('at')?->onUpdate]);
        self::assertSame("'it''s'", self::table('order')->column('select')?->default);
    }

    public function testKeysIndexesChecksTriggersAndRoutines(): void
    {
        $parts = self::table('parts');
        self::assertSame(['a', 'b'], $parts->primaryKey?->columns);
        self::assertNull(self::table('2024')->primaryKey);
        self::assertSame(['1', '2'], self::table('2024')->uniqueKeys[0]->columns);
        $indexes = array_column(array_map(static fn ($index): array => [$index->name, $index], $parts->indexes), 1, 0);
        self::assertEquals([new IndexPart('note', 10)], $indexes['part_of_note']->parts);
        self::assertTrue($indexes['down']->parts[0]->descending);
        self::assertSame('fulltext', $indexes['words']->method);
        self::assertSame(
            ['a_positive' => null, 'b_checked' => 'b_checked'],
            array_column(array_map(static fn ($check): array => [$check->name, $check->column], $parts->checks), 1, 0),
        );
        $key = self::table('uses')->foreignKeys[0];
        self::assertSame(
            ['to parts', ['a', 'b'], 'parts', ['a', 'b'], 'SET NULL', 'CASCADE'],
            [$key->name, $key->columns, $key->references->table, $key->references->columns, $key->onDelete, $key->onUpdate],
        );
        self::assertSame(['keeps', 'BEFORE', 'INSERT', 'SET NEW.up = 1', ''], array_values(get_object_vars(self::table('uses')->triggers[0])));
    }

    public function testViewsComeWithTheirQueryAndABrokenOneDoesNotStopTheRest(): void
    {
        self::assertSame(TableType::View, self::table('seen')->kind);
        self::assertStringContainsString('from `', (string) self::table('seen')->definition);
        self::assertSame([], self::table('broken')->columns);
        self::assertStringContainsString('broken shows no columns', self::read()->notes[0]);
    }

    private function odd(): Source
    {
        return $this->source('odd', OddSchema::NAME, OddSchema::ACCOUNT, OddSchema::SECRET);
    }

    /** Starts a survey in the browser and lets the worker's part run. */
    private function survey(Source $source): int
    {
        $this->signedIn();
        $crawler = $this->client->request('GET', '/sources/'.$source->id());
        $this->client->submit($crawler->filter('form[action$="/survey"]')->form());
        $this->client->followRedirect();
        $id = self::scalar('SELECT MAX(id) FROM survey WHERE source_id = ?', $source->id());
        self::work(self::scalar('SELECT job_id FROM survey WHERE id = ?', $id));

        return $id;
    }

    public function testTheWholeWayFromTheButtonToTheRegister(): void
    {
        $source = $this->odd();
        $id = $this->survey($source);
        $crawler = $this->client->request('GET', '/surveys/'.$id);

        self::assertStringContainsString('5 tables and 2 views in 1 schema', $crawler->filter('.told')->text());
        self::assertStringContainsString('1 table has a reserved word as a name', $this->content());
        self::assertSame(7, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ? AND gone_at IS NULL', $source->id()));
        $this->client->request('GET', '/register/'.self::entryId('with space'));
        self::assertSelectorTextContains('.ledger', '顧客');
        self::assertSelectorTextContains('.ledger', 'number, 0 to 9,999.99');
        $this->client->request('GET', '/surveys/'.$id.'/catalog.json');
        self::assertSame(json_decode(json_encode(OpenForm::of(self::read())['routines'], \JSON_THROW_ON_ERROR), true), $this->answer()['routines']);
    }

    public function testASurveyThatCannotConnectFailsWithAReasonAndLeavesTheRegister(): void
    {
        $source = $this->source('gone', 'nowhere', OddSchema::ACCOUNT.'_all', 'all');
        $id = $this->survey($source);
        $this->client->request('GET', '/surveys/'.$id);

        self::assertSelectorTextContains('[role=alert]', 'has no database “nowhere”');
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ?', $source->id()));
    }

    public function testOneThatWasCancelledBeforeItBeganDoesNothing(): void
    {
        $source = $this->odd();
        $job = self::get(Surveys::class)->start($source, null)->job;
        self::get(Jobs::class)->ask($job, 'cancel');
        self::work($job->id());

        self::assertSame('cancelled', self::state($job->id()));
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM entry WHERE source_id = ?', $source->id()));
    }

    public function testOneIsEnoughAtATime(): void
    {
        $source = $this->odd();
        $this->signedIn();
        $form = $this->client->request('GET', '/sources/'.$source->id())->filter('form[action$="/survey"]')->form();
        $this->client->submit($form);
        $first = $this->client->getResponse()->headers->get('Location');
        $this->client->submit($form);

        self::assertSame($first, $this->client->getResponse()->headers->get('Location'));
        self::assertSame(1, self::scalar('SELECT COUNT(*) FROM survey WHERE source_id = ?', $source->id()));
    }

    public function testOneWhoseWorkerDiedSaysSoAndAnotherThatRunsIsLeftAlone(): void
    {
        $surveys = self::get(Surveys::class);
        $dead = $surveys->start($this->odd(), null);
        $alive = $surveys->start($this->source('other'), null);
        self::fallSilent($dead->job->id());
        self::db()->executeStatement("UPDATE job SET state = 'running', heard_at = UTC_TIMESTAMP() WHERE id = ?", [$alive->job->id()]);
        self::get(Jobs::class)->endAbandoned();
        self::get(EntityManagerInterface::class)->clear();
        $this->signedIn();
        $this->client->request('GET', '/surveys/'.$dead->id());

        self::assertSelectorTextContains('[role=alert]', 'Nothing was applied');
        self::assertSame('running', self::state($alive->job->id()));
    }
}
