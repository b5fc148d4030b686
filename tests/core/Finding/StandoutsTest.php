<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Finding;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Check\ReservedWord;
use Fasti\Core\Finding\Check\SameNameOtherType;
use Fasti\Core\Finding\Check\Unjoined;
use Fasti\Core\Finding\Check\UnusualType;
use Fasti\Core\Finding\Check\WithoutComment;
use Fasti\Core\Finding\Check\WithoutKey;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Standouts;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

/** @phpstan-import-type Group from Standouts */
final class StandoutsTest extends TestCase
{
    public function testAWellKeptCatalogHasNone(): void
    {
        self::assertSame(
            [],
            self::byCheck(Made::table('station', [], [], 'Sites'), Made::table('reading', ['station_id' => 'int'], ['station_id' => 'station'], 'Values')),
        );
    }

    public function testEachIsFoundWhereItIs(): void
    {
        $found = self::byCheck(
            Made::table('station', ['code' => 'char(6)'], [], 'Sites'),
            Made::table('reading', ['station_id' => 'int', 'code' => 'int', 'raw' => 'tinyblob'], ['station_id' => 'station'], 'Values'),
            Made::table('order', [], [], 'Orders'),
            new Table('main', 'loose', TableType::Table, '', [new Column('line', 'int')]),
            new Table('main', 'seen', TableType::View, '', [new Column('line', 'int')]),
        );

        self::assertSame(['loose'], self::tables($found['no-primary-key']));
        self::assertSame(['order', 'loose'], self::tables($found['unjoined']));
        self::assertSame(['order'], self::tables($found['reserved-word']));
        self::assertSame(['loose'], self::tables($found['no-comment']));
        self::assertSame('raw', $found['unusual-type']['findings'][0]->field);
        self::assertSame('1 table has no primary key', $found['no-primary-key']['title']);
        self::assertStringContainsString('“code” is char(6)', $found['same-name-other-type']['title']);
    }

    public function testWhatAsksForAttentionComesFirst(): void
    {
        $found = array_keys(self::byCheck(
            Made::table('order', ['raw' => 'tinyblob'], [], 'Orders'),
            new Table('main', 'loose', TableType::Table, '', [new Column('line', 'int')]),
        ));

        self::assertLessThan(array_search('unusual-type', $found, true), array_search('reserved-word', $found, true));
        self::assertLessThan(array_search('no-comment', $found, true), array_search('no-primary-key', $found, true));
    }

    public function testSizesOfTheSameSortDoNotCountAsOtherTypes(): void
    {
        $found = self::byCheck(
            Made::table('a', ['n' => 'int(11)', 't' => 'varchar(10)'], [], 'x'),
            Made::table('b', ['n' => 'bigint(20) unsigned', 't' => 'char(3)', 'a_id' => 'int'], ['a_id' => 'a'], 'x'),
        );

        self::assertArrayNotHasKey('same-name-other-type', $found);
    }

    /** @return array<string, Group> */
    private static function byCheck(Table ...$tables): array
    {
        /** @var list<CatalogCheck> $checks */
        $checks = [new WithoutKey(), new WithoutComment(), new ReservedWord(), new Unjoined(), new UnusualType(), new SameNameOtherType()];
        $found = [];
        foreach ((new Standouts($checks))->of(Made::catalog(...$tables)) as $group) {
            $found[$group['check']->name()] = $group;
        }

        return $found;
    }

    /**
     * @param Group $group
     *
     * @return list<string>
     */
    private static function tables(array $group): array
    {
        return array_map(static fn (Finding $finding): string => $finding->place->name, $group['findings']);
    }
}
