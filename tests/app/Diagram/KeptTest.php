<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Diagram;

use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Diagram\Detail;
use Fasti\Diagram\Beginning;
use Fasti\Diagram\Board;
use Fasti\Diagram\Diagram;
use Fasti\Diagram\Diagrams;
use Fasti\Diagram\Pieces;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\History;
use Fasti\Text\Texts;

/** Diagrams that people make, keep and come back to. */
final class KeptTest extends AppTestCase
{
    private Source $rivers;
    private Account $oona;

    protected function setUp(): void
    {
        parent::setUp();
        $this->rivers = $this->source();
        $this->follow();
        $this->oona = $this->signedIn();
    }

    /** @param array<string, string> $more columns of the sample, and what they refer to */
    private function follow(array $more = [], string ...$without): void
    {
        $tables = [
            'station' => Made::table('station', ['code' => 'char(6)']),
            'reading' => Made::table('reading', ['station_id' => 'int', 'value' => 'int?'], ['station_id' => 'station']),
            'visit' => Made::table('visit', ['station_id' => 'int?'], ['station_id' => 'station']),
            'sample' => Made::table('sample', ['visit_id' => 'int', ...array_fill_keys(array_keys($more), 'int?')], ['visit_id' => 'visit', ...$more]),
        ];
        self::apply($this->rivers, Made::catalog(...array_values(array_diff_key($tables, array_flip($without)))));
    }

    private function made(string $name = 'From a reading to its station', string ...$tables): Diagram
    {
        $places = [];
        foreach (array_values($tables) ?: ['station', 'reading'] as $i => $table) {
            $places[self::entryId($table)] = [400.0 * $i, 0.0];
        }

        return self::get(Beginning::class)->begin($this->oona, $name, 'What for', $places, Detail::Keys);
    }

    private static function key(string $table): string
    {
        return 't'.self::entryId($table);
    }

    /**
     * @param array<string, mixed> $data
     *
     * @return array<string, mixed>
     */
    private function send(Diagram $diagram, array $data, int $status = 200): array
    {
        $token = (string) $this->client->request('GET', '/diagrams/'.$diagram->id())->filter('meta[name=texts-token]')->attr('content');
        $this->client->request('POST', '/diagrams/'.$diagram->id().'/changes', [], [], ['HTTP_X_CSRF_TOKEN' => $token], (string) json_encode($data));
        self::assertResponseStatusCodeSame($status);
        /** @var array<string, mixed> $answer */
        $answer = json_decode($this->content(), true);

        return $answer;
    }

    public function testOneIsMadeFromAChoiceAndFoundAgain(): void
    {
        $crawler = $this->client->request('GET', '/diagrams/new?entries='.self::entryId('station').','.self::entryId('visit').',99999');
        self::assertCount(2, $crawler->filter('input[name="entries[]"]'));
        $this->client->submit($crawler->selectButton('Make it')->form(['name' => 'Visits & stations', 'purpose' => 'Who was where']));
        self::assertResponseStatusCodeSame(303);
        $page = $this->client->followRedirect();

        self::assertCount(2, $page->filter('svg .tablet'));
        self::assertCount(1, $page->filter('svg .lines > .line'));
        self::assertStringContainsString('A visit refers to at most one station.', $page->filter('section.visually-hidden')->text());
        $list = $this->client->request('GET', '/diagrams?q=was+where');
        self::assertSame('Visits & stations', $list->filter('.diagrams b')->text());
        self::assertCount(2, $list->filter('.diagrams svg rect.slab'));
        self::assertCount(0, $this->client->request('GET', '/diagrams?q=nothing')->filter('.diagrams li'));
        self::assertStringContainsString('Visits &amp; stations', (string) $this->client->request('GET', '/register/'.self::entryId('visit'))->html());
    }

    public function testANameIsNeededAndIsTakenOnce(): void
    {
        $this->made('Taken');
        $crawler = $this->client->request('GET', '/diagrams/new');
        $this->client->submit($crawler->selectButton('Make it')->form(['name' => ' ']));
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('[role=alert]', 'needs a name');
        $this->client->submit($this->client->request('GET', '/diagrams/new')->selectButton('Make it')->form(['name' => 'Taken', 'purpose' => 'kept as typed']));
        self::assertSelectorTextContains('[role=alert]', 'There is a diagram “Taken” already');
        self::assertInputValueSame('purpose', 'kept as typed');
        $this->expectException(BadText::class);
        self::get(Texts::class)->save($this->oona, 'diagram', $this->made('Other')->id(), 'name', 'Other', 'Taken', 's');
    }

