<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Term;

use Fasti\Account\Account;
use Fasti\Register\LiveLinks;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Term\Glossed;
use Fasti\Term\Terms;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Texts;

final class TermTest extends AppTestCase
{
    private Account $account;

    protected function setUp(): void
    {
        parent::setUp();
        self::apply($this->source(), Made::catalog(Made::table('station', ['name' => 'text'])));
        $this->account = $this->signedIn();
    }

    public function testTermsAreLinksAsOneReadsAndNotWithinLinksOrCode(): void
    {
        $terms = self::get(Terms::class);
        $reach = $terms->make('reach', '', 'A stretch of river.', 'river reach');
        self::get(Texts::class)->save($this->account, EntryTopic::NAME, self::entryId('station'), 'meaning', '',
            'On a reach, `reach` or [a reach](https://a.example). Reaches & <b>reach</b>.', 'x');
        $page = $this->client->request('GET', '/register/'.self::entryId('station'));
        $found = $page->filter('.top .meaning a.term');
        self::assertSame(['reach'], $found->each(static fn ($link): string => $link->text()), 'Only where it first stands.');
        self::assertSame('A stretch of river.', $found->attr('title'));
        self::assertStringEndsWith('/register/glossary/'.$reach, (string) $found->attr('href'));
        self::assertStringContainsString('Reaches & <b>reach</b>.', $page->filter('.top .meaning')->text());
    }

    public function testAWordThatMeansTwoThingsIsTwoTermsAndThatIsSaid(): void
    {
        $terms = self::get(Terms::class);
        $one = $terms->make('season', 'Measuring', 'Half a year.');
        $terms->make('Season', 'Wildlife', 'Some weeks.');
        $html = self::get(Glossed::class)->html('<p>Each season.</p>', self::get(LiveLinks::class), 0);
        self::assertStringContainsString('A word with several meanings: in Measuring, Half a year.; in Wildlife, Some weeks.', $html);
        self::assertStringContainsString('means something else in Wildlife', $this->client->request('GET', "/register/glossary/$one")->filter('main')->text());
        self::assertStringContainsString('means 2 things', $this->client->request('GET', '/register/glossary')->filter('table')->text());
        $this->expectExceptionMessage('already for measuring');
        $terms->make('season', 'measuring');
    }

    public function testFieldsAreLinkedByNameAndFollowANewOne(): void
    {
        $terms = self::get(Terms::class);
        $texts = self::get(Texts::class);
        $id = $terms->make('gauge board', '', 'Where the level is read.');
        $other = $terms->make('station', '', 'A place.');
        $texts->save($this->account, FieldTopic::NAME, self::fieldId('station', 'name'), 'terms', '', 'Gauge Board, station', 'x');
        $texts->save($this->account, 'term', $other, 'broader', '', 'gauge board', 'x');
        self::assertStringContainsString('station.name', $this->client->request('GET', "/register/glossary/$id")->filter('.plain-list')->text());
        $texts->save($this->account, 'term', $id, 'name', 'gauge board', 'staff gauge', 'x');
        self::assertStringContainsString('station.name', $this->client->request('GET', "/register/glossary/$id")->filter('.plain-list')->text());
        self::assertStringContainsString('station', $this->client->getCrawler()->filter('.count')->text(), 'Narrower terms are those that name it as broader.');
        $this->expectException(BadText::class);
        $texts->save($this->account, FieldTopic::NAME, self::fieldId('station', 'name'), 'terms', 'staff gauge, station', 'nothing', 'x');
    }

    public function testManyArePastedAndWhatIsNotTakenIsSaid(): void
    {
        self::get(Terms::class)->make('reach', '', 'Mine.');
        $form = $this->client->request('GET', '/register/glossary')->selectButton('Add')->form();
        $this->client->submit($form, ['many' => "reach;Another.\ngauge board;\"where; the level is read\";Hydrology;staff gauge\n\nlevel"]);
        $text = $this->client->followRedirect()->filter('body')->text();
        self::assertStringContainsString('2 terms added.', $text);
        self::assertStringContainsString('“reach” is in the glossary already', $text);
        self::assertSame('where; the level is read', self::get(Terms::class)->named('gauge board')[0]->definition);
        $this->client->submit($form, ['many' => "a\n;b"]);
        self::assertResponseStatusCodeSame(422);
        self::assertStringContainsString('Line 2 has no term', $this->content());
        $this->client->submit($form, ['many' => 'a;b;c;d;e']);
        self::assertStringContainsString('Line 1 has 5 parts', $this->content());
        $this->client->submit($form, ['name' => '!!', 'many' => '']);
        self::assertStringContainsString('A term is a word or a few', $this->content());
    }

    public function testHostileAndHugeTextStaysText(): void
    {
        $terms = self::get(Terms::class);
        $terms->make('a', '', '"><script>alert(1)</script>');
        $terms->make('<i>', '', 'x');
        $html = self::get(Glossed::class)->html('<p>'.str_repeat('a banana &lt;i&gt; &amp; ', 50000).'</p>', self::get(LiveLinks::class), 0);
        self::assertSame(2, substr_count($html, 'class="term"'));
        self::assertStringNotContainsString('<script', $html);
        self::assertStringNotContainsString('<i>', $html);
        self::assertStringContainsString('&amp; ', $html);
        $this->client->request('GET', '/register/glossary?q=%3Cscript%3E');
        self::assertStringNotContainsString('<script>', strstr($this->content(), '<main') ?: '');
    }
}
