<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Wording;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\ColumnWords;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;
use Fasti\Core\Wording\TypeWords;
use Fasti\Core\Wording\Unit;
use Fasti\Core\Wording\Units;
use Fasti\Tests\Core\Golden\Snapshot;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** Words, letter for letter, at the edges of each rule. */
final class ExactTest extends TestCase
{
    #[TestWith(['0', '0'])]
    #[TestWith(['999', '999'])]
    #[TestWith(['1000', '1,000'])]
    #[TestWith(['1234567.891', '1,234,567.891'])]
    #[TestWith(['-9999.99', '−9,999.99'])]
    #[TestWith(['-0.5', '−0.5'])]
    #[TestWith(['12345678901234567890', '12,345,678,901,234,567,890'])]
    public function testAFigure(string $number, string $said): void
    {
        self::assertSame($said, Amount::decimal($number));
    }

    #[TestWith([0, '0 bytes'])]
    #[TestWith([1023, '1023 bytes'])]
    #[TestWith([1024, '1.0 KB'])]
    #[TestWith([1536, '1.5 KB'])]
    #[TestWith([10239, '10.0 KB'])]
    #[TestWith([10240, '10 KB'])]
    #[TestWith([1048575, '1,024 KB'])]
    #[TestWith([1048576, '1.0 MB'])]
    #[TestWith([1073741824, '1.0 GB'])]
    #[TestWith([1099511627776, '1.0 TB'])]
    #[TestWith([12094627905536, '11 TB'])]
    public function testASize(int $bytes, string $said): void
    {
        self::assertSame($said, Amount::bytes($bytes));
    }

    #[TestWith([0, 10, 0])]
    #[TestWith([-1, 10, 0])]
    #[TestWith([1, 0, 0])]
    #[TestWith([1, 1000, 1])]
    #[TestWith([1, 3, 33])]
    #[TestWith([2, 3, 67])]
    #[TestWith([999, 1000, 99])]
    #[TestWith([10, 10, 100])]
    #[TestWith([11, 10, 100])]
    public function testAShare(int $part, int $whole, int $percent): void
    {
        self::assertSame($percent, Amount::percent($part, $whole));
    }

    #[TestWith([1, 'table', '1 table'])]
    #[TestWith([0, 'table', '0 tables'])]
    #[TestWith([2000, 'entry', '2,000 entries'])]
    #[TestWith([2, 'status', '2 statuses'])]
    public function testAnAmountOfThings(int $number, string $noun, string $said): void
    {
        self::assertSame($said, Amount::of($number, $noun));
    }

    #[TestWith(['station', 'stations'])]
    #[TestWith(['person', 'people'])]
    #[TestWith(['woman', 'women'])]
    #[TestWith(['city', 'cities'])]
    #[TestWith(['day', 'days'])]
    #[TestWith(['box', 'boxes'])]
    #[TestWith(['dish', 'dishes'])]
    #[TestWith(['branch', 'branches'])]
    #[TestWith(['class', 'classes'])]
    #[TestWith(['analysis', 'analyses'])]
    #[TestWith(['index', 'indexes'])]
    #[TestWith(['half', 'halves'])]
    #[TestWith(['contact person', 'contact people'])]
    public function testANounBothWays(string $one, string $many): void
    {
        self::assertSame($many, Noun::plural($one));
        self::assertSame($one, Noun::singular($many));
        self::assertSame($one, Noun::singular($one));
    }

    public function testNounsAreOneAndSeveralAndStayWhatTheyAre(): void
    {
        $nouns = ['alias aliases', 'axis axes', 'cache caches', 'size sizes', 'prize prizes', 'hero heroes', 'shelf shelves', 'leaf leaves', 'lens lenses',
            'gas gases', 'bus buses', 'quiz quizzes', 'matrix matrices', 'index indexes', 'address addresses', 'process processes', 'canvas canvases',
            'campus campuses', 'criterion criteria', 'parenthesis parentheses', 'database databases', 'response responses', 'use uses', 'clause clauses',
            'knife knives', 'headache headaches', 'url urls', 'pdf pdfs', 'news news', 'house houses', 'movie movies', 'atlas atlases', 'diagnosis diagnoses'];
        foreach ($nouns as $noun) {
            [$one, $many] = explode(' ', $noun);
            self::assertSame([$one, $one, $many, $many], [Noun::singular($many), Noun::singular($one), Noun::plural($one), Noun::plural($many)], $noun);
        }
        foreach (['river crs', 'CRS', 'os', 'DNS', 'gps'] as $short) {
            self::assertSame($short, Noun::singular($short), 'a short form is no plural');
        }
        self::assertSame('index', Noun::singular('indices'));
    }

    public function testArticlesGoByTheSound(): void
    {
        foreach (['a usage', 'a user', 'an hour', 'an id', 'a uuid', 'an fk', 'a pk', 'an XML file', 'a unit', 'an unidentified row', 'a one-off', 'a European',
            'an honour', 'an SQL view', 'an LDAP entry', 'a URL', 'an API key', 'an umbrella', 'a utility', 'a union', 'an 8', 'a 9',
            'a DNS record'] as $said) {
            self::assertSame($said, Noun::withArticle(explode(' ', $said, 2)[1]));
        }
    }