    public function testItIsMadeFromNeighboursARouteAnAreaTheRegisterAndIntoAnother(): void
    {
        $ids = fn (string $query): array => $this->client->request('GET', '/diagrams/new?'.$query)->filter('input[name="entries[]"]')->extract(['value']);
        $id = static fn (string $table): string => (string) self::entryId($table);
        self::get(Texts::class)->save($this->oona, EntryTopic::NAME, self::entryId('sample'), 'area', '', 'Laboratory', 's');

        self::assertEqualsCanonicalizing([$id('visit'), $id('station'), $id('sample')], $ids('around='.$id('visit')));
        self::assertCount(4, $ids('around='.$id('sample').'&steps=3'));
        self::assertEqualsCanonicalizing([$id('sample'), $id('visit'), $id('station')], $ids('from='.$id('sample').'&to='.$id('station')));
        self::assertSame([$id('sample')], $ids('area=Laboratory'));
        self::assertSame([$id('reading')], $ids('register=1&q=read'));

        $into = $this->made('Grows');
        $form = $this->client->request(
            'GET',
            '/diagrams/new?entries='.$id('visit').','.$id('station'),
        )->selectButton('Make it')->form(['into' => (string) $into->id()]);
        $this->client->submit($form);
        self::assertCount(3, $this->client->followRedirect()->filter('svg .tablet'), 'The station stood there already.');
        $known = self::get(Diagrams::class)->one($into->id())->known ?? '';
        self::assertStringContainsString('visit', $known, 'What it shows is known.');
        // Both ends of a way are needed.
        self::assertSame([], $ids('from='.$id('sample')));
        self::assertSame([], $ids('to='.$id('sample')));
    }

    public function testWhatIsDoneIsWrittenPieceByPieceAsOneChangeOfASitting(): void
    {
        $diagram = $this->made();
        $state = $this->send($diagram, ['changes' => [self::key('station') => ['x' => 10, 'y' => 20]], 'since' => $diagram->moves, 'sitting' => 'a']);
        $this->send(
            $diagram,
            ['changes' => ['n1' => ['kind' => 'note', 'text' => 'Mind **this**', 'x' => 0, 'y' => 300]], 'since' => $state['move'], 'sitting' => 'a'],
        );
        $pieces = self::get(Pieces::class)->of($diagram->id())->pieces;

        self::assertSame(10.0, $pieces[self::key('station')]['x']);
        self::assertSame('Mind **this**', $pieces['n1']['text']);
        $changes = self::get(History::class)->of('diagram', $diagram->id())['changes'];
        self::assertCount(2, $changes, 'It was made, then one sitting.');
        $page = $this->client->request('GET', '/diagrams/'.$diagram->id().'/history');
        self::assertStringContainsString('1 note added, 1 tablet moved', $page->filter('.history')->text());

        self::get(Texts::class)->takeBack($this->oona, $changes[0]->id);
        $back = self::get(Pieces::class)->of($diagram->id())->pieces;
        self::assertArrayNotHasKey('n1', $back);
        self::assertSame(0.0, $back[self::key('station')]['x']);
    }

    public function testBadPiecesAreRefusedAndNothingIsWritten(): void
    {
        $diagram = $this->made();
        $answer = $this->send($diagram, ['changes' => [self::key('station') => ['x' => 1, 'y' => 1], 'bad key' => ['x' => 1]], 'sitting' => 'a'], 422);

        self::assertSame('“bad key” is not the name of a piece.', $answer['error']);
        self::assertSame(0.0, self::get(Pieces::class)->of($diagram->id())->pieces[self::key('station')]['x']);
    }

