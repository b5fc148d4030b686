<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\Pairing;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** On made-up schemas of many tables: every rename is found, and none is invented. */
final class RenamesTest extends TestCase
{
    private const WORDS = [
        'order', 'line', 'price', 'station', 'reading', 'sample', 'visit', 'person', 'unit', 'value', 'code', 'flag', 'note', 'state', 'area', 'depth',
        'weight', 'owner', 'river', 'barrier',
    ];
    private const TYPES = ['varchar(60)', 'int(11)', 'decimal(10,2)', 'datetime', 'char(3)', 'date'];

    #[TestWith([1])]
    #[TestWith([2])]
    #[TestWith([3])]
    #[TestWith([4])]
    public function testEveryRenameIsFoundAndNoneInvented(int $seed): void
    {
        mt_srand($seed);
        $before = $after = $renamed = [];
        for ($i = 0; $i < 120; ++$i) {
            $table = self::made('t_'.$i, mt_rand(6, 20));
            $before[] = $table;
            if (0 === $i % 20) {
                $new = self::word().'_'.self::word().'_new_'.$i;
                $renamed[] = $table->name.' → '.$new;
                $after[] = self::named($table, $new);
            } elseif (7 !== $i % 20) {
                $after[] = $table;
            }
            if (3 === $i % 20) {
                $after[] = self::made('fresh_'.$i, mt_rand(6, 20));
            }
        }
        $found = [];
        foreach (Compare::catalogs(new Catalog('', '', $before), new Catalog('', '', $after)) as $item) {
            self::assertNotSame(Fate::Changed, $item->change);
            if (Fate::Renamed === $item->change) {
                $found[] = $item->before?->name.' → '.$item->after?->name;
            }
        }

        self::assertEqualsCanonicalizing($renamed, $found);
    }

    public function testAWholeSchemaMayMove(): void
    {
        mt_srand(9);
        $before = array_map(static fn (int $i): Table => self::made('t_'.$i, 9), range(1, 400));
        $after = array_map(
            static fn (Table $table): Table => new Table('moved', $table->name, TableType::Table, '', $table->columns, $table->primaryKey),
            $before,
        );
        $drift = Compare::catalogs(new Catalog('', '', $before), new Catalog('', '', $after));

        self::assertSame([Fate::Renamed->value => 400], array_count_values(array_map(static fn ($item): string => $item->change->value, $drift)));
        foreach ($drift as $item) {
            self::assertSame($item->before?->name, $item->after?->name);
        }
    }

    public function testTwoCopiesOfATableAreNotToldApart(): void
    {
        mt_srand(5);
        $table = self::made('sample', 8);
        $drift = Compare::catalogs(new Catalog('', '', [$table]), new Catalog('', '', [self::named($table, 'copy_a'), self::named($table, 'copy_b')]));

        self::assertSame(['new', 'new', 'gone'], array_map(static fn ($item): string => $item->change->value, $drift));
    }

    public function testAPairIsTakenOnlyWhenEachIsTheOthersBest(): void
    {
        self::assertSame([0 => 1], Pairing::mutual([0 => [0 => 0.2, 1 => 0.9], 1 => [0 => 0.4, 1 => 0.5]], 0.45, 0.05));
        self::assertSame([], Pairing::mutual([0 => [0 => 0.8, 1 => 0.78]], 0.5, 0.05));
        self::assertSame([], Pairing::mutual([0 => [0 => 0.8], 1 => [0 => 0.78]], 0.5, 0.05));
        self::assertSame([], Pairing::mutual([0 => [0 => 0.4]], 0.5, 0.05));
        self::assertSame([], Pairing::mutual([], 0.5, 0.05));
    }

    private static function made(string $name, int $width): Table
    {
        $columns = ['id' => new Column('id', 'int(10) unsigned', false), 'name' => new Column('name', 'varchar(80)')];
        while (\count($columns) < $width) {
            $column = self::word().'_'.self::word().'_'.mt_rand(0, 9);
            $columns[$column] ??= new Column($column, self::TYPES[mt_rand(0, 5)]);
        }

        return new Table('main', $name, TableType::Table, '', array_values($columns), new Key(null, ['id']));
    }

    private static function named(Table $table, string $name): Table
    {
        return new Table($table->schema, $name, $table->kind, '', $table->columns, $table->primaryKey);
    }

    private static function word(): string
    {
        return self::WORDS[mt_rand(0, \count(self::WORDS) - 1)];
    }
}
