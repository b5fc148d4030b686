<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Finding;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Check\AlwaysEmpty;
use Fasti\Core\Finding\Check\Constant;
use Fasti\Core\Finding\Check\LeadsWithoutIndex;
use Fasti\Core\Finding\Check\MixedNaming;
use Fasti\Core\Finding\Check\NearLimit;
use Fasti\Core\Finding\Check\NeverEmpty;
use Fasti\Core\Finding\Check\NotAllowed;
use Fasti\Core\Finding\Check\RepeatedRows;
use Fasti\Core\Finding\Check\SingularAndPlural;
use Fasti\Core\Finding\Check\StandIn;
use Fasti\Core\Finding\Check\TimeNamedText;
use Fasti\Core\Finding\Check\TypeInText;
use Fasti\Core\Finding\Check\TypesDifferAcrossJoin;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ChecksTest extends TestCase
{
    public function testNamesInAnotherStyleAreFoundAgainstTheRest(): void
    {
        $usual = Made::table('barrier_survey', ['surveyed_on' => 'date', 'made_by' => 'int', 'note_text' => 'text']);
        self::assertSame([], self::of(new MixedNaming(), $usual, Made::table('lab')));
        $found = self::of(new MixedNaming(), $usual, Made::table('sighting', ['speciesCode' => 'int']));
        self::assertSame(['sighting: speciesCode is not written as most names are, in small letters with underscores'], $found);
    }

    public function testAFewPluralsAmongSingularsAreFound(): void
    {
        $tables = array_map(static fn (string $name): Table => Made::table($name), ['station', 'reading', 'visit', 'person', 'series', 'status', 'units']);
        self::assertSame(['units: A plural as name, while most tables of main are named in the other way'], self::of(new SingularAndPlural(), ...$tables));
        self::assertSame([], self::of(new SingularAndPlural(), Made::table('stations'), Made::table('visits'), Made::table('series')));
        self::assertSame([], self::of(new SingularAndPlural(), Made::table('stations'), Made::table('visit')), 'Half and half is no rule.');
    }

    public function testAJoinWithoutAnIndexIsFoundUnlessAKeyHasIt(): void
    {
        $to = new Reference('main', 'station', ['id']);
        $reading = static fn (Index ...$indexes): Table => new Table(
            'main', 'reading', TableType::Table, '', [new Column('id', 'int'), new Column('station_id', 'int')], new Key(null, ['id']),
            foreignKeys: [new ForeignKey('f', ['station_id'], $to)], indexes: array_values($indexes), storage: 'InnoDB',
        );
        self::assertSame(['reading.station_id: No index begins with station_id, which leads to station'], self::of(new LeadsWithoutIndex(),
            Made::table('station'), $reading()));
        self::assertSame([], self::of(new LeadsWithoutIndex(), Made::table('station'), $reading(new Index('i', [new IndexPart('station_id')]))));
        self::assertCount(1, self::of(new LeadsWithoutIndex(), Made::table('station'), $reading(new Index('i', [new IndexPart('id'),
            new IndexPart('station_id')]))));
    }

    #[DataProvider('ends')]
    public function testTypesAtBothEndsOfAJoin(string $near, string $far, bool $found): void
    {
        $station = new Table('main', 'station', TableType::Table, '', [new Column('code', $far)], new Key(null, ['code']));
        $reading = new Table('main', 'reading', TableType::Table, '', [new Column('stn', $near)], foreignKeys: [new ForeignKey('f', ['stn'],
            new Reference('main', 'station', ['code']))]);
        self::assertCount($found ? 1 : 0, self::of(new TypesDifferAcrossJoin(), $station, $reading));
    }

    /** @return iterable<string, array{string, string, bool}> */
    public static function ends(): iterable
    {
        yield 'the same' => ['char(6)', 'char(6)', false];
        yield 'a number and a text' => ['int(11)', 'char(6)', true];
        yield 'room for less' => ['varchar(4)', 'char(6)', true];
        yield 'room for more' => ['varchar(60)', 'char(6)', false];
        yield 'fewer bits' => ['smallint', 'int', true];
    }

    public function testADayThatIsKeptAsTextByItsName(): void
    {
        $found = self::of(new TimeNamedText(), Made::table('permit', ['valid_until' => 'varchar(10)', 'issued_on' => 'date', 'note' => 'varchar(10)']));
        self::assertCount(1, $found);
        self::assertStringStartsWith('permit.valid_until', $found[0]);
    }

    /**
     * @param array{values?: int, distinct?: int, least?: string, greatest?: string, frequent?: array<string, int>, frequentOf?: int, likely?: string,
     *     percent?: int, allowed?: string, broken?: ?int, breaking?: array<string, int>} $figures
     */
    #[DataProvider('data')]
    public function testWhatTheDataShows(DataCheck $check, string $type, array $figures, string $says): void
    {
        $nullable = true;
        $table = new Table('main', 't', TableType::Table, '', [new Column('id', 'int(11)', false), new Column('f', $type, $nullable)], new Key(null, ['id']));
        $profile = new TableProfile(1000, 1000, '', ['f' => new FieldProfile(...['rows' => 1000, ...['values' => 1000], ...$figures])], [], null, [], 0.1);
        $found = [...$check->of($table, $profile, Dialects::of('mariadb'))];
        if ('' === $says) {
            self::assertSame([], $found);
        } else {
            self::assertStringContainsString($says, $found[0]->title ?? 'nothing');
        }
    }

    /** @return iterable<string, array{DataCheck, string, array<string, mixed>, string}> */
    public static function data(): iterable
    {
        yield 'empty in all rows' => [new AlwaysEmpty(), 'int(11)', ['values' => 0, 'likely' => 'always empty'], 'empty'];
        yield 'one value that is there' => [new AlwaysEmpty(), 'int(11)', ['values' => 1, 'distinct' => 1], ''];
        yield 'always the same' => [new Constant(), 'int(11)', ['distinct' => 1, 'least' => '7', 'greatest' => '7', 'likely' => 'constant'], '7'];
        yield 'two values' => [new Constant(), 'int(11)', ['distinct' => 2, 'least' => '7', 'greatest' => '8'], ''];
        yield 'may be empty and never is' => [new NeverEmpty(), 'int(11)', ['distinct' => 9], 'empty'];
        yield 'may be empty and is' => [new NeverEmpty(), 'int(11)', ['values' => 990, 'distinct' => 9], ''];
        yield 'at the end of a decimal' => [new NearLimit(), 'decimal(6,2)', ['greatest' => '9999.99', 'least' => '0'], 'its type ends at 9,999.99'];
        yield 'at the end of a whole number' => [new NearLimit(), 'int(11)', ['greatest' => '2147480000', 'least' => '1'], '2,147,483,647'];
        yield 'far from it' => [new NearLimit(), 'int(11)', ['greatest' => '20000', 'least' => '1'], ''];
        yield 'nines' => [new StandIn(), 'decimal(6,2)', ['greatest' => '9999.99', 'least' => '0', 'frequent' => ['9999.99' => 40, '1.00' => 2],
            'frequentOf' => 1000], '9999.99'];
        yield 'the first day of a century' => [new StandIn(), 'date', ['greatest' => '2026-01-01', 'least' => '1900-01-01', 'frequent' => ['1900-01-01' => 9],
            'frequentOf' => 1000], '1900-01-01'];
        yield 'words' => [new StandIn(), 'varchar(20)', ['frequent' => ['n/a' => 30, 'red' => 3], 'frequentOf' => 1000, 'distinct' => 40], 'n/a'];
        yield 'none of those' => [new StandIn(), 'varchar(20)', ['frequent' => ['red' => 30], 'frequentOf' => 1000, 'distinct' => 40], ''];
        yield 'days in a text' => [new TypeInText(), 'varchar(20)', ['likely' => 'date kept as text', 'percent' => 98], 'days (98 %'];
        yield 'not allowed' => [new NotAllowed(), 'char(1)', ['allowed' => 'one of G, S', 'broken' => 312, 'breaking' => ['X' => 312]],
            '312 rows are not “one of G, S”, such as X'];
        yield 'all allowed' => [new NotAllowed(), 'char(1)', ['allowed' => 'one of G, S', 'broken' => 0], ''];
        yield 'nobody looked' => [new NotAllowed(), 'char(1)', ['allowed' => 'one of G, S', 'broken' => null], ''];
    }

    public function testRowsThatRepeatByTheirGrain(): void
    {
        $table = Made::table('survey', ['barrier_id' => 'int', 'made_on' => 'date']);
        $profile = static fn (?int $repeated): TableProfile => new TableProfile(10, 10, '', [], ['barrier_id', 'made_on'], $repeated, [], 0.1);
        self::assertCount(1, [...(new RepeatedRows())->of($table, $profile(3), Dialects::of('mariadb'))]);
        self::assertCount(0, [...(new RepeatedRows())->of($table, $profile(0), Dialects::of('mariadb'))]);
        self::assertCount(0, [...(new RepeatedRows())->of($table, $profile(null), Dialects::of('mariadb'))]);
    }

    /** @return list<string> */
    private static function of(CatalogCheck $check, Table ...$tables): array
    {
        return array_map(
            static fn (Finding $finding): string => $finding->place->name.(null === $finding->field ? '' : '.'.$finding->field).': '.$finding->title,
            iterator_to_array((static fn () => yield from $check->of(Made::catalog(...array_values($tables))))(), false),
        );
    }
}