    public function testTwoPeopleAreMergedAndTheLaterMoveWinsAndBothAreTold(): void
    {
        $diagram = $this->made();
        $ren = $this->account(Role::ADMINISTRATOR, 'Ren Abara');
        $board = self::get(Board::class);
        $seen = self::get(Pieces::class)->moves($diagram->id());
        $board->apply($ren, $diagram->id(), [self::key('station') => ['x' => 50, 'y' => 50], self::key('reading') => ['x' => 900, 'y' => 0]], [], $seen, 'ren');

        $answer = $this->send($diagram, ['changes' => [self::key('station') => ['x' => 70, 'y' => 70]], 'since' => $seen, 'sitting' => 'oona']);
        self::assertSame([self::key('station') => 'Ren Abara'], $answer['met'], 'The later one is told whom she has overwritten.');
        self::assertArrayHasKey('svg', $answer, 'She is shown what the other did.');
        $pieces = self::get(Pieces::class)->of($diagram->id())->pieces;
        self::assertSame([70.0, 900.0], [$pieces[self::key('station')]['x'], $pieces[self::key('reading')]['x']]);

        $this->client->loginUser($ren);
        $this->client->request('GET', '/diagrams/'.$diagram->id().'/changes?since='.($seen + 1));
        $news = json_decode($this->content(), true);
        self::assertIsArray($news);
        self::assertSame([self::key('station') => 'Oona Lisk'], $news['others'], 'The earlier one sees it too.');
        self::assertCount(3, self::get(History::class)->of('diagram', $diagram->id())['changes']);
    }

    public function testEntriesThatComeFindAPlaceBesideWhatTheyJoin(): void
    {
        $diagram = $this->made();
        $answer = $this->send($diagram, ['changes' => [self::key('visit') => []], 'sitting' => 'a', 'draw' => true]);

        $piece = self::get(Pieces::class)->of($diagram->id())->pieces[self::key('visit')];
        self::assertTrue($piece['auto']);
        self::assertIsString($answer['svg']);
        self::assertStringContainsString('data-entry="'.self::entryId('visit').'"', $answer['svg']);
        $this->client->request('GET', '/diagrams/'.$diagram->id().'/arrange?how=new');
        self::assertStringNotContainsString('"'.self::key('station').'"', $this->content(), 'Those that are placed stay.');
    }

    public function testEachWayOfArrangingIsAChangeThatTheScriptMakes(): void
    {
        $diagram = $this->made('All', 'station', 'reading', 'visit', 'sample');
        self::get(Board::class)->apply($this->oona, $diagram->id(), [self::key('station') => ['x' => 3000, 'y' => 3000]], [], 99, 's');
        foreach (['all', 'facts'] as $how) {
            $this->client->request('GET', '/diagrams/'.$diagram->id().'/arrange?how='.$how);
            /** @var array{changes: array<string, array{x: float, y: float}>} $answer */
            $answer = json_decode($this->content(), true);
            self::assertArrayHasKey(self::key('station'), $answer['changes']);
        }
        self::assertLessThan($answer['changes'][self::key('sample')]['y'], $answer['changes'][self::key('visit')]['y'], 'What refers stands below.');
        $this->client->request('GET', '/diagrams/'.$diagram->id().'/arrange?how=new');
        self::assertStringNotContainsString('"'.self::key('station').'"', $this->content());
    }

    public function testLinesAreLedAnewFromTheSceneAlone(): void
    {
        $diagram = $this->made();
        $page = $this->client->request('GET', '/diagrams/'.$diagram->id());
        /** @var array{scene: array{pieces: array<string, list<float>>}, ways: mixed} $state */
        $state = json_decode($page->filter('[data-state]')->text(), true);
        $state['scene']['pieces'][self::key('reading')] = $state['scene']['pieces'][self::key('station')];
        $this->client->request(
            'POST',
            '/diagrams/lead',
            [],
            [],
            [],
            (string) json_encode(['scene' => $state['scene'], 'ways' => $state['ways'], 'moved' => [self::key('reading')]]),
        );
        self::assertResponseIsSuccessful();
        /** @var array{places: array<string, list<float>>, lines: array<int, mixed>} $answer */
        $answer = json_decode($this->content(), true);
        self::assertNotSame(
            \array_slice($state['scene']['pieces'][self::key('station')], 0, 2),
            $answer['places'][self::key('reading')],
            'It moves beside what it was set down on.',
        );
        self::assertCount(1, $answer['lines']);

        $this->client->request('POST', '/diagrams/lead', [], [], [], '{"scene":{"pieces":{"t1":[1]}}}');
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('pieces.t1', $this->content());
    }

