<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Survey;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Dangling;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class EdgesTest extends TestCase
{
    #[TestWith(['station', 'station', true])]
    #[TestWith(['STATION', 'station', true])]
    #[TestWith(['stat*', 'station', true])]
    #[TestWith(['*tion', 'station', true])]
    #[TestWith(['st?tion', 'station', true])]
    #[TestWith(['st?ation', 'station', false])]
    #[TestWith(['stat', 'station', false])]
    #[TestWith(['a.station', 'station', true])]
    #[TestWith(['b.station', 'station', false])]
    #[TestWith(['a.*', 'station', true])]
    #[TestWith(['*.station', 'station', true])]
    #[TestWith(['stat+', 'stat+', true])]
    #[TestWith(['stat+', 'statt', false])]
    #[TestWith(['x(y)', 'x(y)', true])]
    #[TestWith(["two\nlines", "two\nlines", true])]
    #[TestWith(['größe', 'GRÖSSE', false])]
    #[TestWith(['größe', 'GRÖßE', true])]
    public function testAPatternTakesANameOrAPlace(string $pattern, string $name, bool $taken): void
    {
        self::assertSame($taken, (new Choice([], [$pattern]))->takes('a', $name));
        self::assertSame(!$taken, (new Choice([], [], [$pattern]))->takes('a', $name));
        self::assertFalse((new Choice([], [$pattern], [$pattern]))->takes('a', $name), 'What is left out is left out.');
    }

    public function testSchemasAreTakenByTheirWholeName(): void
    {
        $choice = new Choice(['a', 'B']);

        self::assertSame([true, false, true], [$choice->takesSchema('a'), $choice->takesSchema('b'), $choice->takesSchema('B')]);
        self::assertTrue((new Choice())->takesSchema('anything'));
        self::assertFalse($choice->takes('c', 'station'));
        self::assertTrue($choice->takes('a', 'station'));
    }

    public function testAnInventoryCountsKindsAndKnowsWhatIsChosen(): void
    {
        $inventory = new Inventory('x', ['a' => ['t' => 'table', 'v' => 'view', 'm' => 'materialized view', 'c' => 'collection'], 'b' => ['t' => 'table']]);

        self::assertSame([2, 2, 1], [$inventory->tables(), $inventory->views(), $inventory->collections()]);
        self::assertSame(['a' => ['v' => 'view']], $inventory->chosen(new Choice([], ['v'])));
        self::assertSame(['a' => ['t' => 'table'], 'b' => ['t' => 'table']], $inventory->chosen(new Choice([], ['t'])));
        self::assertSame([], $inventory->chosen(new Choice(['z'])));
    }

    public function testAReferenceToWhatIsNotThereIsSaidOnce(): void
    {
        $leads = static fn (string $schema, string $to): ForeignKey => new ForeignKey(null, ['a'], new Reference($schema, $to, ['id']));
        $table = new Table('S', 'reading', TableType::Table, columns: [new Column('a', 'int')], foreignKeys: [
            $leads('s', 'STATION'), $leads('s', 'gone'), $leads('s', 'gone'), $leads('elsewhere', 'gone'),
        ]);

        self::assertSame(
            ['reading refers to a table “s.gone” that is not there.'],
            Dangling::notes([$table], new Inventory('', ['S' => ['reading' => 'table', 'station' => 'table']])),
        );
        self::assertSame([], Dangling::notes([$table], new Inventory('', [])));
    }

    public function testAnErrorSaysWhatAndWhatToDo(): void
    {
        self::assertSame('It is gone. Look for it.', (new SourceError('It is gone.', 'Look for it.'))->inWords());
        self::assertSame('It is gone.', (new SourceError('It is gone.', ''))->inWords());
        self::assertSame(
            ['files', '/x', 'mysql'],
            [Target::files('/x', 'mysql')->engine, Target::files('/x', 'mysql')->path, Target::files('/x', 'mysql')->dialect],
        );
    }
}
