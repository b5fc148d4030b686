<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Lineage;

use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Core\Survey\Choice;
use Fasti\Drift\AcceptDrift;
use Fasti\Drift\DriftItems;
use Fasti\Edition\Editions;
use Fasti\Lineage\Dependant;
use Fasti\Lineage\Dependants;
use Fasti\Lineage\Lineages;
use Fasti\Lineage\Origins;
use Fasti\Profile\Profiles;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\Source;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;
use Symfony\Component\DomCrawler\Crawler;
use Symfony\Component\Filesystem\Filesystem;

/** What the register knows of where fields come from, and what it does with it. */
final class LineageTest extends AppTestCase
{
    private Source $source;
    private Account $steward;

    protected function setUp(): void
    {
        parent::setUp();
        $this->source = $this->source();
        $this->steward = $this->signedIn();
    }

    public function testAViewIsShownAsStepsWithItsQueryAndWhereItsFieldsComeFrom(): void
    {
        self::apply($this->source, self::rivers());
        $page = $this->client->request('GET', '/register/'.self::entryId('day_mean'));

        self::assertSame(
            ['Take reading', 'Keep only rows where', 'One row for each different value of'],
            $page->filter('.steps b')->each(static fn ($step): string => $step->text()),
        );
        self::assertSame('flag = \'G\'', $page->filter('.steps .code')->first()->text());
        $row = $page->filter('#field-'.self::fieldId('day_mean', 'mean'));
        self::assertSame('avg(value)', $row->filter('.lineage dd')->first()->text());
        self::assertSame('/register/'.self::entryId('reading').'#field-'.self::fieldId('reading', 'value'), $row->filter('.tags a')->attr('href'));
        self::assertStringContainsString('Each row is told apart from the others by day', $page->filter('.told-by')->text());
    }