    public function testAChangeOfTheSourceIsShownUntilItIsFollowed(): void
    {
        $diagram = $this->made('Samples', 'station', 'sample', 'visit');
        $this->client->request('GET', '/diagrams/'.$diagram->id());
        self::assertSelectorNotExists('.drawing-news');
        $this->follow(['station_id' => 'station'], 'visit');
        $page = $this->client->request('GET', '/diagrams/'.$diagram->id());

        self::assertSelectorTextContains('.drawing-news', 'There is a new join: A sample refers to at most one station.');
        self::assertSelectorTextContains('.drawing-news', 'Visit is gone from its source.');
        self::assertCount(1, $page->filter('svg .tablet.gone'));
        $this->client->submit($page->selectButton('Bring it up to date')->form());
        $page = $this->client->followRedirect();
        self::assertSelectorNotExists('.drawing-news');
        self::assertCount(2, $page->filter('svg .tablet'));
        self::assertEqualsCanonicalizing([self::entryId('sample'), self::entryId('station')], self::get(Pieces::class)->of($diagram->id())->entries());
    }

    public function testWhatIsAddedByHandIsNoNews(): void
    {
        $diagram = $this->made();
        $this->send($diagram, ['changes' => [self::key('visit') => []], 'sitting' => 'a', 'draw' => true]);
        $this->client->request('GET', '/diagrams/'.$diagram->id());

        self::assertSelectorNotExists('.drawing-news');
    }

    public function testTheMarginSaysWhatLeadsOutAndWhatAJoinIs(): void
    {
        $inside = self::entryId('station').','.self::entryId('reading');
        $leads = $this->client->request('GET', '/diagrams/margin/leads/'.self::entryId('station').'?inside='.$inside);
        self::assertSame([(string) self::entryId('visit')], $leads->filter('[data-add]')->extract(['data-add']));
        self::assertCount(0, $this->client->request('GET', '/diagrams/margin/leads/'.self::entryId('reading').'?inside='.$inside)->filter('[data-add]'));
        self::assertSame(
            [(string) self::entryId('visit')],
            $this->client->request('GET', '/diagrams/margin/add?q=visit')->filter('[data-add]')->extract(['data-add']),
        );
        self::assertStringContainsString(
            'stands in the picture already',
            $this->client->request('GET', '/diagrams/margin/add?q=station&inside='.$inside)->text(),
        );
        $this->client->request('GET', '/diagrams/margin/tablet/'.self::entryId('station').'?inside='.$inside);
        self::assertStringContainsString('add Visit', $this->content());
        self::assertCount(3, $this->client->request('GET', '/diagrams/margin/fields/'.self::entryId('reading'))->filter('[name=field]'));
        $join = self::scalar('SELECT id FROM entry_join WHERE from_entry_id = ?', self::entryId('reading'));
        $this->client->request('GET', '/diagrams/margin/join/'.$join);
        self::assertStringContainsString('/register/joins/'.$join, $this->content());
        self::assertStringContainsString('what else uses it', $this->content());
    }

    public function testFromPictureToQueryWithItsWarnings(): void
    {
        $ids = implode(',', array_map(self::entryId(...), ['station', 'reading', 'visit']));
        $page = $this->client->request('GET', '/diagrams/margin/query?entries='.$ids);

        self::assertStringContainsString(
            'JOIN "main"."station" AS "station" ON "station"."id" = "reading"."station_id"',
            $page->filter('pre')->text(null, false),
        );
        self::assertStringContainsString('Rows multiply: a row of Station may find many of Visit', $page->text());
        self::assertStringContainsString(
            'Mark two tablets or more',
            $this->client->request('GET', '/diagrams/margin/query?entries='.self::entryId('station'))->text(),
        );
        $other = $this->source('lakes');
        self::apply($other, Made::catalog(Made::table('lake')));
        self::assertStringContainsString(
            'of several sources',
            $this->client->request('GET', '/diagrams/margin/query?entries='.$ids.','.self::entryId('lake'))->text(),
        );
    }

    public function testAnAutomaticDiagramIsKeptAsItStands(): void
    {
        $crawler = $this->client->request('GET', '/diagrams/entries/'.self::entryId('station'));
        $this->client->submit($crawler->filter('[data-keep]')->form());
        $page = $this->client->followRedirect();
        self::assertCount(3, $page->filter('svg .tablet'));
        self::assertSelectorTextContains('h1', 'Around Station');
        $this->client->submit($this->client->request('GET', '/diagrams/entries/'.self::entryId('station'))->filter('[data-keep]')->form());
        self::assertSame('Around Station (2)', self::get(Diagrams::class)->named('Around Station (2)')?->name);
    }

