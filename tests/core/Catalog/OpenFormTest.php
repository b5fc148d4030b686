<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class OpenFormTest extends TestCase
{
    public function testWhatIsWrittenAsJsonIsReadBackEqual(): void
    {
        $table = Made::everything();
        $json = json_encode(OpenForm::of($table), \JSON_THROW_ON_ERROR);
        $data = json_decode($json, true);
        self::assertIsArray($data);

        self::assertEquals($table, OpenForm::read(Table::class, $data));
    }

    public function testDamagedDataIsReadAsNothingKnown(): void
    {
        $table = OpenForm::read(
            Table::class,
            [
                'name' => 7,
                'columns' => ['x', ['name' => 'a']],
                'primaryKey' => ['columns' => []],
                'foreignKeys' => [['columns' => ['a'], 'references' => ['columns' => ['b', 'c']]]],
            ],
        );

        self::assertSame('', $table->name);
        self::assertCount(1, $table->columns);
        self::assertNull($table->primaryKey);
        self::assertSame([], $table->foreignKeys);
    }

    public function testTheFingerprintFollowsEveryPartOfTheStructureAndNoFigure(): void
    {
        $before = Made::everything();
        $data = OpenForm::of($before);
        $with = static fn (string $member, mixed $value): string => OpenForm::fingerprint(OpenForm::read(Table::class, [$member => $value] + $data));

        self::assertSame(OpenForm::fingerprint($before), $with('rowEstimate', 1));
        self::assertSame(OpenForm::fingerprint($before), $with('sizeBytes', 1));
        foreach ([
            'comment' => 'other',
            'columns' => [],
            'primaryKey' => null,
            'uniqueKeys' => [],
            'foreignKeys' => [],
            'indexes' => [],
            'checks' => [],
            'triggers' => [],
            'definition' => 'x',
            'kind' => 'view',
            'planned' => true,
            'virtual' => true,
        ] as $member => $value) {
            self::assertNotSame(OpenForm::fingerprint($before), $with($member, $value), $member);
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
