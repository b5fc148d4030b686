<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Wording;

use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class WordsTest extends TestCase
{
    /** @param list<string> $words */
    #[TestWith(['opened_on', ['opened', 'on']])]
    #[TestWith(['openedOn', ['opened', 'on']])]
    #[TestWith(['OPENED-ON', ['opened', 'on']])]
    #[TestWith(['Opened on', ['opened', 'on']])]
    #[TestWith(['HTTPPort2', ['http', 'port', '2']])]
    #[TestWith(['reading_2023', ['reading', '2023']])]
    #[TestWith(['größeÜberMeer', ['größe', 'über', 'meer']])]
    #[TestWith(['  ', []])]
    public function testIdentifiersAreTakenApart(string $identifier, array $words): void
    {
        self::assertSame($words, Naming::words($identifier));
    }

    public function testTheSameWordsFoldAlikeInAnyStyle(): void
    {
        self::assertSame(
            ['stationid'],
            array_values(array_unique(array_map(Naming::folded(...), ['station_id', 'StationId', 'STATION-ID', 'station id', 'stationid']))),
        );
        self::assertSame('Barrier survey', Naming::asName('barrier_survey'));
        self::assertSame('$$', Naming::asName('$$'));
    }

    #[TestWith(['station', 'stations'])]
    #[TestWith(['catchment area', 'catchment areas'])]
    #[TestWith(['category', 'categories'])]
    #[TestWith(['day', 'days'])]
    #[TestWith(['box', 'boxes'])]
    #[TestWith(['reach', 'reaches'])]
    #[TestWith(['person', 'people'])]
    #[TestWith(['species', 'species'])]
    #[TestWith(['status', 'statuses'])]
    #[TestWith(['index', 'indexes'])]
    public function testPluralAndBack(string $singular, string $plural): void
    {
        self::assertSame($plural, Noun::plural($singular));
        self::assertSame($singular, Noun::singular($plural));
        self::assertSame($singular, Noun::singular($singular));
    }

    #[TestWith(['station', 'a station'])]
    #[TestWith(['alert', 'an alert'])]
    #[TestWith(['hour', 'an hour'])]
    #[TestWith(['unit', 'a unit'])]
    #[TestWith(['user', 'a user'])]
    #[TestWith(['umbrella', 'an umbrella'])]
    public function testArticles(string $noun, string $with): void
    {
        self::assertSame($with, Noun::withArticle($noun));
    }

    public function testFigures(): void
    {
        self::assertSame('−1,234,567.0800', Amount::decimal('-1234567.0800'));
        self::assertSame('0', Amount::count(0));
        self::assertSame('1 table', Amount::of(1, 'table'));
        self::assertSame('2,000 entries', Amount::of(2000, 'entry'));
        self::assertSame('1.5 KB', Amount::bytes(1536));
        self::assertSame('20 MB', Amount::bytes(20 * 1024 ** 2));
        self::assertSame('12 bytes', Amount::bytes(12));
    }

    public function testAShareSaysAllOnlyForAllAndNoneOnlyForNone(): void
    {
        self::assertSame(99, Amount::percent(99999, 100000));
        self::assertSame(1, Amount::percent(1, 100000));
        self::assertSame(100, Amount::percent(3, 3));
        self::assertSame(0, Amount::percent(0, 0));
    }
}
