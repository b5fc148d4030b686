<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Register;

use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use Fasti\Text\Texts;

final class RegisterTest extends AppTestCase
{
    /** @return list<string> */
    private function names(string $query): array
    {
        return array_values(
            $this->client->request('GET', '/register?'.$query, [], [], ['HTTP_X_REQUESTED_WITH' => 'fetch'])
                ->filter('tbody th a')
                ->each(static fn ($link): string => $link->text()),
        );
    }

    public function testFilters(): void
    {
        $one = $this->source('one');
        self::apply($one, Made::catalog(Made::table('station', ['code' => 'int']), Made::table('Reading'), Made::everything()));
        self::apply($this->source('two'), Made::catalog(Made::table('lab')));
        $oona = $this->signedIn();
        foreach (['id', 'code'] as $field) {
            self::get(Texts::class)->save($oona, FieldTopic::NAME, self::fieldId('station', $field), 'meaning', '', 'x', 's');
        }
        self::get(Texts::class)->save($oona, EntryTopic::NAME, self::entryId('station'), 'meaning', '', 'x', 's');
        self::get(Texts::class)->save($oona, EntryTopic::NAME, self::entryId('Reading'), 'businessName', '', 'Measured value', 's');

        self::assertSame(['lab', 'Odd "name" `with` ünïcode', 'Reading', 'station'], self::sorted($this->names('')));
        self::assertSame(['Reading'], $this->names('q=READ'));
        self::assertSame(['Reading'], $this->names('q=measured'));
        self::assertSame([], $this->names('q=100%25'));
        self::assertSame(['lab'], $this->names('source='.self::scalar("SELECT id FROM source WHERE name = 'two'")));
        self::assertSame(['station'], $this->names('described=yes'));
        self::assertCount(3, $this->names('described=no'));
        self::assertSame([], $this->names('kind=view'));
    }

    /**
     * @param list<string> $names
     *
     * @return list<string>
     */
    private static function sorted(array $names): array
    {
        natcasesort($names);

        return array_values($names);
    }

    public function testPagesGoOnWhereTheLastEnded(): void
    {
        $tables = [];
        for ($i = 0; $i < 230; ++$i) {
            $tables[] = Made::table(\sprintf('t%03d', $i));
        }
        self::apply($this->source(), Made::catalog(...$tables));
        $this->signedIn();
        $seen = $this->names('');
        while (($more = $this->client->getCrawler()->filter('[data-more]'))->count() > 0) {
            $seen = [...$seen, ...$this->names('after='.rawurlencode((string) $more->attr('data-more')))];
        }

        self::assertCount(230, $seen);
        self::assertSame($seen, array_unique($seen));
    }

    public function testAnEmptyRegisterSaysWhatItIsForAndWhatIsNext(): void
    {
        $this->signedIn();
        foreach ([
            '/register' => 'Go to the sources',
            '/sources' => 'Add the first source',
            '/diagrams' => 'Go to the sources',
            '/editions' => 'No edition yet',
        ] as $page => $words) {
            $this->client->request('GET', $page);
            self::assertStringContainsString($words, $this->content(), $page);
        }
    }

    public function testAnEntryWithALongTailIsShownWhole(): void
    {
        $columns = [];
        for ($i = 0; $i < 60; ++$i) {
            $columns['c'.$i.str_repeat('_very_long', 8)] = 'varchar(10)?';
        }
        self::apply($this->source(), Made::catalog(Made::table('wide', $columns)));
        $this->signedIn();
        $crawler = $this->client->request('GET', '/register/'.self::entryId('wide'));

        self::assertCount(61, $crawler->filter('.ledger [data-row]'));
        self::assertSelectorTextContains('.count', '0 of 61 fields');
    }
}
