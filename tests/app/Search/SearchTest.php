<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Search;

use Fasti\Register\Search;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\TestWith;

/** Search by identifier. That by business name and meaning needs committed rows (full-text), so the browser test has it. */
final class SearchTest extends AppTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        self::apply($this->source(), Made::catalog(
            Made::table('station', ['openedOn' => 'date', 'grid_ref' => 'varchar(9)']),
            Made::table('BARRIER-SURVEY', ['Cost "net"' => 'int', '顧客' => 'int', '100%' => 'int']),
            Made::table('reading', ['station_id' => 'int'], ['station_id' => 'station']),
        ));
    }

    /** @return array{list<string>, list<string>} names of entries and of fields */
    private static function found(string $query): array
    {
        $found = self::get(Search::class)->find($query);
        $name = static fn (array $row): string => \is_string($row['name']) ? $row['name'] : '';

        return [array_map($name, $found['entries']), array_map($name, $found['fields'])];
    }

    /**
     * @param list<string> $entries
     * @param list<string> $fields
     */
    #[TestWith(['station', ['station'], ['station_id']])]
    #[TestWith(['tatio', ['station'], ['station_id']])]
    #[TestWith(['STATION_ID', [], ['station_id']])]
    #[TestWith(['stationId', [], ['station_id']])]
    #[TestWith(['opened on', [], ['openedOn']])]
    #[TestWith(['on opened', [], ['openedOn']])]
    #[TestWith(['barrierSurvey', ['BARRIER-SURVEY'], []])]
    #[TestWith(['cost net', [], ['Cost "net"']])]
    #[TestWith(['客', [], ['顧客']])]
    #[TestWith(['%', [], []])]
    #[TestWith(['', [], []])]
    #[TestWith(['zzz', [], []])]
    public function testAnyPartInAnyStyle(string $query, array $entries, array $fields): void
    {
        self::assertSame([$entries, $fields], self::found($query));
    }

    #[TestWith(['staton', 'station'])]
    #[TestWith(['sattion', 'station'])]
    #[TestWith(['readign', 'reading'])]
    #[TestWith(['barirer_survy', 'BARRIER-SURVEY'])]
    public function testASlipIsForgiven(string $query, string $entry): void
    {
        self::assertContains($entry, self::found($query)[0]);
        self::assertNotSame([], self::get(Search::class)->find($query)['meant']);
    }

    public function testWhatMatchesWholeComesFirst(): void
    {
        self::assertSame('id', self::found('id')[1][0]);
    }

    public function testTheListIsServedInGroups(): void
    {
        $this->signedIn();
        $crawler = $this->client->request('GET', '/search?q=station', [], [], ['HTTP_X_REQUESTED_WITH' => 'fetch']);

        self::assertSame(['Entries', 'Fields'], $crawler->filter('h3')->each(static fn ($title): string => $title->text()));
        self::assertStringContainsString('#field-'.self::fieldId('reading', 'station_id'), (string) $crawler->filter('[data-hit]')->last()->attr('href'));
    }
}
