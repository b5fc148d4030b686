<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Role;
use Fasti\Core\Join\Evidence;
use Fasti\Core\Join\EvidenceKind;
use Fasti\Core\Join\JoinFigures;
use Fasti\Core\Survey\Choice;
use Fasti\Join\JoinEvidences;
use Fasti\Register\JoinCounts;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Join\Base;
use PHPUnit\Framework\Attributes\TestWith;
use Symfony\Component\DomCrawler\Crawler;

/** Joins found, said and proven, from the button to the page of each. */
final class JoinsTest extends AppTestCase
{
    private string $path = '';
    private int $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->path = sys_get_temp_dir().'/fasti-joins-'.bin2hex(random_bytes(4)).'.sqlite';
        $this->change('CREATE TABLE person (id integer PRIMARY KEY, full_name text, email text); CREATE TABLE station (id integer PRIMARY KEY,
            code char(4) UNIQUE, title text);
            CREATE TABLE barrier (id integer PRIMARY KEY, title text);
            CREATE TABLE visit (id integer PRIMARY KEY, station_id integer, done_by integer, started_at datetime, parent_id integer REFERENCES visit (id));
            CREATE TABLE visit_member (visit_id integer REFERENCES visit (id), person_id integer REFERENCES person (id), PRIMARY KEY (visit_id, person_id));
            CREATE TABLE method (lab_code char(3), method_code varchar(6), title text, PRIMARY KEY (lab_code, method_code));
            CREATE TABLE result (id integer PRIMARY KEY, visit_id integer REFERENCES visit (id), station_id integer REFERENCES station (id), lab text,
                way text, amount real);
            CREATE TABLE alert (id integer PRIMARY KEY, subject_kind varchar(10), subject_id integer);'
            .Base::rowsOf(
                'person',
                40,
                "n, 'Hidden Name ' || n, 'h' || n || '@arrowmere.example'",
            ).Base::rowsOf('station', 30, "n, 'S' || (100 + n), 'Arrow ' || n").Base::rowsOf('barrier', 50, "n, 'Weir ' || n")
            .Base::rowsOf(
                'visit',
                300,
                "n, CASE WHEN n = 7 THEN 99 ELSE n % 30 + 1 END, n % 40 + 1, '2026-01-01 08:00', NULL",
            ).Base::rowsOf('visit_member', 300, 'n, n % 40 + 1')
            .Base::rowsOf('method', 9, "'L' || (n % 3), 'M' || n, 'x'").Base::rowsOf(
                'result',
                90,
                "n, n, (n % 30) + 1, 'L' || (n % 9 % 3), 'M' || (n % 9 + CASE WHEN n % 9 = 0 THEN 9 ELSE 0 END), n * 1.5",
            )
            .Base::rowsOf('alert', 200, "n, CASE WHEN n % 2 THEN 'station' ELSE 'barrier' END, CASE WHEN n % 2 THEN n % 30 + 1 ELSE n % 50 + 1 END"));
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
        $this->signedIn();
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
        parent::tearDown();
    }

    public function testTheWholeWayFromTheButtonToThePageOfAJoin(): void
    {
        $page = $this->client->request('GET', '/register/joins?source='.$this->source);
        $this->client->submit($page->selectButton('Look for joins')->form());
        $job = self::scalar("SELECT MAX(id) FROM job WHERE kind = 'joins'");
        self::work($job);
        self::assertSame('done', self::state($job));
        $page = $this->client->request('GET', '/register/joins?source='.$this->source);
        $found = $page->filter('.proposal .ends')->each(static fn ($one): string => $one->text());

        self::assertContains('visit.station_id → station.id', $found);
        self::assertContains('visit.done_by → person.id', $found);
        self::assertContains('alert.subject_id → station.id', $found);
        self::assertContains('alert.subject_id → barrier.id', $found);
        self::assertStringContainsString(
            'is done by',
            $page->filter('.proposal')->reduce(static fn ($one): bool => str_contains($one->text(), 'done_by'))->text(),
        );

        $join = $this->join('visit', 'station');
        $page = $this->client->request('GET', '/register/joins/'.$join->id);
        self::assertSelectorTextContains('.bar-words', '299 of 300 rows lead');
        self::assertStringContainsString('1 leads nowhere', $page->filter('main')->text());
        self::assertStringContainsString('Not there: 99', $page->filter('main')->text());
        self::assertStringContainsString('Arrow', $page->filter('.both-ends')->text());
        $person = $this->client->request('GET', '/register/joins/'.$this->join('visit', 'person')->id);
        self::assertStringNotContainsString('Hidden', $person->filter('main')->text());
    }

    public function testProposalsAreNeverCountedAndShowApart(): void
    {
        $this->look();
        $joins = self::get(JoinCounts::class);

        self::assertSame(5, $joins->tally()->declared);
        self::assertGreaterThanOrEqual(4, $joins->tally()->proposed);
        self::assertSame(0, $joins->tally()->documented);
        $page = $this->client->request('GET', '/register/'.self::entryId('station'));
        self::assertSame(1, $page->filter('ul.joins:not(.waiting) > li')->count());
        self::assertStringContainsString('proposed', $page->filter('ul.waiting')->text());
        $self = $this->client->request('GET', '/register/'.self::entryId('visit'))->filter('ul.joins:not(.waiting) > li')->reduce(
            static fn ($one): bool => str_contains($one->text(), 'parent_id'),
        );
        self::assertCount(1, $self, 'A join with itself stands once.');
        self::assertStringContainsString('other visit', $self->text());
    }

    public function testOneOfTwoStewardsDecidesAndTheOtherIsTold(): void
    {
        $this->look();
        $token = $this->textsToken();
        $id = $this->join('visit', 'person')->id;
        $this->post("/register/joins/$id/decide", ['base' => '', 'decision' => 'documented'], $token);
        self::assertResponseIsSuccessful();
        $changes = $this->answer()['changes'];
        self::assertIsArray($changes);
        self::assertCount(3, $changes, 'the decision and both verbs');
        $taken = self::get(Joins::class)->one($id);
        self::assertSame(['documented', 'is done by', 'does'], [$taken?->kind->value, $taken?->verb, $taken?->verbBack]);

        $this->signedIn(Role::STEWARD, 'Ren Calder');
        $this->post("/register/joins/$id/decide", ['base' => '', 'decision' => 'dismissed'], $this->textsToken());
        self::assertResponseStatusCodeSame(409);
        self::assertStringContainsString('Oona Lisk was faster: this is taken now', self::text($this->answer(), 'error'));
        $this->post('/register/joins/take-back', ['changes' => $changes], $this->textsToken());
        self::assertResponseIsSuccessful();
        $back = self::get(Joins::class)->one($id);
        self::assertSame(['proposed', ''], [$back?->kind->value, $back?->verb]);
        self::assertStringContainsString('decision', $this->client->request('GET', '/register/'.self::entryId('visit').'/history')->filter('main')->text());
    }

    public function testWhatWasDismissedComesBackOnlyWithOtherEvidence(): void
    {
        $this->look();
        $id = $this->join('visit', 'station')->id;
        $this->post("/register/joins/$id/decide", ['base' => '', 'decision' => 'dismissed'], $this->textsToken());
        self::assertNull($this->maybe('visit', 'station'));
        $this->look();
        self::assertNull($this->maybe('visit', 'station'), 'the same evidence');
        self::assertSame(1, $this->client->request('GET', '/register/joins?state=dismissed&source='.$this->source)->filter('.proposal')->count());

        $this->change('CREATE INDEX visit_station ON visit (station_id)');
        $survey = self::surveyed($this->source);
        $page = $this->client->request('GET', "/surveys/$survey");
        $this->client->submit($page->selectButton('Follow all of it')->form());
        $this->look();
        self::assertNotNull($this->maybe('visit', 'station'), 'an index begins with it now');
    }

    public function testAllAboveAConfidenceAreTakenWithOneUndo(): void
    {
        $this->look();
        $token = $this->textsToken();
        $page = $this->client->request('GET', "/register/joins/take-all?source=$this->source&least=0.9");
        $ids = $page->filter('input[name=joins]')->extract(['value']);
        $sure = $page->filter('.tick b')->each(static fn (Crawler $one): float => (float) $one->text());
        self::assertGreaterThanOrEqual(3, \count($ids));
        self::assertSame([], array_filter($sure, static fn (float $one): bool => $one < 0.9));
        self::assertSame(0, self::get(JoinCounts::class)->tally()->documented, 'Looking takes nothing.');
        $this->post('/register/joins/take-all', ['joins' => [...$ids, 'x', 999999]], $token);
        $answer = $this->answer();
        self::assertEqualsCanonicalizing(array_map(static fn (mixed $id): int => is_numeric($id) ? (int) $id : 0, $ids), $answer['taken']);
        self::assertSame(\count($ids), self::get(JoinCounts::class)->tally()->documented);
        $this->post('/register/joins/take-back', ['changes' => $answer['changes']], $token);
        self::assertSame(0, self::get(JoinCounts::class)->tally()->documented);
        $this->client->request('GET', "/register/joins/take-all?source=$this->source&least=all");
        self::assertResponseStatusCodeSame(422);
        $this->post('/register/joins/take-all', ['joins' => []], $token);
        self::assertResponseStatusCodeSame(422);
    }

    /**
     * A table may be called as evidence is told: what speaks for a join is known by where it was read, not by its words.
     *
     * @param non-empty-string $group
     */
    #[TestWith(['joined so in values found', EvidenceKind::Structure, 'Names, types and keys alone say so'])]
    #[TestWith(['all 3 values found, in 9 rows', EvidenceKind::Found, 'The data says so as well'])]
    #[TestWith(['named so', EvidenceKind::Used, 'Views, routines or queries join so already'])]
    public function testWhatSpeaksForAJoinIsToldByWhereItWasRead(string $words, EvidenceKind $kind, string $group): void
    {
        $this->look();
        $join = $this->join('visit', 'station');
        self::get(JoinEvidences::class)->keep([$join->id => [new Evidence($words, 1.0, $kind)]]);
        $page = $this->client->request('GET', "/register/joins/take-all?source=$this->source&least=0.01");
        $told = $page->filter('fieldset')->reduce(static fn (Crawler $one): bool => $one->filter("input[value=\"$join->id\"]")->count() > 0);
        self::assertStringStartsWith($group, trim($told->filter('legend')->text()));
    }

    public function testWhatWasFoundIsToldByWhatWasCountedLast(): void
    {
        $this->look();
        $join = $this->join('visit', 'station');
        $evidences = self::get(JoinEvidences::class);
        $evidences->keep([$join->id => [
            new Evidence('564 of 564 values that were looked for are found', 2.0, EvidenceKind::Found, '0'), new Evidence('named after station', 1.0),
        ]]);
        $evidences->observe($join->id, JoinFigures::fromArray([
            'rows' => 22650, 'empty' => 50, 'orphans' => 121, 'missing' => 2, 'parents' => 60, 'used' => 45,
        ]));
        $told = array_map(static fn (Evidence $one): string => $one->words, $evidences->of([$join->id])[$join->id]->evidence);
        $page = $this->client->request('GET', "/register/joins/$join->id")->filter('main')->text();

        self::assertSame(['121 of 22,600 rows lead nowhere; 0 stands for none; 75 of 100 keys are used', 'named after station'], $told);
        self::assertStringNotContainsString('564', $page);
        self::assertStringContainsString('22,479 of 22,650 rows lead to', $page);
    }

    public function testAJoinIsStatedByHandOfSeveralFieldsAndForSomeRows(): void
    {
        $url = '/register/'.self::entryId('result').'/join';
        $form = $this->client->request('GET', $url.'?to=method')->selectButton('State it')->form();
        $values = $form->getPhpValues();
        $values['keep'] = '1';
        $this->client->request('POST', $url, ['near' => ['lab', 'amount'], 'far' => ['lab_code', 'method_code']] + $values);
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('[role=alert]', 'amount (real) and method_code (varchar(6)) can never be equal');
        $this->client->request('POST', $url, ['to' => 'nothing'] + $values);
        self::assertSelectorTextContains('[role=alert]', 'There is no entry “nothing”');
        $this->client->request(
            'POST',
            $url,
            ['near' => ['lab', 'way'], 'far' => ['lab_code', 'method_code'], 'whereField' => 'lab', 'whereValue' => 'L1'] + $values,
        );
        $join = $this->join('result', 'method');
        self::assertResponseRedirects('/register/joins/'.$join->id);
        self::assertSame([[['lab', 'lab_code'], ['way', 'method_code']], ['lab', 'L1'], 'documented'], [$join->pairs, $join->where, $join->kind->value]);
        $this->client->followRedirect();
        self::assertSelectorTextContains('main', 'only where lab is L1');
        $this->look();
        self::assertSame('documented', $this->join('result', 'method')->kind->value, 'what was stated stays');
    }

    public function testARouteIsAskedInTheSearchAndItsRowsAreCounted(): void
    {
        $this->look();
        $link = $this->client->request('GET', '/search?q=result+to+person')->filter('a.hit')->first();
        self::assertSame('How to get from Result to Person', $link->text());
        $page = $this->client->click($link->link());
        self::assertSelectorTextContains('h1', 'From result to person');
        self::assertStringContainsString('JOIN "main"."visit" AS "visit"', $page->filter('pre')->first()->text());
        $this->client->submit($page->selectButton('Count the rows after each step')->form());
        self::work(self::scalar("SELECT MAX(id) FROM job WHERE kind = 'join-count'"));
        $page = $this->client->request(
            'GET',
            '/register/route?from='.self::entryId('result').'&to='.self::entryId('person').'&job='.self::scalar('SELECT MAX(id) FROM job'),
        );
        self::assertStringContainsString('90 rows to begin with', $page->filter('.steps-of')->first()->text());
        self::assertStringContainsString('90 rows after it', $page->filter('.steps-of')->first()->text());

        $loops = $this->client->request('GET', '/register/loops?source='.$this->source.'&job='.self::scalar('SELECT MAX(id) FROM job'))->filter('.loops');
        self::assertStringNotContainsString('rows that go both ways', $loops->text(), 'What was counted of a route is not an answer about a loop.');
        $other = '/register/route?from='.self::entryId('visit').'&to='.self::entryId('person').'&job='.self::scalar('SELECT MAX(id) FROM job');
        self::assertStringNotContainsString('90 rows', $this->client->request('GET', $other)->filter('.steps-of')->first()->text());

        $none = $this->client->request('GET', '/register/route?from='.self::entryId('barrier').'&to='.self::entryId('method'));
        self::assertStringContainsString('No route from barrier to method', $none->filter('h1')->text());
        self::assertStringContainsString('alert', $none->filter('main')->text());
        self::assertSelectorTextContains('main', 'Nothing is joined to it');
    }

    public function testALoopIsListedWithHowFarItsWaysAgree(): void
    {
        $this->look();
        $page = $this->client->request('GET', '/register/loops?source='.$this->source);
        self::assertStringContainsString('visit itself', preg_replace('/\s+/', ' ', $page->filter('.loops tbody tr')->first()->text()) ?? '');
        $this->client->submit($page->selectButton('Ask the data')->form());
        self::work($job = self::scalar("SELECT MAX(id) FROM job WHERE kind = 'join-count'"));
        $row = $this->client->request('GET', '/register/loops?source='.$this->source."&job=$job")->filter('.loops tbody tr')->reduce(
            static fn ($one): bool => str_contains($one->text(), 'visit_id → visit → station_id'),
        );
        self::assertStringContainsString('89 of 90 rows that go both ways', $row->text());
    }

    public function testAreasAreTakenRenamedAndLeft(): void
    {
        $this->look();
        $page = $this->client->request('GET', '/register/areas?source='.$this->source);
        self::assertGreaterThan(0, $page->filter('.area.draft')->count());
        $this->client->submit($page->selectButton('Take it')->form(['name' => 'Field work']));
        $page = $this->client->followRedirect();
        self::assertSelectorTextContains('.area h2', 'Field work');
        $before = $page->filter('.area:not(.draft) .members li')->count();
        $this->client->submit($page->selectButton('Rename')->form(['name' => 'Visits']));
        $page = $this->client->followRedirect();
        self::assertSelectorTextContains('.area h2', 'Visits');
        $area = $page->filter('.area:not(.draft) form')->last()->form();
        $values = $area->getPhpValues();
        $this->client->request(
            'POST',
            $area->getUri(),
            ['entries' => [$page->filter('.area:not(.draft) .members input')->first()->attr('value')], 'leave' => '1'] + $values,
        );
        $page = $this->client->followRedirect();
        self::assertSame($before - 1, $page->filter('.area:not(.draft) .members li')->count());
        $this->client->request('POST', $area->getUri(), ['name' => ' '] + $values);
        $this->client->followRedirect();
        self::assertSelectorTextContains('.flash', 'An area needs a name.');
    }

    public function testKindsSeemAndAreDecided(): void
    {
        $this->look();
        $page = $this->client->request('GET', '/register/keys?source='.$this->source);
        $row = static fn (string $name) => $page->filter('.keys-list tbody tr')->reduce(static fn ($one): bool => $one->filter('th a')->text() === $name);
        self::assertStringContainsString('link (seems)', $row('visit_member')->text());
        self::assertStringContainsString('of what it links', $row('visit_member')->text());
        self::assertStringContainsString('refers to itself', $row('visit')->text());
        $this->post(
            '/texts',
            ['topic' => 'entry', 'id' => self::entryId('visit'), 'property' => 'kind', 'base' => '', 'value' => 'log', 'sitting' => 's'],
            $this->textsToken(),
        );
        self::assertResponseIsSuccessful();
        self::assertSame(
            ['visit'],
            $this->client->request(
                'GET',
                '/register/keys?kind=log&source='.$this->source,
            )->filter('.keys-list th a')->each(static fn ($one): string => $one->text()),
        );
        $this->look();
        self::assertSame(
            1,
            $this->client->request('GET', '/register/keys?kind=log&source='.$this->source)->filter('.keys-list tbody tr')->count(),
            'a decision outlives a look',
        );
    }

    public function testFindingsSayWhereTheDataIsOtherwise(): void
    {
        $this->look();
        $id = $this->join('visit', 'station')->id;
        $this->post("/register/joins/$id/decide", ['base' => '', 'decision' => 'documented'], $this->textsToken());
        $this->post(
            '/texts',
            ['topic' => 'join', 'id' => $id, 'property' => 'verb', 'base' => 'is at', 'value' => 'station', 'sitting' => 's'],
            $this->textsToken(),
        );
        $this->look();
        $page = $this->client->request('GET', '/register/findings')->filter('main')->text();

        self::assertStringContainsString('“station” does not tell joins apart', $page);
        self::assertGreaterThan(0, self::scalar("SELECT COUNT(*) FROM finding WHERE check_name = 'ends-differ' AND entry_id = ?", self::entryId('visit')));
    }

    public function testATableThatIsGoneMeanwhileIsSaidAndTheOthersAreCounted(): void
    {
        $this->change('DROP TABLE station');
        $job = $this->look();

        self::assertSame('done', self::state($job));
        self::assertStringContainsString('station', (string) json_encode(self::db()->fetchOne('SELECT notes FROM job WHERE id = ?', [$job])));
        self::assertNotNull($this->maybe('visit', 'person'));
    }

    private function look(): int
    {
        $page = $this->client->request('GET', '/register/joins?source='.$this->source);
        $this->client->submit($page->filter('.review-head form[action$=look]')->form());
        $job = self::scalar("SELECT MAX(id) FROM job WHERE kind = 'joins'");
        self::work($job);

        return $job;
    }

    private function change(string $sql): void
    {
        (new \PDO('sqlite:'.$this->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]))->exec($sql);
    }

    private function maybe(string $from, string $to): ?JoinView
    {
        foreach (self::get(Joins::class)->ofSource($this->source) as $join) {
            if ($join->fromName === $from && $join->toName === $to && 'declared' !== $join->kind->value) {
                return $join;
            }
        }

        return null;
    }

    private function join(string $from, string $to): JoinView
    {
        return $this->maybe($from, $to) ?? throw new \LogicException("No join from $from to $to.");
    }

    /** @param array<mixed> $answer */
    private static function text(array $answer, string $key): string
    {
        return \is_string($answer[$key] ?? null) ? $answer[$key] : '';
    }
}
