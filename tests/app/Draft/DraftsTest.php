<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Draft;

use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Draft\Drafting;
use Fasti\Draft\DraftStore;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** Drafts count as nothing until a person takes them; taking is a change like any other. */
final class DraftsTest extends AppTestCase
{
    private Source $source;
    private Account $account;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        self::apply($this->source, Made::catalog(
            Made::table('station', ['opened_on' => 'date', 'depth_cm' => 'int']), Made::table('visit', ['station_id' => 'int', 'made_on' => 'date'],
                ['station_id' => 'station']),
            Made::table('sample', ['visit_id' => 'int'], ['visit_id' => 'visit']),
        ));
        $this->account = $this->signedIn();
        self::get(Drafting::class)->source($this->source->id(), new SilentProgress());
    }

    public function testTheyStandInTheMarginAndAreNotCounted(): void
    {
        $page = $this->client->request('GET', '/register/'.self::entryId('station'));
        self::assertStringContainsString('The day on which the station was opened.', $page->filter('#field-'.self::fieldId('station',
            'opened_on').' .draft')->text());
        self::assertStringContainsString('0 of 3 fields', $page->filter('[data-described]')->text());
        $this->signedIn(Role::READER, 'Ida Fell');
        self::assertCount(0, $this->client->request('GET', '/register/'.self::entryId('station'))->filter('.draft'), 'A reader sees what people wrote.');
    }

    public function testOneIsTakenInSeveralPlacesAndAllOfThatIsTakenBackInOneGo(): void
    {
        $id = self::fieldId('station', 'id');
        $draft = $this->draft('station', 'id');
        $token = $this->textsToken();
        $this->post('/drafts/elsewhere/'.$id, ['property' => 'meaning', 'text' => $draft->text], $token);
        preg_match_all('/value="(\d+)" checked/', $this->content(), $m);
        self::assertEqualsCanonicalizing([self::fieldId('visit', 'id'), self::fieldId('sample', 'id')], array_map(intval(...), $m[1]));

        $this->post('/drafts/take', ['topic' => 'field', 'id' => $id, 'property' => 'meaning', 'evidence' => $draft->evidence(), 'elsewhere' => $m[1]], $token);
        self::assertResponseIsSuccessful();
        self::assertCount(3, (array) $this->answer()['changes']);
        self::assertSame([$draft->text, $draft->text, $draft->text], [$this->meaning('station'), $this->meaning('visit'), $this->meaning('sample')]);
        self::assertNull(self::get(DraftStore::class)->one('field', $id, 'meaning', $draft->evidence()), 'There is nothing to propose any more.');

        $taking = self::scalar('SELECT MAX(id) FROM taking');
        $this->post("/drafts/takings/$taking/back", [], $token);
        self::assertSame(['', '', ''], [$this->meaning('station'), $this->meaning('visit'), $this->meaning('sample')]);
        $this->post('/drafts/takings/999999/back', [], $token);
        self::assertResponseStatusCodeSame(422);
    }

    public function testWhatSomebodyWroteMeanwhileIsLeft(): void
    {
        $draft = $this->draft('station', 'id');
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('visit', 'id'), 'meaning', '', 'Mine.', 'x');
        $elsewhere = [self::fieldId('visit', 'id'), self::fieldId('sample', 'id')];
        $this->post('/drafts/take', [
            'topic' => 'field', 'id' => self::fieldId('station', 'id'), 'property' => 'meaning', 'evidence' => $draft->evidence(), 'elsewhere' => $elsewhere,
        ], $this->textsToken());
        self::assertSame([self::fieldId('visit', 'id')], $this->answer()['left']);
        self::assertSame('Mine.', $this->meaning('visit'));
        self::assertSame($draft->text, $this->meaning('sample'));
    }

    public function testADismissedOneComesBackOnlyWithOtherEvidence(): void
    {
        $id = self::fieldId('station', 'opened_on');
        $draft = $this->draft('station', 'opened_on');
        $token = $this->textsToken();
        $this->post('/drafts/dismiss', ['topic' => 'field', 'id' => $id, 'property' => 'meaning', 'evidence' => $draft->evidence()], $token);
        self::assertResponseIsSuccessful();
        self::get(Drafting::class)->source($this->source->id(), new SilentProgress());
        self::assertNull(self::get(DraftStore::class)->one('field', $id, 'meaning', $draft->evidence()));
        $this->post('/drafts/dismiss', ['topic' => 'field', 'id' => $id, 'property' => 'meaning', 'back' => true], $token);
        self::get(Drafting::class)->of([self::entryId('station')]);
        self::assertNotNull(self::get(DraftStore::class)->one('field', $id, 'meaning', $draft->evidence()));
        $this->post('/drafts/take', ['topic' => 'field', 'id' => $id, 'property' => 'meaning', 'evidence' => 'nonsense'], $token);
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('Load the page', $this->content());
    }

    public function testAKindThatIsOftenDismissedHereSinks(): void
    {
        $store = self::get(DraftStore::class);
        $draft = $this->draft('station', 'opened_on');
        self::assertSame([], $store->weights());
        for ($i = 0; $i < 12; ++$i) {
            $store->decided('field', 1, 'meaning', $draft, false, $this->account);
        }
        self::assertLessThan(0.6, $store->weights()[$draft->rule]);
        for ($i = 0; $i < 200; ++$i) {
            $store->decided('field', 1, 'meaning', $draft, true, $this->account);
        }
        self::assertSame([], $store->weights());
    }

    public function testWhatIsSaidOfOneFieldIsProposedForItsNamesakesTheNextTimeTheirPageOpens(): void
    {
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('visit', 'made_on'), 'unit', '', 'day', 'x');
        self::apply($this->source, Made::catalog(
            Made::table('station', ['opened_on' => 'date', 'depth_cm' => 'int', 'grid_ref' => 'char(8)']), Made::table('visit', ['station_id' => 'int',
                'made_on' => 'date', 'grid_ref' => 'char(8)']),
            Made::table('sample', ['visit_id' => 'int']),
        ));
        self::get(Drafting::class)->of([self::entryId('station')]);
        self::get(Texts::class)->save($this->account, FieldTopic::NAME, self::fieldId('visit', 'grid_ref'), 'meaning', '',
            'Place on the national grid, to 100 metres.', 'x');
        self::assertStringContainsString(
            'Place on the national grid, to 100 metres.',
            $this->client->request('GET', '/register/'.self::entryId('station'))->filter('#field-'.self::fieldId('station', 'grid_ref').' .draft')->text(),
        );
    }

    public function testShortFormsAreSaidAndDismissed(): void
    {
        $page = $this->client->request('GET', '/register/short-forms');
        $this->client->submit($page->filter('form.side')->form(['short' => 'stn', 'stands' => 'station']));
        self::assertStringContainsString('a steward says so', $this->client->followRedirect()->filter('table')->text());
        $this->client->submit($this->client->getCrawler()->filter('form.side')->form(['short' => 'not one', 'stands' => 'x']));
        self::assertStringContainsString('one word', $this->client->followRedirect()->filter('.flash')->text());
    }

    public function testAShortFormThatIsSaidRedoesTheDraftsInWhoseNamesItStands(): void
    {
        self::apply($this->source, Made::catalog(
            Made::table('station', ['opened_on' => 'date', 'wt_depth_cm' => 'int']), Made::table('visit', ['station_id' => 'int', 'made_on' => 'date']),
            Made::table('wtxlog', ['note' => 'text']),
        ));
        self::get(Drafting::class)->source($this->source->id(), new SilentProgress());
        $page = $this->client->request('GET', '/register/short-forms');
        $this->client->submit($page->filter('form.side')->form(['short' => 'wt', 'stands' => 'water table']));

        self::assertSame([self::entryId('station'), self::entryId('wtxlog')], self::get(DraftStore::class)->outdated([
            self::entryId('station'), self::entryId('visit'), self::entryId('wtxlog'),
        ]));
        $draft = $this->client->request('GET', '/register/'.self::entryId('station'))->filter('#field-'.self::fieldId('station', 'wt_depth_cm').' .draft');
        self::assertStringContainsString('The water table depth of the station, in centimetres.', $draft->text());
    }

    private function draft(string $entry, string $field): Draft
    {
        $id = self::entryId($entry);

        return self::get(DraftStore::class)->of([$id])[$id]['field'][self::fieldId($entry,
            $field)]['meaning'][0] ?? throw new \LogicException("No draft of $entry.$field.");
    }

    private function meaning(string $entry): string
    {
        $text = self::db()->fetchOne('SELECT meaning FROM field WHERE id = ?', [self::fieldId($entry, 'id')]);

        return \is_string($text) ? $text : '';
    }
}
