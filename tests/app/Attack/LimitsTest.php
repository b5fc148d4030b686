<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\Role as ModelRole;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Designs;
use Fasti\Diagram\Board;
use Fasti\Diagram\Diagrams;
use Fasti\Model\Editing;
use Fasti\Model\KeptModel;
use Fasti\Model\Models;
use Fasti\Source\Deliveries;
use Fasti\Tests\App\AppTestCase;
use Fasti\Text\BadText;
use PHPUnit\Framework\Attributes\DataProvider;

/** What is too large is refused with its number and the limit, and what got in all the same holds up no page. */
final class LimitsTest extends AppTestCase
{
    public function testAnOutlineOfTooManyThingsIsRefusedAndSaysHowManyMayBe(): void
    {
        $account = $this->signedIn();
        $kept = self::get(Designs::class)->make($account, "Design \"Large\"\n\nLoan\n  due, date");
        $token = (string) $this->client->request('GET', '/designs/'.$kept->id())->filter('meta[name="texts-token"]')->attr('content');
        $this->client->jsonRequest('POST', '/texts', [
            'topic' => 'design', 'id' => $kept->id(), 'property' => 'outline', 'base' => $kept->outline, 'value' => self::things(5001), 'sitting' => 'x',
        ], ['HTTP_X_CSRF_TOKEN' => $token]);

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('5,000 things and 150,000 lines are the most', $this->content());
    }

    public function testOneThatGotInAllTheSameHoldsUpNeitherListsNorTheSearchNorItsOwnPage(): void
    {
        $account = $this->signedIn();
        $kept = self::get(Designs::class)->make($account, "Design \"Large one\"\n\nLoan\n  due, date");
        self::db()->executeStatement(
            'UPDATE design SET outline = ?, readable = ?, shared = 1 WHERE id = ?',
            [self::things(100000), self::things(100000), $kept->id()],
        );
        self::get(EntityManagerInterface::class)->clear();
        foreach (['/designs', '/search?q=large', '/search?q=thing', '/'] as $path) {
            $this->client->request('GET', $path);
            self::assertLessThan(400, $this->client->getResponse()->getStatusCode(), $path);
        }
        $this->client->request('GET', '/designs/'.$kept->id().'.outline');
        self::assertResponseIsSuccessful();
    }

    public function testAMeasureOfAMillionCharactersIsRefusedAndOneThatIsThereIsSaidAndCanBeMended(): void
    {
        $account = $this->signedIn();
        $kept = $this->model($account);
        $editing = self::get(Editing::class);
        try {
            $editing->change(
                $account,
                $kept,
                static fn (Model $model): Model => $model->with(measures: [new Measure('long', new Sum(), 'visit', str_repeat('a+', 500000).'a')]),
            );
            self::fail('It should have been refused.');
        } catch (BadText $e) {
            self::assertStringContainsString('The expression of “long” has 1,000,001 characters; 4,000 are the most.', $e->getMessage());
        }
        $long = KeptModel::definitionOf($kept->model()->with(measures: [new Measure('long', new Sum(), 'visit', str_repeat('a+', 500000).'a')]));
        self::db()->executeStatement('UPDATE analytic_model SET definition = ? WHERE id = ?', [$long, $kept->id()]);
        self::get(EntityManagerInterface::class)->clear();
        foreach (['', '/checks', '/matrix', '/trial', '/lineage'] as $page) {
            $this->client->request('GET', '/models/'.$kept->id().$page);
            self::assertResponseIsSuccessful($page);
        }
        $this->client->request('GET', '/models/'.$kept->id().'/checks');
        self::assertStringContainsString('The expression has 1,000,001 characters', $this->content());
        $kept = self::get(Models::class)->one($kept->id()) ?? throw new \LogicException();
        $kept = self::get(Editing::class)->change($this->reloaded($account), $kept, static fn (Model $model): Model => $model->with(measures: []));
        self::assertSame([], $kept->model()->measures);
    }

    public function testTwoWhoAddMeasuresToOneModelAtOnceBothHaveThem(): void
    {
        $one = $this->account();
        $kept = $this->model($one);
        $editing = self::get(Editing::class);
        // As it stands in two requests that began at the same moment.
        $stale = clone $kept;
        $editing->change(
            $one,
            $kept,
            static fn (Model $model): Model => $model->with(measures: [...$model->measures, new Measure('first', new Count(), 'visit')]),
        );
        self::assertStringNotContainsString('first', $stale->definition);
        $after = $editing->change($one, self::get(Models::class)->one($kept->id()) ?? $kept,
            static fn (Model $model): Model => $model->with(measures: [...$model->measures, new Measure('second', new Count(), 'visit')]));

        self::assertSame(['first', 'second'], array_map(static fn (Measure $measure): string => $measure->name, $after->model()->measures));
        self::assertStringContainsString('"measures":["first","second"]', str_replace(' ', '', (string) json_encode($after->brief)));
    }

