<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\CatalogArray;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\FromArray;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class CatalogArrayTest extends TestCase
{
    public function testWhatIsWrittenAsJsonIsReadBackEqual(): void
    {
        $table = Made::everything();
        $json = json_encode(CatalogArray::table($table), \JSON_THROW_ON_ERROR);
        $data = json_decode($json, true);
        self::assertIsArray($data);

        self::assertEquals($table, FromArray::table($data));
    }

    public function testDamagedDataIsReadAsNothingKnown(): void
    {
        $table = FromArray::table(['name' => 7, 'columns' => ['x', ['name' => 'a']], 'primaryKey' => ['columns' => []], 'foreignKeys' => [['columns' => ['a'], 'references' => ['columns' => ['b', 'c']]]]]);

        self::assertSame('', $table->name);
        self::assertCount(1, $table->columns);
        self::assertNull($table->primaryKey);
        self::assertSame([], $table->foreignKeys);
    }

    public function testTheFingerprintFollowsEveryPartOfTheStructureAndNoFigure(): void
    {
        $before = Made::everything();
        $data = CatalogArray::table($before);
        $with = static fn (string $member, mixed $value): string => CatalogArray::fingerprint(FromArray::table([$member => $value] + $data));

        self::assertSame(CatalogArray::fingerprint($before), $with('rowEstimate', 1));
        self::assertSame(CatalogArray::fingerprint($before), $with('sizeBytes', 1));
        foreach (['comment' => 'other', 'columns' => [], 'primaryKey' => null, 'uniqueKeys' => [], 'foreignKeys' => [], 'indexes' => [], 'checks' => [], 'triggers' => [], 'definition' => 'x', 'kind' => 'view'] as $member => $value) {
            self::assertNotSame(CatalogArray::fingerprint($before), $with($member, $value), $member);
        }
    }

    public function testAForeignKeyPairsAsManyColumnsAsItRefersTo(): void
    {
        $this->expectExceptionMessage('pairs 2 columns with 1');
        new ForeignKey('k', ['a', 'b'], new Reference('s', 't', ['a']));
    }

    public function testAColumnIsFoundByItsExactName(): void
    {
        $table = new Table('s', 't', \Fasti\Core\Catalog\TableType::Table, columns: [new Column('Id', 'int'), new Column('id', 'text')]);

        self::assertSame('text', $table->column('id')?->type);
        self::assertNull($table->column('ID'));
    }
}