    #[TestWith(['species', 'species', 'species'])]
    #[TestWith(['fish', 'fish', 'fish'])]
    #[TestWith(['status', 'statuses', 'status'])]
    #[TestWith(['history', 'histories', 'history'])]
    #[TestWith(['table 2', 'table 2 rows', 'table 2'])]
    #[TestWith(['bonus', 'bonuses', 'bonus'])]
    #[TestWith(['axis', 'axes', 'axis'])]
    public function testANounThatIsOdd(string $one, string $many, string $again): void
    {
        self::assertSame($many, Noun::plural($one));
        self::assertSame($again, Noun::singular($one));
    }

    #[TestWith(['statuses', 'status'])]
    #[TestWith(['bonuses', 'bonus'])]
    #[TestWith(['houses', 'house'])]
    #[TestWith(['causes', 'cause'])]
    #[TestWith(['gas', 'gas'])]
    #[TestWith(['ties', 'tie'])]
    #[TestWith(['movies', 'movie'])]
    public function testAPluralIsBroughtBack(string $many, string $one): void
    {
        self::assertSame($one, Noun::singular($many));
    }

    #[TestWith(['apple', 'an apple', 'An apple'])]
    #[TestWith(['station', 'a station', 'A station'])]
    #[TestWith(['hour', 'an hour', 'An hour'])]
    #[TestWith(['honest broker', 'an honest broker', 'An honest broker'])]
    #[TestWith(['heir', 'an heir', 'An heir'])]
    #[TestWith(['user', 'a user', 'A user'])]
    #[TestWith(['unit', 'a unit', 'A unit'])]
    #[TestWith(['uniform price', 'a uniform price', 'A uniform price'])]
    #[TestWith(['uninhabited place', 'an uninhabited place', 'An uninhabited place'])]
    #[TestWith(['one-way street', 'a one-way street', 'A one-way street'])]
    #[TestWith(['URI', 'a URI', 'A URI'])]
    #[TestWith(['urn', 'an urn', 'An urn'])]
    #[TestWith(['European site', 'a European site', 'A European site'])]
    #[TestWith(['x1 setting', 'an x1 setting', 'An x1 setting'])]
    #[TestWith(['order', 'an order', 'An order'])]
    public function testTheArticleFollowsTheSound(string $noun, string $small, string $capital): void
    {
        self::assertSame($small, Noun::withArticle($noun));
        self::assertSame($capital, Noun::withArticle($noun, true));
    }

    /** @param list<string> $words */
    #[TestWith(['opened_on', ['opened', 'on'], 'openedon', 'Opened on'])]
    #[TestWith(['openedOn', ['opened', 'on'], 'openedon', 'Opened on'])]
    #[TestWith(['OPENED-ON', ['opened', 'on'], 'openedon', 'Opened on'])]
    #[TestWith(['HTTPPort2', ['http', 'port', '2'], 'httpport2', 'Http port 2'])]
    #[TestWith(['x2y', ['x', '2', 'y'], 'x2y', 'X 2 y'])]
    #[TestWith(['größeDerFläche', ['größe', 'der', 'fläche'], 'größederfläche', 'Größe der fläche'])]
    #[TestWith(['__', [], '', '__'])]
    #[TestWith(['', [], '', ''])]
    #[TestWith(['élan vital', ['élan', 'vital'], 'élanvital', 'Élan vital'])]
    public function testAnIdentifierIsTakenApart(string $identifier, array $words, string $folded, string $name): void
    {
        self::assertSame([$words, $folded, $name], [Naming::words($identifier), Naming::folded($identifier), Naming::asName($identifier)]);
    }

