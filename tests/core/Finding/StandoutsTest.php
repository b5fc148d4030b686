<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Finding;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Standouts;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class StandoutsTest extends TestCase
{
    public function testAWellKeptCatalogHasNone(): void
    {
        self::assertSame([], Standouts::of(Made::catalog(Made::table('station', [], [], 'Sites'), Made::table('reading', ['station_id' => 'int'], ['station_id' => 'station'], 'Values'))));
    }

    public function testEachIsFoundWhereItIs(): void
    {
        $found = self::byCheck(
            Made::table('station', ['code' => 'char(6)'], [], 'Sites'),
            Made::table('reading', ['station_id' => 'int', 'code' => 'int', 'raw' => 'longblob'], ['station_id' => 'station'], 'Values'),
            Made::table('order', [], [], 'Orders'),
            new Table('main', 'loose', TableType::Table, '', [new Column('line', 'int')]),
            new Table('main', 'seen', TableType::View, '', [new Column('line', 'int')]),
        );

        self::assertSame(['loose'], self::tables($found['no-primary-key']));
        self::assertSame(['order', 'loose'], self::tables($found['unjoined']));
        self::assertSame(['order'], self::tables($found['reserved-word']));
        self::assertSame(['loose'], self::tables($found['no-comment']));
        self::assertSame([['schema' => 'main', 'table' => 'reading', 'column' => 'raw']], $found['unusual-type']->places);
        self::assertSame('1 table has no primary key', $found['no-primary-key']->title);
        self::assertStringContainsString('“code” is char(6)', $found['same-name-other-type']->title);
    }

    public function testSizesOfTheSameSortDoNotCountAsOtherTypes(): void
    {
        $found = self::byCheck(Made::table('a', ['n' => 'int(11)', 't' => 'varchar(10)'], [], 'x'), Made::table('b', ['n' => 'bigint(20) unsigned', 't' => 'char(3)', 'a_id' => 'int'], ['a_id' => 'a'], 'x'));

        self::assertArrayNotHasKey('same-name-other-type', $found);
    }

    /** @return array<string, Finding> */
    private static function byCheck(Table ...$tables): array
    {
        return array_column(array_map(static fn (Finding $finding): array => [$finding->check, $finding], Standouts::of(Made::catalog(...$tables))), 1, 0);
    }

    /** @return list<string> */
    private static function tables(Finding $finding): array
    {
        return array_column($finding->places, 'table');
    }
}
