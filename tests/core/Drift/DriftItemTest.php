<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Drift\ColumnDrift;
use Fasti\Core\Drift\DriftColumn;
use Fasti\Core\Drift\DriftItem;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\TableDrift;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

final class DriftItemTest extends TestCase
{
    private static function renamed(): TableDrift
    {
        return new TableDrift(Fate::Renamed, Made::table('station'), Made::table('gauge'), ['its comment was removed'], [
            new ColumnDrift(Fate::Renamed, new Column('a', 'int'), new Column('b', 'int'), ['it is required now'], 'It has the same type'),
            new ColumnDrift(Fate::Changed, new Column('0', 'int'), new Column('0', 'text'), ['the type was int and is text']),
        ], 'it has the same columns');
    }

    public function testItIsKeptAndReadBackWhole(): void
    {
        $item = self::renamed()->item();
        $kept = json_decode((string) json_encode(OpenForm::of($item)), true);
        self::assertIsArray($kept);

        self::assertEquals($item, DriftItem::read($kept));
        self::assertSame(['change', 'kind', 'schema', 'name', 'from', 'reason', 'words', 'columns'], array_keys($kept));
        self::assertSame($kept, self::renamed()->toArray());
        self::assertSame(['station', 'gauge'], [$item->from?->name, $item->name]);
        self::assertEquals([
            new DriftColumn(Fate::Renamed, 'b', 'a', 'It has the same type', ['it is required now']),
            new DriftColumn(Fate::Changed, '0', words: ['the type was int and is text']),
        ], $item->columns);
        self::assertSame(['a', '0'], array_map(static fn (DriftColumn $column): string => $column->before(), $item->columns));
    }

    public function testWhereATableStoodBefore(): void
    {
        $of = static fn (Fate $fate, ?Place $from = null): ?string => (new DriftItem($fate, 'table', 'main', 'gauge', $from))->before()?->name;

        self::assertNull($of(Fate::New));
        self::assertSame(['gauge', 'gauge', 'gauge'], [$of(Fate::Gone), $of(Fate::Changed), $of(Fate::Back)]);
        self::assertSame('station', $of(Fate::Renamed, new Place('a', 'station')));
    }

    public function testWhatWasAnsweredStandsBesideAllElse(): void
    {
        $item = self::renamed()->item();
        $decided = $item->decided(DriftItem::APART);

        self::assertSame('apart', $decided->decided);
        self::assertEquals(['decided' => ''] + get_object_vars($decided), ['decided' => ''] + get_object_vars($item));
    }

    public function testOneThatSaysNothingOfWhatBecameOfItIsNotRead(): void
    {
        $this->expectExceptionMessage('It is not said what became of it.');
        DriftItem::read(['kind' => 'table', 'name' => 'a', 'change' => 'flown']);
    }
}