    public function testTheRegisterIsNarrowedToADiagram(): void
    {
        $diagram = $this->made();
        $rows = $this->client->request('GET', '/register?described=diagram-'.$diagram->id())->filter('[data-row]');

        self::assertCount(2, $rows);
    }

    public function testFilesStandAloneAndAreOfTheSizeThatIsAskedFor(): void
    {
        $diagram = $this->made('Größe / "x"');
        $this->client->request('GET', '/diagrams/'.$diagram->id().'.svg');
        self::assertTrue((new \DOMDocument())->loadXML($this->content()));
        self::assertStringContainsString('<a href="http://localhost/register/'.self::entryId('station').'"', $this->content());
        self::assertStringContainsString('<desc>Station, Reading.', $this->content());
        $this->client->request('GET', '/diagrams/'.$diagram->id().'.png?width=900');
        self::assertSame(900, getimagesizefromstring($this->content())[0] ?? 0);
        $this->client->request('GET', '/diagrams/'.$diagram->id().'.pdf?paper=a3');
        self::assertStringStartsWith('%PDF-', $this->content());
        // 420 mm are 1190.55 points.
        self::assertMatchesRegularExpression('~/MediaBox\s*\[\s*0 0 1190\.\d+ 841\.\d+~', $this->content());
        self::assertStringNotContainsString('/Subtype /Image', $this->content(), 'Vectors, no picture.');
        $this->client->request('GET', '/diagrams/'.$diagram->id().'.pdf?paper=B5');
        self::assertResponseStatusCodeSame(422);
    }

    public function testAReaderLooksAndCannotMove(): void
    {
        $diagram = $this->made();
        $this->client->loginUser($this->account(Role::READER, 'Ida Fell'));
        $page = $this->client->request('GET', '/diagrams/'.$diagram->id());

        self::assertSelectorNotExists('[data-writes]');
        self::assertSelectorNotExists('[data-do=remove]');
        self::assertCount(2, $page->filter('svg .tablet'));
        $this->client->request('POST', '/diagrams/'.$diagram->id().'/changes', [], [], [], '{}');
        self::assertResponseStatusCodeSame(403);
    }

    public function testOneThatIsRetiredLeavesTheListAndIsStillFound(): void
    {
        $diagram = $this->made('Old one');
        self::get(Texts::class)->save($this->oona, 'diagram', $diagram->id(), 'standing', 'open', 'retired', 's');

        self::assertCount(0, $this->client->request('GET', '/diagrams')->filter('.diagrams li'));
        self::assertCount(1, $this->client->request('GET', '/diagrams?q=old')->filter('.diagrams li'));
    }

    public function testItIsFoundWithAQueryInHandAndFromAnySearch(): void
    {
        $this->made('Readings');
        $this->made('Visits', 'station', 'visit', 'sample');
        $names = fn (string $query): array => $this->client->request(
            'GET',
            '/diagrams?q='.rawurlencode($query),
        )->filter('.diagrams b')->each(static fn ($one): string => $one->text());

        self::assertSame(['Visits', 'Readings'], $names('SELECT * FROM VISIT v JOIN station s ON s.id = v.station_id'));
        self::assertSame(['Visits'], $names('sample'));
        self::assertSame([], $names('nothing'));
        self::assertStringContainsString('Diagram: Visits', $this->client->request('GET', '/search?q=visits')->text());
    }

    public function testWhatIsLeftOutAndJoinsTwoOfItsTabletsIsTold(): void
    {
        $diagram = $this->made('Gap', 'station', 'sample');
        $page = $this->client->request('GET', '/diagrams/margin/about/'.$diagram->id());

        self::assertStringContainsString('Visit, with Station and Sample', $page->text());
        self::assertSelectorExists('select[data-property=standing]');
        self::assertSelectorTextContains('select[data-property=owner] option[selected]', 'Oona Lisk');
    }

    public function testTheDiagramsThatShowAJoinStandOnItsPage(): void
    {
        $this->made('Shows it');
        $this->made('Does not', 'station', 'visit');
        $join = self::scalar('SELECT id FROM entry_join WHERE from_entry_id = ?', self::entryId('reading'));
        $page = $this->client->request('GET', '/register/joins/'.$join)->text();

        self::assertStringContainsString('the diagram “Shows it”', $page);
        self::assertStringNotContainsString('Does not', $page);
    }
}