    public function testAFieldThatIsMadeOfOneOtherIsToldFromOneOfSeveral(): void
    {
        self::apply($this->source, new Catalog('mariadb', '', [
            Made::table('tank', ['id' => 'int', 'depth' => 'int', 'width' => 'int', 'kind' => 'int']),
            new Table('main', 'sizes', TableType::View, '', [
                new Column('deep', 'int'), new Column('twice', 'int'), new Column('room', 'int'), new Column('always', 'int'), new Column('cased', 'int'),
            ], definition: 'SELECT depth AS deep, depth * 2 AS twice, depth * width AS room, 1 AS always,
                CASE WHEN kind = 1 THEN width END AS cased FROM main.tank WHERE kind > 0'),
        ]));
        $field = static fn (string $table, string $name): int => self::fieldId($table, $name);

        self::assertSame([
            $field('sizes', 'deep') => $field('tank', 'depth'), $field('sizes', 'twice') => $field('tank', 'depth'),
        ], self::get(Lineages::class)->single([self::entryId('sizes')]));
        self::assertSame([], self::get(Lineages::class)->single([]));
        // What decides about rows is followed only where it is asked for.
        $up = static fn (bool $conditions): array => array_keys(self::get(Lineages::class)->up([$field('tank', 'kind')], $conditions)->fields);
        self::assertEqualsCanonicalizing([$field('tank', 'kind'), $field('sizes', 'cased')], $up(false));
        self::assertEqualsCanonicalizing([$field('tank', 'kind'), -self::entryId('sizes'), $field('sizes', 'cased')], $up(true));
    }

    public function testAFigureIsFollowedDownTwoViewsAndUpAgain(): void
    {
        self::apply($this->source, self::rivers());
        $top = self::fieldId('month_mean', 'highest');
        $value = self::fieldId('reading', 'value');
        $lineages = self::get(Lineages::class);

        self::assertSame([$top => 0, self::fieldId('day_mean', 'mean') => 1, $value => 2], $lineages->down([$top])->fields);
        self::assertSame([$value => 0, self::fieldId('day_mean', 'mean') => 1, $top => 2], $lineages->up([$value])->fields);
        $page = $this->client->request('GET', "/register/fields/$top/lineage");
        self::assertSame(['day_mean.mean', 'reading.value'], $page->filter('.trace a.code')->each(static fn ($link): string => $link->text()));
        self::assertSame(3, $page->filter('.lineage-picture .tablet')->count());
        self::assertSame(2, $page->filter('.lineage-picture .tie')->count());
    }

    public function testWhatBreaksIsEveryViewThatNamesAFieldAndEveryViewOverThose(): void
    {
        self::apply($this->source, self::rivers());
        $page = $this->client->request('GET', '/register/fields/'.self::fieldId('reading', 'flag').'/lineage');

        self::assertSame(['main.day_mean', 'main.month_mean'], $page->filter('.breaks th a')->each(static fn ($link): string => $link->text()));
        self::assertStringContainsString('which rows it has', $page->filter('.breaks tr:nth-child(1) td')->first()->text());
        self::assertStringContainsString('by way of day_mean', $page->filter('.breaks tr:nth-child(2)')->text());
        self::assertSame([], self::get(Lineages::class)->breaks([self::fieldId('month_mean', 'highest')]));
    }

    public function testConditionsAreFollowedWhereThatIsAsked(): void
    {
        self::apply($this->source, self::rivers());
        $flag = self::fieldId('reading', 'flag');

        self::assertCount(1, self::get(Lineages::class)->up([$flag])->fields);
        self::assertArrayHasKey(-self::entryId('day_mean'), self::get(Lineages::class)->up([$flag], true)->fields);
        $page = $this->client->request('GET', '/register/'.self::entryId('day_mean').'/lineage?conditions=1');
        self::assertSelectorTextContains('.lineage-picture', 'which rows it has');
        self::assertGreaterThan(0, $page->filter('.tie.condition')->count());
    }

    public function testWhatUsesSomethingRetiredIsAFindingUntilItIsTakenBack(): void
    {
        self::apply($this->source, self::rivers());
        $value = self::fieldId('reading', 'value');
        $this->write(FieldTopic::NAME, $value, 'retired', '', 'retired');
        $this->write(FieldTopic::NAME, $value, 'replacedBy', '', 'reading.level');
        $this->write(FieldTopic::NAME, $value, 'retiresOn', '', '2027-03-31');

        self::assertSame(
            ['It uses reading.value, which is retired: replaced by reading.level, to be used until 31 March 2027 at the latest.'],
            $this->findings('uses-retired'),
        );
        self::assertSame(
            self::fieldId('day_mean', 'mean'),
            self::scalar("SELECT field_id FROM finding WHERE check_name = 'uses-retired' AND ended_at IS NULL"),
        );
        $page = $this->client->request('GET', '/register/'.self::entryId('reading'));
        self::assertSame('retired', $page->filter("#field-$value .tags .rubric")->last()->text());
        $this->write(FieldTopic::NAME, $value, 'retired', 'retired', '');
        self::assertSame([], $this->findings('uses-retired'));
    }

    public function testARetiredEntryIsNamedOnceForEachViewThatUsesIt(): void
    {
        self::apply($this->source, self::rivers());
        $this->write(EntryTopic::NAME, self::entryId('reading'), 'standing', 'open', 'retired');
        $this->write(EntryTopic::NAME, self::entryId('reading'), 'replacedBy', '', 'measurement');

        self::assertSame(['It uses reading, which is retired: replaced by measurement.'], $this->findings('uses-retired'));
        $this->client->request('GET', '/register/'.self::entryId('reading'));
        self::assertSelectorTextContains('.retired', 'Retired: not to be used any more. Replaced by measurement');
    }

    public function testADayThatIsNoneIsRefused(): void
    {
        self::apply($this->source, self::rivers());
        $this->expectException(BadText::class);
        $this->write(FieldTopic::NAME, self::fieldId('reading', 'value'), 'retiresOn', '', '2027-02-30');
    }

    public function testTwoSourcesMeetWhereAStewardSaysSo(): void
    {
        self::apply($this->source, self::rivers());
        self::apply($this->source('mart'), new Catalog('sqlite', '', [new Table('main', 'fact', TableType::Table, '', [new Column('level', 'REAL')])]));
        $level = self::fieldId('fact', 'level');
        $origins = self::get(Origins::class);

        self::assertSame('There is no source “nowhere”. There are mart, rivers.', $origins->named('nowhere: a.b'));
        self::assertSame('rivers has no field “reading.nosuch”.', $origins->named('rivers: reading.nosuch'));
        self::assertSame(self::fieldId('reading', 'value'), $origins->named('rivers: main.reading.value'));
        $this->write(FieldTopic::NAME, $level, 'origin', '', 'rivers: reading.value');
        self::get(Lineages::class);
        $page = $this->client->request('GET', "/register/fields/$level/lineage");
        self::assertSame(['reading.value'], $page->filter('.trace a.code')->each(static fn ($link): string => $link->text()));
        self::assertSame(1, $page->filter('.tie.said[data-from]')->count());
    }

    public function testWhereTwoSourcesMeetOutlivesARename(): void
    {
        self::apply($this->source, self::rivers());
        self::apply($this->source('mart'), new Catalog('sqlite', '', [new Table('main', 'fact', TableType::Table, '', [new Column('level', 'REAL')])]));
        $level = self::fieldId('fact', 'level');
        $value = self::fieldId('reading', 'value');
        $this->write(FieldTopic::NAME, $level, 'origin', '', 'rivers: reading.value');
        self::db()->executeStatement("UPDATE field SET name = 'height' WHERE id = ?", [$value]);
        self::db()->executeStatement("UPDATE source SET name = 'waters' WHERE id = ?", [$this->source->id()]);
        self::get(Origins::class)->reset();

        self::assertSame([$level => $value], self::get(Origins::class)->said());
        $this->write(FieldTopic::NAME, $level, 'origin', 'rivers: reading.value', '');
        self::assertSame([], self::get(Origins::class)->said());
    }

    public function testWhatIsFilledFromSomethingRetiredOrRefersToItUsesItToo(): void
    {
        self::apply(
            $this->source,
            Made::catalog(...self::rivers()->tables, ...[Made::table('note', ['reading_id' => 'int(11)'], ['reading_id' => 'reading'])]),
        );
        self::apply($this->source('mart'), new Catalog('sqlite', '', [new Table('main', 'fact', TableType::Table, '', [new Column('level', 'REAL')])]));
        $this->write(FieldTopic::NAME, self::fieldId('fact', 'level'), 'origin', '', 'rivers: reading.value');
        $this->write(EntryTopic::NAME, self::entryId('reading'), 'standing', 'open', 'retired');

        self::assertSame([
            'It is filled from reading.value, which is retired.', 'It refers to reading by reading_id, and that is retired.',
            'It uses reading, which is retired.',
        ], $this->findings('uses-retired'));
    }

    public function testTwoSourcesMeetWhereNamesAndDataAgree(): void
    {
        self::apply($this->source, self::rivers());
        self::apply(
            $this->source('mart'),
            new Catalog('sqlite', '', [new Table('main', 'reading', TableType::Table, '', [new Column('value', 'REAL'), new Column('flag', 'TEXT')])]),
        );
        [$old, $new] = self::numbers("SELECT id FROM entry WHERE name = 'reading' ORDER BY id");
        $flags = new FieldProfile(100, 100, distinct: 3, frequent: ['G' => 60, 'S' => 30, 'B' => 10], frequentOf: 100);
        foreach ([$old, $new] as $entry) {
            self::get(Profiles::class)->keep($entry, new TableProfile(100, 100, '', ['flag' => $flags]));
        }
        [$from, $to] = self::numbers("SELECT f.id FROM field f WHERE f.name = 'flag' ORDER BY f.id");

        self::assertSame([['from' => $from, 'to' => $to]], self::get(Origins::class)->alike([$to]));
        self::assertSame([$to => 0, $from => 1], self::get(Lineages::class)->down([$to])->fields);
        self::assertSame(
            [],
            self::get(Origins::class)->alike(self::numbers("SELECT id FROM field WHERE name = 'value'")),
            'Names alone are not enough.',
        );
    }

    public function testAChangeNamesTheViewsThatDependOnItAndMakesTheirTextsDoubtful(): void
    {
        self::apply($this->source, self::rivers());
        $mean = self::fieldId('day_mean', 'mean');
        $this->write(FieldTopic::NAME, $mean, 'meaning', '', 'The level of a day.');
        $this->write(FieldTopic::NAME, self::fieldId('month_mean', 'highest'), 'meaning', '', 'The highest day.');
        $after = self::rivers('float');
        self::apply($this->source('mart'), new Catalog('sqlite', '', [new Table('main', 'fact', TableType::Table, '', [new Column('level', 'REAL')])]));
        $this->write(FieldTopic::NAME, self::fieldId('fact', 'level'), 'origin', '', 'rivers: reading.value');
        [$before] = self::get(RegisterCatalog::class)->of($this->source->id());
        $items = DriftItems::of(Compare::catalogs($before, $after));

        self::assertSame([['name' => 'main.day_mean', 'fields' => ['mean']], ['name' => 'main.fact', 'fields' => ['level']]], array_map(
            static fn (Dependant $view): array => ['name' => $view->name, 'fields' => $view->fields],
            self::get(Dependants::class)->ofDrift($this->source->id(), $items)[0] ?? [],
        ));
        self::get(AcceptDrift::class)->accept($this->source->id(), $after, new Choice(), $items, array_fill(0, \count($items), 'yes'), [], $this->steward);
        $doubts = $this->findings('doubtful-text');
        self::assertContains('It is computed from reading.value, which is float now and was decimal(6,2).', $doubts);
        self::assertSame(2, \count(array_filter($doubts, static fn (string $doubt): bool => str_starts_with($doubt, 'It is computed'))));
    }

    public function testAViewWhoseTableIsGoneIsSaidToBeUnderstoodOnlyInPart(): void
    {
        self::apply($this->source, self::rivers());
        self::apply(
            $this->source,
            Made::catalog(...array_values(array_filter(self::rivers()->tables, static fn (Table $table): bool => 'reading' !== $table->name))),
        );

        self::assertSame(['Its query is understood only in part. reading is not in the catalog (line 1, column 37).'], $this->findings('view-not-understood'));
        $this->client->request('GET', '/register/'.self::entryId('day_mean'));
        self::assertSelectorTextContains('.not-understood', 'reading is not in the catalog at line 1, column 37');
    }

    public function testAnEditionShowsStepsAndLeadsFromTheQueryToItsOwnPages(): void
    {
        self::apply($this->source, self::rivers());
        $value = self::fieldId('reading', 'value');
        $this->write(FieldTopic::NAME, $value, 'retired', '', 'retired');
        $this->write(FieldTopic::NAME, $value, 'replacedBy', '', 'reading.level');
        $edition = self::get(Editions::class)->now('The rivers', []);
        $folder = self::get(Editions::class)->folder($edition->number);
        $page = new Crawler((string) file_get_contents($folder.'/rivers/main/'.Slug::of('day_mean').'.html'));
        $table = new Crawler((string) file_get_contents($folder.'/rivers/main/reading.html'));
        (new Filesystem())->remove(\dirname(__DIR__, 3).'/var/test/editions');

        self::assertSame(
            ['Take reading', 'Keep only rows where', 'One row for each different value of'],
            $page->filter('.steps b')->each(static fn (Crawler $step): string => $step->text()),
        );
        self::assertContains(
            '../../rivers/main/reading.html#value',
            $page->filter('.sql a')->each(static fn (Crawler $link): string => (string) $link->attr('href')),
        );
        self::assertStringContainsString('avg(value)', $page->filter('.lineage')->last()->text());
        self::assertSame(0, $page->filter('.lineage a[href*="/register/"]')->count(), 'An edition leads to no page of the application.');
        self::assertStringContainsString('retired', $table->filter('#value .tags')->text());
        self::assertStringContainsString('reading.level', $table->filter('#value')->text());
        self::assertStringContainsString('day_mean.mean', $table->filter('#value .lineage')->text());
    }

    public function testViewsOfARegisterThatNobodyReadYetAreReadByCommand(): void
    {
        self::apply($this->source, self::rivers());
        self::db()->executeStatement('DELETE FROM lineage');
        self::db()->executeStatement('DELETE FROM view_reading');
        $tester = new CommandTester((new Application(self::$kernel ?? throw new \LogicException('No kernel.')))->find('fasti:read-views'));
        $tester->execute(['--missing' => true]);

        self::assertSame(2, self::scalar('SELECT COUNT(*) FROM view_reading'));
        self::assertGreaterThan(2, self::scalar('SELECT COUNT(*) FROM lineage'));
    }

    public function testAPastedQueryIsReadAndKept(): void
    {
        self::apply($this->source, self::rivers());
        $sql = 'SELECT day, max(value) AS top FROM reading WHERE flag = \'G\' GROUP BY day';
        $this->client->request('GET', '/register/queries');
        $page = $this->client->submitForm('Read it', ['text' => $sql, 'source' => (string) $this->source->id()]);
        self::assertSame(['day', 'top'], $page->filter('.query-fields tbody th')->each(static fn ($cell): string => $cell->text()));
        self::assertSame('decimal(6,2)', $page->filter('.query-fields tr:nth-child(2) td .code')->first()->text());
        self::assertSame(0, self::scalar('SELECT COUNT(*) FROM kept_query'));

        $form = $page->selectButton('Keep it')->form();
        $form['name'] = '';
        $this->client->submit($form);
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('.answer.bad', 'Say in up to 120 characters');
        self::assertSame($sql, $this->client->getCrawler()->filter('textarea')->text());
        $this->client->submitForm('Keep it', ['name' => 'The highest of each day']);
        self::assertResponseRedirects();
        $this->client->followRedirect();
        self::assertSelectorTextContains('h1', 'The highest of each day');
        self::assertSelectorTextContains('.steps', 'One row for each different value of');
        $this->client->request('GET', '/register/queries');
        self::assertSelectorTextContains('.queries', 'The highest of each day');
    }

    public function testAFileIsReadAsItsTextAndWhatIsNoTextIsRefused(): void
    {
        self::apply($this->source, self::rivers());
        $path = (string) tempnam(sys_get_temp_dir(), 'fasti');
        file_put_contents($path, "\xEF\xBB\xBFSELECT day\r\nFROM reading -- l\xC3\xA4uft");
        $form = $this->client->request('GET', '/register/queries')->selectButton('Read it')->form(['source' => (string) $this->source->id()]);
        $form['file'] = $path;
        $page = $this->client->submit($form);
        self::assertSame("SELECT day\nFROM reading -- läuft", $page->filter('textarea')->text(null, false));
        self::assertSame(['Take reading'], $page->filter('.steps b')->each(static fn ($step): string => $step->text()));

        file_put_contents($path, "PK\x03\x04\0\0\xff\xfe");
        $form['file'] = $path;
        $this->client->submit($form);
        unlink($path);
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('.answer.bad', 'not a text in UTF-8');
    }

    public function testAQueryThatIsTooLongToKeepReadingIsRefusedInWords(): void
    {
        self::apply($this->source, self::rivers());
        $this->client->request('GET', '/register/queries');
        $this->client->submitForm('Read it', [
            'text' => 'SELECT '.implode(' + ', array_fill(0, 160000, 'day')).' FROM reading', 'source' => (string) $this->source->id(),
        ]);

        self::assertSelectorTextContains('.not-understood', 'more than 150,000 names and words');
    }

    public function testWhatIsWrittenOfAQuerysPurposeStaysWhenItIsReadAgain(): void
    {
        self::apply($this->source, self::rivers());
        $this->client->request('GET', '/register/queries');
        $this->client->submitForm('Read it', ['text' => 'SELECT day FROM reading', 'source' => (string) $this->source->id()]);
        $page = $this->client->submitForm('Read it', ['text' => 'SELECT value FROM reading', 'name' => 'Values of all days']);

        self::assertSame('Values of all days', $page->filter('input[name=name]')->attr('value'));
    }

    public function testWithoutASourceThereIsNothingToReadAQueryAgainst(): void
    {
        self::db()->executeStatement('DELETE FROM connection');
        self::db()->executeStatement('DELETE FROM source');
        $page = $this->client->request('GET', '/register/queries');

        self::assertSelectorTextContains('.empty', 'No query can be read yet');
        self::assertSame(0, $page->filter('textarea')->count());
    }

    public function testAQueryThatIsNoneIsSaidWithItsPlaceAndStaysInItsBox(): void
    {
        self::apply($this->source, self::rivers());
        $this->client->request('GET', '/register/queries');
        $page = $this->client->submitForm('Read it', ['text' => "SELECT day\nFROM reading WHERE", 'source' => (string) $this->source->id()]);

        self::assertSelectorTextContains('.not-understood', 'A value was expected, but the statement ends there at line 2, column 19');
        self::assertSame("SELECT day\nFROM reading WHERE", $page->filter('textarea')->text(null, false));
        $this->client->submitForm('Read it', ['text' => '   ']);
        self::assertResponseStatusCodeSame(422);
        self::assertSelectorTextContains('.answer.bad', 'Paste a query or hand in a file with one.');
    }

    /** @return list<int> */
    private static function numbers(string $sql): array
    {
        return array_values(array_map(intval(...), array_filter(self::db()->fetchFirstColumn($sql), is_numeric(...))));
    }

    /** @return list<string> titles of the open findings of a check */
    private function findings(string $check): array
    {
        return array_values(
            array_filter(
                self::db()->fetchFirstColumn('SELECT title FROM finding WHERE check_name = ? AND ended_at IS NULL ORDER BY title', [$check]),
                is_string(...),
            ),
        );
    }

    private function write(string $topic, int $id, string $property, string $before, string $after): void
    {
        self::get(Texts::class)->save($this->steward, $topic, $id, $property, $before, $after, 'sitting');
    }

    /** Readings, a view over them and one over that. */
    private static function rivers(string $type = 'decimal(6,2)'): Catalog
    {
        return Made::catalog(
            Made::table('reading', ['day' => 'date', 'value' => $type.'?', 'flag' => 'char(1)']),
            new Table(
                'main',
                'day_mean',
                TableType::View,
                '',
                [new Column('day', 'date', false), new Column('mean', 'decimal(10,6)')],
                definition: "SELECT day, avg(value) AS mean FROM reading WHERE flag = 'G' GROUP BY day",
            ),
            new Table(
                'main',
                'month_mean',
                TableType::View,
                '',
                [new Column('highest', 'decimal(10,6)')],
                definition: 'SELECT max(mean) AS highest FROM day_mean',
            ),
        );
    }
}