    public function testTypesInWords(): void
    {
        foreach ([
            'whole number' => TypeWords::whole(64, false), 'whole number, 0 or more' => TypeWords::whole(64, true),
            'whole number, up to 4.29 billion' => TypeWords::whole(32, true), 'whole number, to ±2.14 billion' => TypeWords::whole(32, false),
            'whole number, −128 to 127' => TypeWords::whole(8, false), 'whole number, 0 to 255' => TypeWords::whole(8, true),
            'whole number, −32,768 to 32,767' => TypeWords::whole(16, false), 'number, −9,999.99 to 9,999.99' => TypeWords::number(6, 2, false),
            'number, 0 to 9,999.99' => TypeWords::number(6, 2, true), 'whole number, −999 to 999' => TypeWords::number(3, 0, false),
            'number, −0.99 to 0.99' => TypeWords::number(2, 5, false), 'number, 13 digits and 2 decimals' => TypeWords::number(15, 2, false),
            'whole number, 0 to 999,999,999,999' => TypeWords::number(12, 0, true),
            'number, 13 digits and 1 decimal, not negative' => TypeWords::number(14, 1, true),
            'whole number, 13 digits' => TypeWords::number(13, 0, false), 'text' => TypeWords::text(null), 'text, up to 1 character' => TypeWords::text(1),
            'text, up to 2,000 characters' => TypeWords::text(2000), '1 character' => TypeWords::fixedText(1),
            'text of 2 characters' => TypeWords::fixedText(2),
            '' => TypeWords::fraction(0), ', to the millisecond' => TypeWords::fraction(3), ', to the microsecond' => TypeWords::fraction(6),
            ', to 1 decimal of a second' => TypeWords::fraction(1), 'one of a, “”' => TypeWords::members(['a', ''], false),
            'any of a, b, c, d, e, f' => TypeWords::members(['a', 'b', 'c', 'd', 'e', 'f'], true),
            'one of a, b, c, d, e, f and 2 more' => TypeWords::members(['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'], false),
        ] as $said => $is) {
            self::assertSame($said, $is);
        }
        self::assertSame(['9999.99', '0.99', '9', '0', '999'], [
            TypeWords::greatest(6, 2), TypeWords::greatest(2, 2), TypeWords::greatest(1, 0), TypeWords::greatest(0, 0), TypeWords::greatest(3, 0),
        ]);
    }

    public function testWhatElseThereIsToSayOfAColumn(): void
    {
        self::assertSame([], ColumnWords::of(new Column('a', 'int')));
        self::assertSame(['required', 'unique', 'numbered by the database'], ColumnWords::of(new Column('a', 'int', false, '7', autoNumbered: true), true));
        self::assertSame(
            ['computed as a * 2', 'sorted as nocase'],
            ColumnWords::of(new Column('a', 'int', generated: new Generated('a * 2', true), collation: 'nocase')),
        );
        self::assertSame(['computed as a * 2 when read', 'set when the row changes'], ColumnWords::of(
            new Column('a', 'int', generated: new Generated('a * 2', false), onUpdate: 'now()'),
        ));
        foreach ([
            'CURRENT_TIMESTAMP' => 'set when the row is made', 'now(3)' => 'set when the row is made', 'current_timestamp(6)' => 'set when the row is made',
            'now() + 1' => 'now() + 1 unless given', "''" => 'empty text unless given', "'it''s'" => "it's unless given",
            "'a' || 'b'" => "'a' || 'b' unless given",
            '0' => '0 unless given', 'xnow()' => 'xnow() unless given',
        ] as $default => $said) {
            self::assertSame($said, ColumnWords::default((string) $default));
        }
    }

    public function testUnitsAreKnownBySignByWordAndAtTheEndOfNames(): void
    {
        $lines = array_map(static fn (Unit $unit): string => "$unit->symbol $unit->plural $unit->measure ".Snapshot::figure($unit->factor, 12), Units::all());
        foreach (Units::all() as $unit) {
            self::assertSame($unit->symbol, Units::named($unit->symbol)?->symbol);
            self::assertSame($unit->symbol, Units::named(" $unit->plural ")?->symbol);
            self::assertSame($unit->symbol, Units::inText("How much it is, in $unit->plural.")?->symbol);
            self::assertSame($unit->measure, Units::inText("How much [$unit->symbol]")?->measure);
        }
        foreach ([
            'depth_cm', 'cm', 'weight_kg', 'area_sqm', 'flow_m3_s', 'height_m', 'name_m', 'rate_h', 'age_h', 'wait_s', 'id_s', 'temp_c', 'grade_c',
            'speed_km_h',
            'price_eur', 'share_pct', 'volt_v', 'pages_v', 'duration_min', 'level_min', 'ph', 'water_ph', 'load_t', 'x_t', 'battery_mv', 'uptime_d'] as $name) {
            $found = Units::atEnd(explode('_', $name));
            $lines[] = "$name: ".(null === $found ? 'none' : $found[0]->symbol.' of '.$found[1]);
        }
        foreach ([
            'in cm', 'in whole metres', 'in full hours', 'unit: kg', 'unit kg', 'height (m)', 'in m/s', 'in m²', 'in money', 'in main', '[ °C ]', 'in',
            'begin km',
        ] as $text) {
            $lines[] = "“{$text}”: ".(Units::inText($text)->symbol ?? 'none');
        }
        foreach (['km²', 'square kilometres', 'kilometre', 'KILOMETRES', 'furlong', '', 'square kilometre', 'L', 'l', 'mm', 'MM'] as $written) {
            $lines[] = "$written: ".(Units::named($written)->symbol ?? 'none');
        }

        Snapshot::same('units', $lines);
    }

    public function testLongTextsAreTakenApartAndNotKept(): void
    {
        $text = str_repeat('openedOn ', 60);
        $before = memory_get_usage();
        for ($i = 0; $i < 300; ++$i) {
            self::assertCount(121, Naming::words($text.$i));
        }

        self::assertLessThan(2_000_000, memory_get_usage() - $before);
    }
}
