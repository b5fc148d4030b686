<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Draft;

use Fasti\Account\Account;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Draft\Drafting;
use Fasti\Draft\DraftStore;
use Fasti\Profile\SourceProfiled;
use Fasti\Register\EntryKnown;
use Fasti\Register\RegisterFollowed;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\History;
use Fasti\Text\TextChange;
use Fasti\Text\Texts;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Drafts follow what they are made from: which are made anew when something is written, and which are dropped. */
final class DraftsFollowTest extends AppTestCase
{
    private Source $source;
    private Account $account;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        self::apply($this->source, Made::catalog(
            Made::table('station', ['opened_on' => 'date', 'grid_ref' => 'char(8)']),
            Made::table('visit', ['station_id' => 'int', 'grid_ref' => 'char(8)'], ['station_id' => 'station']),
            Made::table('sample', ['depth_cm' => 'int']),
        ));
        $this->account = $this->signedIn();
        self::get(Drafting::class)->source($this->source->id(), new SilentProgress());
        self::assertSame([], $this->stale());
    }

    /** @return iterable<string, array{string, string, string, string, list<string>}> topic, of what, property, value, entries whose drafts are made anew */
    public static function writings(): iterable
    {
        yield 'the meaning of a field' => [FieldTopic::NAME, 'station.grid_ref', 'meaning', 'A square.', ['station', 'visit']];
        yield 'the business name of a field' => [FieldTopic::NAME, 'station.grid_ref', 'businessName', 'Grid square', ['station', 'visit']];
        yield 'the unit of a field' => [FieldTopic::NAME, 'sample.depth_cm', 'unit', 'cm', ['sample']];
        yield 'what is allowed in a field' => [FieldTopic::NAME, 'visit.grid_ref', 'allowed', '8 characters', ['station', 'visit']];
        yield 'whether a field is personal' => [FieldTopic::NAME, 'visit.grid_ref', 'personal', 'no', ['station', 'visit']];
        yield 'the business name of an entry' => [EntryTopic::NAME, 'station', 'businessName', 'Gauging station', ['station']];
        yield 'the meaning of an entry' => [EntryTopic::NAME, 'station', 'meaning', 'Where water is measured.', []];
        yield 'the grain of an entry' => [EntryTopic::NAME, 'station', 'grain', 'one row per station', []];
        yield 'the verb of a join' => [JoinTopic::NAME, 'visit.station_id', 'verb', 'was made at', ['visit']];
    }

    /** @param list<string> $stale */
    #[DataProvider('writings')]
    public function testWhatIsWrittenMakesThoseAnewThatAreMadeFromIt(string $topic, string $of, string $property, string $value, array $stale): void
    {
        self::get(Texts::class)->save($this->account, $topic, $this->id($topic, $of), $property, '', $value, 'x');

        self::assertSame($stale, $this->stale());
    }

    public function testATextThatIsTakenAwayAsksForDraftsOfItsEntryAgain(): void
    {
        $id = $this->id(EntryTopic::NAME, 'station');
        self::get(Texts::class)->save($this->account, EntryTopic::NAME, $id, 'meaning', '', 'Where water is measured.', 'x');
        self::assertSame([], $this->stale());
        self::get(Texts::class)->save($this->account, EntryTopic::NAME, $id, 'meaning', 'Where water is measured.', '', 'y');

        self::assertSame(['station'], $this->stale());
    }

    public function testWhatIsWrittenIsProposedNoMore(): void
    {
        $id = $this->id(FieldTopic::NAME, 'station.opened_on');
        $drafted = static fn (string $property): int => self::scalar(
            "SELECT COUNT(*) FROM draft WHERE topic = 'field' AND topic_id = ? AND property = ?",
            $id,
            $property,
        );
        self::assertGreaterThan(0, $drafted('meaning'));
        self::assertGreaterThan(0, $drafted('businessName'));
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, $id, 'meaning', '', 'The first day.', 'x');

        self::assertSame(0, $drafted('meaning'));
        self::assertGreaterThan(0, $drafted('businessName'), 'The others stay.');
        $join = $this->id(JoinTopic::NAME, 'visit.station_id');
        self::assertSame(1, self::scalar("SELECT COUNT(*) FROM draft WHERE topic = 'join' AND topic_id = ? AND property = 'verb'", $join));
        self::get(Texts::class)->save($this->account, JoinTopic::NAME, $join, 'verb', '', 'was made at', 'x');
        self::assertSame(0, self::scalar("SELECT COUNT(*) FROM draft WHERE topic = 'join' AND topic_id = ? AND property = 'verb'", $join));
    }

    public function testAnEntryOfWhichMoreIsKnownIsDraftedAnew(): void
    {
        self::get(EventDispatcherInterface::class)->dispatch(new EntryKnown($this->id(EntryTopic::NAME, 'sample')));

        self::assertSame(['sample'], $this->stale());
    }

    public function testASurveyAndAProfileHaveAllOfASourceDraftedAnew(): void
    {
        foreach ([new RegisterFollowed($this->source->id()), new SourceProfiled($this->source->id())] as $event) {
            self::db()->executeStatement("UPDATE job SET state = 'done'");
            $before = self::scalar('SELECT COUNT(*) FROM job');
            self::get(EventDispatcherInterface::class)->dispatch($event);
            $begun = self::db()->fetchAllAssociative(
                'SELECT kind, lane, payload FROM job ORDER BY id DESC LIMIT '.(self::scalar('SELECT COUNT(*) FROM job') - $before),
            );
            $lanes = array_map(static fn (array $job): string => Row::text($job, 'lane'), $begun);

            self::assertContains('drafts '.$this->source->id(), $lanes, $event::class);
        }
    }

    public function testWhatWasTakenAndTakenBackStandsInTheHistoryAndOnItsPage(): void
    {
        $id = $this->id(FieldTopic::NAME, 'station.id');
        $draft = self::get(DraftStore::class)->of([$this->id(EntryTopic::NAME, 'station')]);
        $one = $draft[$this->id(EntryTopic::NAME, 'station')]['field'][$id]['meaning'][0] ?? self::fail();
        $token = $this->textsToken();
        $this->post('/drafts/take', [
            'topic' => 'field', 'id' => $id, 'property' => 'meaning', 'evidence' => $one->evidence(), 'elsewhere' => [$this->id(FieldTopic::NAME, 'visit.id')],
        ], $token);
        self::assertResponseIsSuccessful();
        $taking = self::scalar('SELECT MAX(id) FROM taking');
        $page = $this->client->request('GET', '/drafts/takings');
        self::assertSame(['Oona Lisk', $one->text, '2', 'Take back'], [
            $page->filter('tbody .under')
                ->text(), $page
                ->filter('tbody td')
                ->eq(0)
                ->text(), $page
                ->filter('tbody td')
                ->eq(1)
                ->text(), $page
                ->filter('tbody button')
                ->text(),
        ]);
        $this->post("/drafts/takings/$taking/back", [], $token);
        self::assertSame(['places' => 2], $this->answer());

        foreach (['station', 'visit'] as $entry) {
            $said = array_map(
                static fn (TextChange $change): array => [$change->before, $change->after, $change->by],
                self::get(History::class)->of('entry', $this->id(EntryTopic::NAME, $entry))['changes'],
            );
            self::assertContains([$one->text, '', 'Oona Lisk'], $said, "That it was taken back is in the history of $entry.");
            self::assertContains(['', $one->text, 'Oona Lisk'], $said, "That it was taken is in the history of $entry too.");
        }
        $page = $this->client->request('GET', '/drafts/takings');
        self::assertSame('taken back', $page->filter('tbody td')->eq(2)->text());
        self::assertCount(0, $page->filter('tbody button'));
        $this->post("/drafts/takings/$taking/back", [], $token);
        self::assertSame(['error' => 'This was taken back already.'], $this->answer());
        self::assertResponseStatusCodeSame(422);
    }

    public function testTakingsOfManyAreShownTheLatestFirst(): void
    {
        $store = self::get(DraftStore::class);
        foreach (range(1, 103) as $i) {
            $store->took($this->account, [$i], "Text $i.");
        }
        $page = $this->client->request('GET', '/drafts/takings');

        self::assertSame(100, $page->filter('tbody tr')->count());
        self::assertSame('Text 103.', $page->filter('tbody tr')->eq(0)->filter('td')->eq(0)->text());
        self::assertSame('Text 4.', $page->filter('tbody tr')->eq(99)->filter('td')->eq(0)->text());
    }

    private function id(string $topic, string $of): int
    {
        [$entry, $field] = explode('.', $of) + [1 => ''];

        return match ($topic) {
            EntryTopic::NAME => self::entryId($entry),
            FieldTopic::NAME => self::fieldId($entry, $field),
            default => self::scalar('SELECT j.id FROM entry_join j JOIN entry e ON e.id = j.from_entry_id WHERE e.name = ?', $entry),
        };
    }

    /** @return list<string> entries whose drafts are made anew when their page opens */
    private function stale(): array
    {
        $names = self::db()->fetchFirstColumn('SELECT e.name FROM drafts_made m JOIN entry e ON e.id = m.entry_id WHERE m.stale = 1 ORDER BY e.name');

        return array_values(array_filter($names, is_string(...)));
    }
}
