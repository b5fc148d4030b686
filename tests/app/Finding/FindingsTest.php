<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Finding;

use Fasti\Account\Role;
use Fasti\Finding\Findings;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

/** What checks notice stays the same finding from survey to survey, with what people decided about it. */
final class FindingsTest extends AppTestCase
{
    private Source $source;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        $this->applied(['order', 'station']);
        $this->signedIn();
    }

    /** @param list<string> $names of tables without a comment */
    private function applied(array $names): void
    {
        self::apply($this->source, Made::catalog(...array_map(static fn (string $name) => Made::table($name), $names)));
    }

    private function open(string $check): int
    {
        return self::get(Findings::class)->countOf($check, $this->source->id());
    }

    private function finding(string $check): int
    {
        return self::scalar('SELECT MAX(id) FROM finding WHERE check_name = ?', $check);
    }

    public function testTheyAreFoundWhenTheRegisterFollowsASource(): void
    {
        self::assertSame([1, 2], [$this->open('reserved-word'), $this->open('no-comment')]);
        $page = $this->client->request('GET', '/register/findings');
        self::assertStringContainsString('1 table has a reserved word as a name', $page->filter('table')->text());
        self::assertStringContainsString('Findings', $this->client->request('GET', '/register')->filter('main')->text());
    }

    public function testALinkLeadsToExactlyThese(): void
    {
        $page = $this->client->request('GET', '/register/findings?check=no-comment&group=&source='.$this->source->id());

        self::assertSame(['main.order', 'main.station'], $page->filter('tbody th')->each(static fn ($cell): string => $cell->text()));
    }

    public function testWhatIsSetAsideStaysSoFromSurveyToSurvey(): void
    {
        $id = $this->finding('reserved-word');
        $this->post("/register/findings/$id/aside", [], $this->textsToken());
        self::assertSame(0, $this->open('reserved-word'));
        $this->applied(['order', 'station', 'visit']);
        self::assertSame(0, $this->open('reserved-word'));
        $this->client->request('GET', '/register/findings?check=reserved-word');
        self::assertStringContainsString('set aside by Oona Lisk', $this->content());

        $this->post("/register/findings/$id/back", [], $this->textsToken());
        self::assertSame(1, $this->open('reserved-word'));
    }

    public function testOneThatIsNotFoundAnyMoreEndsAndBeginsAnew(): void
    {
        $id = $this->finding('reserved-word');
        $this->post("/register/findings/$id/aside", [], $this->textsToken());
        $this->applied(['station']);
        self::assertSame([0, 1], [$this->open('reserved-word'), $this->open('no-comment')], 'With its entry it is gone.');
        $this->applied(['order', 'station']);
        self::assertSame($id, $this->finding('reserved-word'));
        self::assertSame(1, self::scalar('SELECT ended_at IS NULL FROM finding WHERE id = ?', $id));
    }

    public function testACheckOverTheRegisterRunsWhenATextIsWrittenThatItIsAbout(): void
    {
        $oona = $this->account(name: 'Ren Abara');
        $texts = self::get(Texts::class);
        $texts->save($oona, EntryTopic::NAME, self::entryId('station'), 'businessName', '', 'Site', 'a');
        self::assertSame(0, $this->open('same-business-name'));
        $texts->save($oona, EntryTopic::NAME, self::entryId('order'), 'businessName', '', 'Site', 'b');
        self::assertSame(2, $this->open('same-business-name'));
        self::assertStringContainsString(
            'Another entry of the source is called “Site” too',
            $this->client->request('GET', '/register/'.self::entryId('order'))->filter('.top')->text(),
        );
        $texts->save($oona, EntryTopic::NAME, self::entryId('order'), 'businessName', 'Site', 'Order', 'c');
        self::assertSame(0, $this->open('same-business-name'));
    }

    public function testAReaderSeesThemAndSetsNothingAside(): void
    {
        $this->signedIn(Role::READER, 'Ida Fell');
        $page = $this->client->request('GET', '/register/findings?check=reserved-word');

        self::assertSame(1, $page->filter('tbody tr')->count());
        self::assertSame(0, $page->filter('[data-aside]')->count());
    }

    public function testALineIsSetAsideAtOnceWithAReasonAndUntilADay(): void
    {
        $token = $this->textsToken();
        $line = ['check' => 'no-comment', 'group' => '', 'source' => $this->source->id()];
        foreach ([
            [[], 'Say why'],
            [['why' => 'x', 'until' => 'soon'], 'is no day'],
            [['why' => 'x', 'until' => '2020-01-01'], 'That day is over'],
        ] as [$more, $says]) {
            $this->post('/register/findings/aside', $line + $more, $token);
            self::assertResponseStatusCodeSame(422);
            self::assertStringContainsString($says, $this->content());
        }
        self::assertSame(2, $this->open('no-comment'));
        $this->post('/register/findings/aside', $line + ['why' => 'Comments are not <kept> there', 'until' => '2999-12-31'], $token);
        self::assertSame(2, $this->answer()['aside'] ?? null);
        self::assertSame(0, $this->open('no-comment'));
        $page = $this->client->request('GET', '/register/findings?check=no-comment&group=');
        self::assertStringContainsString('until 31 Dec 2999: Comments are not <kept> there', $page->filter('tbody tr')->first()->text());
        self::db()->executeStatement("UPDATE finding SET set_aside_until = '2020-01-01'");
        self::assertSame(2, $this->open('no-comment'), 'After its day it is open again.');
    }

    public function testACheckIsSwitchedOffAndWeighedOtherwise(): void
    {
        $set = function (array $values): void {
            $form = $this->client->request('GET', '/register/findings/checks')->filter('#reserved-word form')->form();
            $this->client->request('POST', $form->getUri(), $values + ['_token' => $form->getPhpValues()['_token'] ?? '']);
            self::assertResponseRedirects();
        };
        $set(['severity' => 'doubt']);
        self::assertSame(0, $this->open('reserved-word'), 'What it had noticed is over.');
        $this->applied(['order', 'station', 'visit']);
        self::assertSame(0, $this->open('reserved-word'), 'It does not run.');
        $set(['runs' => '1', 'severity' => 'fault']);
        self::assertSame(1, $this->open('reserved-word'), 'It looks at what is known at once.');
        self::assertSame('fault', self::db()->fetchOne("SELECT severity FROM finding WHERE check_name = 'reserved-word' AND ended_at IS NULL"));
        self::assertStringContainsString('fault', $this->client->request('GET', '/register/findings?severity=fault')->filter('.findings')->text());
    }

    public function testAMeaningThatOnlyRepeatsTheNameIsFoundAndMendedWithOneKey(): void
    {
        self::apply($this->source, Made::catalog(Made::table('order'), Made::table('station', ['opened_on' => 'date'])));
        $account = $this->account(Role::STEWARD, 'Ren Abara');
        $field = self::fieldId('station', 'opened_on');
        self::get(Texts::class)->save($account, 'field', $field, 'meaning', '', 'The opened on of the station.', 's');
        self::assertSame(1, $this->open('meaning-repeats-name'));
        $this->post('/register/findings/'.$this->finding('meaning-repeats-name').'/mend', [], $this->textsToken());
        self::assertResponseIsSuccessful();
        self::assertSame('The day on which the station was opened.', self::db()->fetchOne('SELECT meaning FROM field WHERE id = ?', [$field]));
        self::assertSame(0, $this->open('meaning-repeats-name'));
        $this->post('/register/findings/'.$this->finding('reserved-word').'/mend', [], $this->textsToken());
        self::assertResponseStatusCodeSame(422);
    }

    public function testTextsAreComparedAllOverTheRegister(): void
    {
        self::apply($this->source, Made::catalog(
            Made::table('order', ['depth' => 'int', 'grid_ref' => 'text']), Made::table(
                'station',
                ['opened_on' => 'date', 'grid_ref' => 'text', 'deep' => 'int'],
                ['deep' => 'order'],
            ),
        ));
        $account = $this->account(Role::STEWARD, 'Ren Abara');
        $say = static fn (string $entry, string $field, string $property, string $text) => self::get(Texts::class)
            ->save($account, 'field', self::fieldId($entry, $field), $property, '', $text, bin2hex(random_bytes(4)));
        $say('order', 'depth', 'meaning', 'How deep the water is there.');
        $say('station', 'opened_on', 'meaning', 'How deep the water is there.');
        $say('order', 'grid_ref', 'meaning', 'Where the parcel went, by hand.');
        $say('station', 'grid_ref', 'meaning', 'Kilometres along a river.');
        $say('order', 'depth', 'businessName', 'Depth');
        $say('station', 'deep', 'businessName', 'Depth');
        $say('order', 'id', 'unit', 'm');
        $say('station', 'deep', 'unit', 'cm');
        self::get(\Fasti\Finding\Watching::class)->again();
        self::assertSame([2, 2, 2, 1], array_map($this->open(...), ['same-meaning', 'same-name-other-meaning', 'same-thing-other-name', 'units-differ']));
        self::get(Texts::class)->save(
            $account, 'field', self::fieldId('station', 'opened_on'), 'meaning', 'How deep the water is there.', 'Its first day.', 'z',
        );
        self::assertSame(1, $this->open('same-meaning'), 'What was noticed of a text that is written anew is over.');
    }

    public function testALinkThatLeadsNowhereIsFound(): void
    {
        $account = $this->account(Role::STEWARD, 'Ren Abara');
        $there = self::entryId('order');
        self::get(Texts::class)->save(
            $account, EntryTopic::NAME, self::entryId('station'), 'meaning', '', "See [orders](/register/$there#field-".self::fieldId('order', 'id').').',
            's',
        );
        self::assertSame(0, $this->open('links-nowhere'));
        self::get(Texts::class)->save($account, EntryTopic::NAME, $there, 'meaning', '', 'See [it](/register/999999).', 't');
        self::assertSame(1, $this->open('links-nowhere'));
    }
}
