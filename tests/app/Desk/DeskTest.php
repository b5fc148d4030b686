<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Desk;

use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Desk\Coverage;
use Fasti\Desk\Queue;
use Fasti\Desk\Weighing;
use Fasti\Draft\Drafting;
use Fasti\Finding\Findings;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

final class DeskTest extends AppTestCase
{
    private Source $source;
    private Account $account;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        self::apply($this->source, Made::catalog(
            Made::table('island', ['note' => 'text']), Made::table('station', ['opened_on' => 'date']),
            Made::table('visit', ['station_id' => 'int'], ['station_id' => 'station']), Made::table('reading', ['station_id' => 'int'],
                ['station_id' => 'station']),
        ));
        $this->account = $this->signedIn();
        self::get(Drafting::class)->source($this->source->id(), new SilentProgress());
        self::get(Weighing::class)->source($this->source->id());
    }

    public function testAnEmptyRegisterHasAnEmptyDesk(): void
    {
        self::get(Queue::class)->replace($this->source->id(), []);
        self::db()->executeStatement('DELETE FROM finding');
        $page = $this->client->request('GET', '/desk');
        self::assertStringContainsString('Nothing waits', $page->filter('main')->text());
    }

    public function testWhatIsWorthTheMostComesFirstAndItsEntryBeforeItsFields(): void
    {
        $page = $this->client->request('GET', '/desk');
        self::assertSame('station', $page->filter('.thing')->text());
        self::assertStringContainsString('2 joins lead to its entry or from it', $page->filter('.reason')->text());
        self::assertStringContainsString('8 fields and 4 entries to describe', $page->filter('.claims')->text());
        $seen = [];
        $after = null;
        while (null !== $item = self::get(Queue::class)->next($this->account, 0, null, $after)) {
            $seen[] = $item['topic'].' '.$item['entry'];
            $after = ['worth' => $item['worth'], 'entry' => $item['entry'], 'topic' => $item['topic'], 'id' => $item['id']];
        }
        self::assertCount(12, $seen, 'Going on from one to the next meets each once.');
        self::assertSame(['entry '.self::entryId('station'), 'field '.self::entryId('station')], \array_slice($seen, 0, 2));
        self::assertSame('field '.self::entryId('island'), $seen[11]);
    }

    public function testWhatIsDescribedLeavesTheQueueAndComesBackWithoutItsText(): void
    {
        $queue = self::get(Queue::class);
        $texts = self::get(Texts::class);
        $id = self::fieldId('station', 'opened_on');
        $texts->save($this->account, FieldTopic::NAME, $id, 'meaning', '', 'Its first day.', 'x');
        self::assertNull($queue->one('field', $id));
        self::assertSame(['entries' => 4, 'fields' => 7, 'drafts' => 7], $queue->count($this->account));
        $texts->save($this->account, FieldTopic::NAME, $id, 'meaning', 'Its first day.', '', 'y');
        self::assertNotNull($queue->one('field', $id));
        self::assertSame(8, $queue->count($this->account)['fields']);
        self::assertSame(2, $queue->count($this->account, 0, [self::entryId('station')])['fields']);
    }

    public function testLaterIsForTheOneWhoSaysItAndCanBeTakenBack(): void
    {
        $first = self::get(Queue::class)->next($this->account);
        self::assertNotNull($first);
        $token = $this->textsToken();
        $this->post('/desk/later', ['topic' => $first['topic'], 'id' => $first['id']], $token);
        self::assertNotSame([$first['topic'], $first['id']], [self::get(Queue::class)->next($this->account)['topic'] ?? '',
            self::get(Queue::class)->next($this->account)['id'] ?? 0]);
        $other = $this->account(Role::STEWARD, 'Ren Abara');
        self::assertSame($first['id'], self::get(Queue::class)->next($other)['id'] ?? 0);
        $this->post('/desk/later', ['topic' => $first['topic'], 'id' => $first['id'], 'back' => true], $token);
        self::assertSame($first['id'], self::get(Queue::class)->next($this->account)['id'] ?? 0);
    }

    public function testWhatIsLookedForInVainIsKeptWithoutAnybodyAndLiftsWhatItMayMean(): void
    {
        $before = self::get(Queue::class)->one('entry', self::entryId('island'))['worth'] ?? 0.0;
        $this->client->request('GET', '/search?q=Island+remark');
        $this->client->request('GET', '/search?q=islands');
        $this->client->request('GET', '/search?q=nothing+of+the+kind');
        $this->client->request('GET', '/search?q=nothing+of+the+kind');
        self::assertSame(['nothing of the kind' => 2, 'island remark' => 1], self::get(Queue::class)->soughtOften(10));
        self::assertSame(['words', 'times', 'last_at'], array_keys(self::db()->fetchAssociative('SELECT * FROM sought LIMIT 1') ?: []));
        self::get(Queue::class)->sought('island');
        self::get(Weighing::class)->source($this->source->id());
        $now = self::get(Queue::class)->one('entry', self::entryId('island'));
        self::assertGreaterThan($before, $now['worth'] ?? 0.0);
        self::assertContains('looked for in vain once', $now['why'] ?? []);
    }

    public function testTheItemHasItsEvidenceBesideIt(): void
    {
        $texts = self::get(Texts::class);
        $texts->save($this->account, FieldTopic::NAME, self::fieldId('visit', 'station_id'), 'meaning', '', 'Where it was.', 'x');
        $page = $this->client->request('GET', '/desk/next?topic=field&id='.self::fieldId('reading', 'station_id'));
        $text = $page->filter('[data-item]')->text();
        foreach (['reading.station_id', 'visit.station_id', 'Where it was.', 'leads to station', 'Beside it in reading',
            'Nobody has looked at the data yet'] as $words) {
            self::assertStringContainsStringIgnoringCase($words, $text);
        }
        self::assertNotEmpty($page->filter('[data-draft]'));
        $this->client->request('GET', '/desk/next?topic=field&id=999999');
        self::assertResponseIsSuccessful();
    }

    public function testHostileTextIsShownAsText(): void
    {
        self::get(Texts::class)->save($this->account, EntryTopic::NAME, self::entryId('station'), 'businessName', '', '<b onclick="x">x</b>', 'x');
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('visit', 'station_id'), 'meaning', '',
            '<script>alert(1)</script> '.str_repeat('ספר ', 3000), 'x');
        $this->client->request('GET', '/desk?area=%3Cscript%3E&by=nonsense&source=-1&after=NAN&topic=%27');
        self::assertResponseIsSuccessful();
        self::assertStringNotContainsString('<script>alert', $this->content());
        self::assertStringNotContainsString('<b onclick', $this->content());
    }

    public function testCoverageIsCountedEachWayAndKeptDayByDay(): void
    {
        $texts = self::get(Texts::class);
        $texts->save($this->account, FieldTopic::NAME, self::fieldId('station', 'opened_on'), 'meaning', '', 'Its first day.', 'x');
        $texts->save($this->account, EntryTopic::NAME, self::entryId('station'), 'owner', '', 'Oona Lisk', 'x');
        $texts->save($this->account, EntryTopic::NAME, self::entryId('station'), 'area', '', 'Measuring', 'x');
        $coverage = self::get(Coverage::class);
        self::assertSame(['rivers' => ['fields' => 8, 'described' => 1]], $coverage->now('source'));
        self::assertSame(['main' => ['fields' => 8, 'described' => 1]], $coverage->now('schema'));
        self::assertSame(['fields' => 2, 'described' => 1], $coverage->now('owner')['Oona Lisk']);
        self::assertSame(['Measuring' => ['fields' => 2, 'described' => 1], 'no area' => ['fields' => 6, 'described' => 0]], $coverage->now('area'));
        self::assertSame(['fields' => 2, 'described' => 1], array_values($coverage->days('area', 'Measuring'))[0]);
        self::db()->executeStatement("INSERT INTO coverage_day VALUES (UTC_DATE() - INTERVAL 30 DAY, 'all', '', 8, 0)");
        $coverage->now('source');
        self::assertCount(2, self::get(Coverage::class)->days());
        self::assertCount(1, $this->client->request('GET', '/desk?by=owner')->filter('svg.days'));
        self::assertStringContainsString('Oona Lisk', $this->client->getCrawler()->filter('.covered')->text());
    }

    public function testEntriesThatAreNotDescribedAreAFindingByWorth(): void
    {
        self::get(\Fasti\Desk\QueueFollows::class)->made(new \Fasti\Draft\DraftsMadeAnew($this->source->id()));
        self::assertSame(4, self::get(Findings::class)->countOf('undescribed', $this->source->id()));
        foreach (['id', 'opened_on'] as $field) {
            self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('station', $field), 'meaning', '', 'Something.', 'x');
        }
        self::assertSame(3, self::get(Findings::class)->countOf('undescribed', $this->source->id()));
    }
}
