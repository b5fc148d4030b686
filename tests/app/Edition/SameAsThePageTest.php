<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Edition;

use Fasti\Account\Role;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Edition\Editions;
use Fasti\Profile\Profiles;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;
use Symfony\Component\DomCrawler\Crawler;
use Symfony\Component\Filesystem\Filesystem;

/** Whatever the page of an entry shows, its page in an edition shows: both are made from the same partials. */
final class SameAsThePageTest extends AppTestCase
{
    protected function tearDown(): void
    {
        (new Filesystem())->remove(\dirname(__DIR__, 3).'/var/test/editions');
        parent::tearDown();
    }

    public function testAnEditionLeavesOutNothingThatAReaderSees(): void
    {
        $table = Made::everything();
        self::apply($this->source('rivers'), Made::catalog($table, Made::table('part', [], [], 'Parts')));
        $id = self::entryId($table->name);
        $oona = $this->signedIn();
        $first = $table->columns[0]->name;
        self::get(Texts::class)->save($oona, EntryTopic::NAME, $id, 'grain', '', 'thing of any kind', 's');
        self::get(Texts::class)->save($oona, EntryTopic::NAME, $id, 'grainFields', '', $first, 's');
        self::get(Texts::class)->save($oona, FieldTopic::NAME, self::fieldId($table->name, $first), 'meaning', '', 'What it is called.', 's');
        self::get(Profiles::class)->keep(
            $id,
            new TableProfile(
                40,
                40,
                '',
                [$first => new FieldProfile(40, 30, 0, 9, frequent: ['often seen' => 12], frequentOf: 30, likely: 'code', percent: 100)],
                [$first],
                0,
            ),
        );

        $edition = self::get(Editions::class)->now('The rivers', []);
        $folder = self::get(Editions::class)->folder($edition->number);
        $made = self::said(new Crawler((string) file_get_contents($folder.'/rivers/main/'.Slug::of($table->name).'.html')));
        $this->signedIn(Role::READER, 'Ida Fell');
        $page = self::said($this->client->request('GET', "/register/$id"));

        foreach (['often seen', '75 % filled', 'no row repeats another', 'thing of any kind', 'What it is called.', 'Rows, about'] as $words) {
            self::assertStringContainsString($words, implode(' ', $page));
        }
        // Where the page leads on within the application, the edition has no place to lead to; and it says days, not "just now".
        $own = '/^(?:Changed|Neighbours|Surveyed|Profile|As of )/';
        self::assertSame([], array_values(array_filter(array_diff($page, $made), static fn (string $words): bool => 1 !== preg_match($own, $words))));
        self::assertGreaterThan(30, \count($page));
    }

    /** @return list<string> each fact, text and word on the page of an entry */
    private static function said(Crawler $page): array
    {
        $said = $page->filter('.top, .ledger, .under-ledger')->filter('h1, p, dl > div, li, .tags > *, [role=cell] > :not(.more), tr, figcaption, summary')
            ->each(static fn (Crawler $node): string => trim((string) preg_replace('/\s+/', ' ', $node->text())));

        return array_values(array_unique(array_filter($said, static fn (string $words): bool => '' !== $words)));
    }
}
