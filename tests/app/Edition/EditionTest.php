<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Edition;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Role;
use Fasti\Core\Edition\Slug;
use Fasti\Edition\Editions;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;
use Fasti\Work\Jobs;
use Fasti\Work\State;
use Symfony\Component\Filesystem\Filesystem;

final class EditionTest extends AppTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        (new Filesystem())->remove(self::dir());
        (new Filesystem())->mkdir(self::dir());
    }

    protected function tearDown(): void
    {
        (new Filesystem())->remove(self::dir());
        parent::tearDown();
    }

    private static function dir(): string
    {
        return \dirname(__DIR__, 3).'/var/test/editions';
    }

    private function register(): void
    {
        self::apply(
            $this->source('rivers'),
            Made::catalog(
                Made::table('station', ['code' => 'char(6)', 'Größe & "q"' => 'int'], [], 'Sites'),
                Made::table('reading', ['station_id' => 'int'], ['station_id' => 'station']),
                Made::table('Station'),
                Made::everything(),
            ),
        );
        $texts = self::get(Texts::class);
        $oona = $this->signedIn();
        $texts->save($oona, EntryTopic::NAME, self::entryId('station'), 'businessName', '', 'Gauging site', 's');
        $texts->save($oona, EntryTopic::NAME, self::entryId('station'), 'area', '', 'On the river', 's');
        $texts->save($oona, EntryTopic::NAME, self::entryId('reading'), 'area', '', '2026', 's');
        $texts->save($oona, EntryTopic::NAME, self::entryId('Station'), 'area', '', 'On-the river', 's');
        $texts->save($oona, FieldTopic::NAME, self::fieldId('station', 'code'), 'meaning', '', 'Painted <script>x</script> on *the box*', 's');
    }

    public function testTheGlossaryAndTheCodeListsAreInItAndDraftsAreNot(): void
    {
        $this->register();
        $terms = self::get(\Fasti\Term\Terms::class);
        $id = $terms->make('box', 'On the river', 'Where the <b>instruments</b> of a gauging site stand.');
        $terms->make('gauging site', '', 'A place.');
        self::get(\Fasti\CodeList\CodeLists::class)->make('station codes', ['KV-001' => 'the <first>', 'KV-002' => ''], 'Painted on boxes.');
        self::get(Texts::class)->save(
            $this->account(Role::STEWARD, 'Ren Abara'), FieldTopic::NAME, self::fieldId('station', 'code'), 'allowed', '', 'code list station codes', 's',
        );
        self::get(\Fasti\Draft\Drafting::class)->source(self::scalar('SELECT id FROM source'), new \Fasti\Core\Survey\SilentProgress());
        $edition = self::get(Editions::class)->start('The rivers', '', null, []);
        self::work($edition->job->id());
        $pages = self::pages(self::get(Editions::class)->folder($edition->number));
        $glossary = $pages['glossary/index.html'] ?? '';
        self::assertStringContainsString("id=\"term-$id\"", $glossary);
        self::assertStringContainsString('the &lt;b&gt;instruments', $glossary);
        self::assertMatchesRegularExpression('~href="\.\./glossary/index\.html#term-\d+"[^>]*>gauging site</a>~', $glossary);
        self::assertStringContainsString('the &lt;first&gt;', $pages['codes/index.html'] ?? '');
        $page = $pages['rivers/main/station.html'] ?? '';
        self::assertStringContainsString("href=\"../../glossary/index.html#term-$id\"", $page);
        self::assertStringContainsString('KV-001', $page);
        self::assertStringNotContainsString('class="note draft"', implode('', $pages));
    }

    public function testKeptDiagramsAreInItAtEveryLevelAndInWords(): void
    {
        $this->register();
        $lakes = $this->source('lakes');
        self::apply($lakes, Made::catalog(Made::table('lake')));
        $beginning = self::get(\Fasti\Diagram\Beginning::class);
        $places = [self::entryId('station') => [0.0, 0.0], self::entryId('reading') => [500.0, 0.0], self::entryId('lake') => [0.0, 500.0]];
        $oona = $this->account(Role::STEWARD, 'Ren Abara');
        $kept = $beginning->begin($oona, 'A <reading>', 'Where it comes from', $places, \Fasti\Core\Diagram\Detail::Keys);
        $beginning->begin($oona, 'Lakes only', '', [self::entryId('lake') => [0.0, 0.0]], \Fasti\Core\Diagram\Detail::Keys);
        $edition = self::get(Editions::class)->start('The rivers', 'First', null, [self::scalar("SELECT id FROM source WHERE name = 'rivers'")]);
        self::work($edition->job->id());
        $pages = self::pages(self::get(Editions::class)->folder($edition->number));
        $page = $pages['diagrams/'.$kept->id().'.html'];

        self::assertStringContainsString('A &lt;reading&gt;', $page);
        self::assertSame(4, substr_count($page, '<template data-level='));
        self::assertStringContainsString('href="../rivers/main/station.html"', $page);
        self::assertStringContainsString('1 entry of it is not in this edition', $page);
        self::assertStringNotContainsString('>Lake<', $page, 'What is of another source is not given away.');
        self::assertStringContainsString('refers to exactly one gauging site', $page);
        self::assertStringContainsString($kept->id().'.html', $pages['diagrams/index.html']);
        self::assertStringNotContainsString('Lakes only', $pages['diagrams/index.html']);
        self::assertStringContainsString('../../diagrams/'.$kept->id().'.html', $pages['rivers/main/reading.html']);
        self::assertStringContainsString('diagrams/index.html', $pages['index.html']);
    }

    private function publish(): string
    {
        $edition = self::get(Editions::class)->start('The rivers', 'First of all', null, []);
        self::work($edition->job->id());

        return self::get(Editions::class)->folder($edition->number);
    }

    /** @return array<string, string> path from the folder → content */
    private static function pages(string $folder): array
    {
        $pages = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && 'html' === $file->getExtension()) {
                $pages[substr($file->getPathname(), \strlen($folder) + 1)] = (string) file_get_contents($file->getPathname());
            }
        }
        ksort($pages);

        return $pages;
    }

    public function testEveryLinkOfEveryPageLeadsSomewhereInTheFolder(): void
    {
        $this->register();
        $folder = $this->publish();
        $pages = self::pages($folder);
        $checked = 0;
        foreach ($pages as $path => $html) {
            preg_match_all('/(?:href|src)="([^"]*)"/', $html, $found);
            foreach ($found[1] as $address) {
                $address = html_entity_decode($address, \ENT_QUOTES);
                self::assertDoesNotMatchRegularExpression('~^(?!data:)(?:[a-z]+:|/)~i', $address, "$path reaches outside");
                if (str_starts_with($address, 'data:')) {
                    continue;
                }
                [$file, $anchor] = explode('#', $address, 2) + [1 => ''];
                $target = '' === $file ? $folder.'/'.$path : realpath(\dirname($folder.'/'.$path).'/'.$file);
                self::assertIsString($target, "$path leads to $address");
                self::assertTrue(str_starts_with($target, $folder.'/'));
                if ('' !== $anchor && 'main' !== $anchor) {
                    self::assertStringContainsString('id="'.$anchor.'"', (string) file_get_contents($target), "$path leads to $address");
                }
                ++$checked;
            }
            self::assertDoesNotMatchRegularExpression('/<script(?![^>]*\bsrc=)|\son\w+="|\sstyle="/i', $html, $path);
        }
        self::assertGreaterThan(60, $checked);
    }

    public function testThePagesHoldWhatWasWritten(): void
    {
        $this->register();
        $pages = self::pages($this->publish());
        $station = $pages['rivers/main/station.html'];

        self::assertMatchesRegularExpression('~<h1><span class="text[^>]*>Gauging site</span>~', $station);
        self::assertStringContainsString('Painted &lt;script&gt;x&lt;/script&gt; on <em>the box</em>', $station);
        self::assertStringContainsString('The database says</b> “Sites”', $station);
        self::assertStringContainsString('is referred to by</em> any number of <a href="../../rivers/main/reading.html">readings', $station);
        self::assertStringContainsString('class="diagram"', $station);
        self::assertStringContainsString('Größe &amp; &quot;q&quot;', $station);
        self::assertStringContainsString('The rivers', $pages['index.html']);
        self::assertArrayHasKey('fields/g.html', $pages);
        self::assertStringContainsString('main.station', $pages['fields/c.html']);
        self::assertArrayHasKey('rivers/main/'.Slug::of('Station').'.html', $pages, 'Two names that differ only in case have two pages.');
        self::assertStringContainsString('class="diagram"', $pages['rivers/diagram.html']);
    }

    public function testAreasAreAPageThatEveryPageLeadsTo(): void
    {
        $this->register();
        $pages = self::pages($this->publish());
        self::assertStringContainsString('<a href="../../areas/index.html">Areas</a>', $pages['rivers/main/station.html']);
        $areas = $pages['areas/index.html'];
        self::assertSame(3, substr_count($areas, '<h2 id='), 'Two that have one address are two.');
        self::assertMatchesRegularExpression('~<h2 id="2026">2026</h2>.*reading\.html.*>On the river</h2>.*>Gauging site</a>.*>On-the river</h2>~s', $areas);
        self::assertMatchesRegularExpression('~>On the river</a> <span class="faded">1 entry~', $areas);
    }

    public function testWithoutAreasThereIsNoPageOfThem(): void
    {
        self::apply($this->source('rivers'), Made::catalog(Made::table('station', ['code' => 'char(6)'])));
        $pages = self::pages($this->publish());
        self::assertArrayNotHasKey('areas/index.html', $pages);
        self::assertStringNotContainsString('>Areas<', $pages['index.html']);
    }

    public function testLaterEditsDoNotChangeItAndAddressesStay(): void
    {
        $this->register();
        $first = $this->publish();
        $before = self::pages($first);
        self::get(Texts::class)->save(
            $this->signedIn(name: 'Ren Abara'),
            EntryTopic::NAME,
            self::entryId('station'),
            'businessName',
            'Gauging site',
            'Measuring place',
            's',
        );
        $second = $this->publish();

        self::assertSame($before, self::pages($first));
        self::assertSame(array_keys($before), array_keys(self::pages($second)));
        self::assertStringContainsString('Measuring place', self::pages($second)['rivers/main/station.html']);
    }

    public function testTheSearchFileIsAScriptThatHoldsEveryField(): void
    {
        $this->register();
        $script = (string) file_get_contents($this->publish().'/search.js');
        self::assertStringStartsWith('window.fastiSearch=[', $script);
        $rows = json_decode((string) preg_replace('/,\s*\];\s*$/', ']', substr($script, \strlen('window.fastiSearch='))), true);
        self::assertIsArray($rows);

        self::assertCount(4, $rows);
        self::assertStringContainsString('"code"', (string) json_encode($rows));
    }

    public function testItIsServedToThoseWhoMayReadAndAsOneFile(): void
    {
        $this->register();
        $folder = $this->publish();
        $number = basename($folder);
        $this->client->request('GET', "/editions/$number/");
        self::assertResponseIsSuccessful();
        $this->client->request('GET', "/editions/$number/assets/edition.css");
        self::assertResponseHeaderSame('Content-Type', 'text/css; charset=UTF-8');
        foreach (['/../../../.env', '/%2e%2e/%2e%2e/.env', '/nothing.html', '/search.js/'] as $path) {
            $this->client->request('GET', "/editions/$number$path");
            self::assertResponseStatusCodeSame(404, $path);
        }
        $zip = new \ZipArchive();
        self::assertTrue($zip->open(\dirname($folder)."/fasti-edition-$number.zip"));
        self::assertNotFalse($zip->locateName("fasti-edition-$number/rivers/main/station.html"));
        self::assertSame(
            \count(self::pages($folder)),
            \count(array_filter(range(0, $zip->numFiles - 1), static fn (int $i): bool => str_ends_with((string) $zip->getNameIndex($i), '.html'))),
        );
    }

    public function testOnlyTheSourcesThatAreAskedForAreInIt(): void
    {
        $this->register();
        $lakes = $this->source('lakes');
        self::apply($lakes, Made::catalog(Made::table('lake')));
        $edition = self::get(Editions::class)->now('Lakes only', [$lakes->id()]);
        $pages = self::pages(self::get(Editions::class)->folder($edition->number));

        self::assertArrayHasKey('lakes/main/lake.html', $pages);
        self::assertArrayNotHasKey('rivers/index.html', $pages);
        self::assertStringNotContainsString('station', implode('', $pages));
    }

    public function testWhatIsGoneFromItsSourceIsNotPublished(): void
    {
        $source = $this->source('rivers');
        self::apply($source, Made::catalog(Made::table('station', ['code' => 'int']), Made::table('old')));
        self::apply($source, Made::catalog(Made::table('station')));
        $pages = self::pages($this->publish());

        self::assertArrayNotHasKey('rivers/main/old.html', $pages);
        self::assertStringNotContainsString('>code<', $pages['rivers/main/station.html']);
    }

    public function testTheFormInTheBrowserAsksForAnEditionAndShowsWhatBecameOfIt(): void
    {
        $this->register();
        $form = $this->client->request('GET', '/editions')->selectButton('Publish')->form(['title' => 'Spring', 'note' => 'With *lakes*']);
        $this->client->submit($form);
        self::assertResponseRedirects('/editions');
        $job = self::scalar('SELECT job_id FROM edition');
        $this->client->request('GET', "/jobs/$job/state");
        self::assertSame(['waiting', false], [$this->answer()['state'], $this->answer()['over']]);

        self::work($job);
        $crawler = $this->client->request('GET', '/editions');
        self::assertSame(['Spring'], $crawler->filter('tbody th a')->each(static fn ($link): string => $link->text()));
        self::assertStringContainsString('With <em>lakes</em>', (string) file_get_contents(self::dir().'/1/index.html'));
    }

    public function testOneThatTheWorkerLeftUnfinishedSaysSo(): void
    {
        $edition = self::get(Editions::class)->start('Half', '', null, []);
        self::fallSilent($edition->job->id());
        self::get(Jobs::class)->endAbandoned();
        self::get(EntityManagerInterface::class)->clear();
        $this->signedIn();
        $this->client->request('GET', '/editions');

        self::assertSelectorTextContains('tbody', 'The worker stopped in the middle. Publish again.');
    }

    public function testAnEmptyRegisterIsNotPublished(): void
    {
        $edition = self::get(Editions::class)->now('', []);

        self::assertSame(State::Failed, $edition->job->state);
        self::assertStringContainsString('nothing to publish', $edition->job->error);
        self::assertDirectoryDoesNotExist(self::dir().'/'.$edition->number);
    }
}