    public function testADiagramOfTooManyNotesIsRefused(): void
    {
        $account = $this->signedIn();
        $diagram = self::get(Diagrams::class)->keep('Notes', '', $account);
        $notes = static fn (int $from, int $count): array => array_combine(
            array_map(static fn (int $i): string => "n$i", range($from, $from + $count - 1)),
            array_map(static fn (int $i): array => ['kind' => 'note', 'x' => $i, 'y' => $i, 'width' => 160, 'text' => 'x'], range(0, $count - 1)),
        );
        $board = self::get(Board::class);
        $board->apply($account, $diagram->id(), $notes(1, 500), [], 0, 'x');
        $this->expectException(BadText::class);
        $this->expectExceptionMessage('A diagram holds 500 headings, notes and frames at the most, and this would be 501.');
        $board->apply($account, $diagram->id(), $notes(501, 1), [], 0, 'x');
    }

    public function testAPictureIsRefusedThatIsWiderThanOneMayBe(): void
    {
        $this->signedIn();
        $source = $this->source();
        self::apply($source, new Catalog('mariadb', '', [self::table('station', 3)]));
        $this->client->request('GET', '/diagrams/sources/'.$source->id().'.png?width=100000');

        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('8,000 px wide at the most', $this->content());
    }

    public function testAnEntryOfTensOfThousandsOfFieldsIsShownInParts(): void
    {
        $this->signedIn();
        $source = $this->source();
        self::apply($source, new Catalog('mariadb', '', [self::table('wide', 2500)]));
        $page = $this->client->request('GET', '/register/'.self::entryId('wide'));
        self::assertCount(1000, $page->filter('.ledger [data-row]'));
        self::assertStringContainsString('Fields 1 to 1,000 of 2,500', $page->filter('.pager')->text());
        $page = $this->client->request('GET', '/register/'.self::entryId('wide').'?part=3');
        self::assertCount(500, $page->filter('.ledger [data-row]'));
        self::assertStringContainsString('Fields 2,001 to 2,500 of 2,500', $page->filter('.pager')->text());
        $this->client->request('GET', '/register/'.self::entryId('wide').'?part=999');
        self::assertResponseIsSuccessful();
    }

    public function testASmallFileThatGrowsBeyondAllMeasureIsRefusedWithoutBeingHeldInMemory(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'fasti');
        $out = gzopen($path, 'w9') ?: throw new \LogicException();
        for ($i = 0; $i < 400; ++$i) {
            gzwrite($out, str_repeat("\0", 1 << 20));
        }
        gzclose($out);
        $before = memory_get_peak_usage();
        try {
            self::get(Deliveries::class)->keep(['bomb.sql.gz' => $path]);
            self::fail('It should have been refused.');
        } catch (SourceError $e) {
            self::assertStringContainsString('grows beyond all measure', $e->getMessage());
        } finally {
            unlink($path);
        }
        self::assertLessThan(64 << 20, memory_get_peak_usage() - $before);
    }

    #[DataProvider('addresses')]
    public function testANumberThatNoMachineCountsToLeadsNowhere(string $path): void
    {
        $this->signedIn(Role::ADMINISTRATOR);
        $this->client->request('GET', $path);

        self::assertResponseStatusCodeSame(404);
    }

    /** @return iterable<array{string}> */
    public static function addresses(): iterable
    {
        $long = '99999999999999999999';
        foreach (["/register/$long", "/designs/$long", "/models/$long", "/models/$long/trials", "/diagrams/$long",
            "/sources/$long", "/jobs/$long", "/surveys/$long", "/editions/$long/", "/register/joins/$long",
            "/register/findings?page=$long", "/register/joins?page=$long", "/register?source=$long",
            "/register/1/history?before=$long", '/register/4294967296', "/register/index/$long"] as $path) {
            yield $path => [$path];
        }
    }

    private static function things(int $count): string
    {
        return "Design \"Large one\"\n".implode('', array_map(static fn (int $i): string => "\nThing $i\n  name, text\n", range(1, $count)));
    }

    private static function table(string $name, int $fields): Table
    {
        return new Table('rivers', $name, TableType::Table, '', array_map(static fn (int $i): Column => new Column("f$i", 'int'), range(1, $fields)));
    }

    private function model(Account $account): KeptModel
    {
        $source = $this->source();
        self::apply($source, new Catalog('mariadb', '', [new Table('rivers', 'visit', TableType::Table, '', [new Column('a', 'int')])]));
        $model = new Model('Visits', roles: [new ModelRole('visit', RoleKind::Fact, new Place('rivers', 'visit'), key: ['a'])]);
        self::assertSame([], Edits::between($model, $model));

        return self::get(Editing::class)->begin($account, 'Visits', '', $source, $model);
    }

    private function reloaded(Account $account): Account
    {
        return self::get(EntityManagerInterface::class)->find(Account::class, $account->id()) ?? throw new \LogicException();
    }
}
