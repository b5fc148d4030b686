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
        $this->signedIn(Role::Reader, 'Ida Fell');
        $page = $this->client->request('GET', '/register/findings?check=reserved-word');

        self::assertSame(1, $page->filter('tbody tr')->count());
        self::assertSame(0, $page->filter('[data-aside]')->count());
    }
}
