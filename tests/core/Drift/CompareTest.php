<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\Likeness;
use Fasti\Core\Drift\TableDrift;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class CompareTest extends TestCase
{
    public function testNothingChangedGivesNothing(): void
    {
        self::assertSame([], Compare::catalogs(Made::catalog(Made::everything()), Made::catalog(Made::everything())));
    }

    public function testNewGoneChangedAndBackAreTold(): void
    {
        $before = Made::catalog(Made::table('kept', ['a' => 'int(11)']), Made::table('lost', ['weight' => 'int(11)']), Made::table('returns'));
        $after = Made::catalog(Made::table('kept', ['a' => 'bigint(20)']), Made::table('fresh', ['height' => 'date']), Made::table('returns'));

        self::assertSame(['changed kept', 'new fresh', 'back returns', 'gone lost'], self::said(Compare::catalogs($before, $after, ["main\0returns" => true])));
    }

    public function testEveryChangeOfAFieldIsSaidInWords(): void
    {
        $drift = Compare::catalogs(
            Made::catalog(self::of('t', new Column('a', 'varchar(5)', true, "'x'", 'old'), new Column('b', 'int(11)'))),
            Made::catalog(self::of('t', new Column('a', 'varchar(9)', false, null, 'new'), new Column('b', 'int(11)', autoNumbered: true))),
        );
        $words = implode('. ', $drift[0]->columns[0]->words);

        foreach (['the type was varchar(5) and is varchar(9)', 'it is required now', "no default any more (was 'x')", 'the database says “new” of it (was “old”)'] as $said) {
            self::assertStringContainsString($said, $words);
        }
        self::assertSame(['the database numbers it now'], $drift[0]->columns[1]->words);
    }

    public function testKeysJoinsAndChecksOfATableAreCompared(): void
    {
        $before = Made::catalog(Made::table('a', ['b_id' => 'int(11)'], ['b_id' => 'b']), Made::table('b'), Made::table('c'));
        $after = Made::catalog(Made::table('a', ['b_id' => 'int(11)'], ['b_id' => 'c']), self::of('b', new Column('id', 'int(10) unsigned', false, autoNumbered: true)), Made::table('c'));
        $drift = Compare::catalogs($before, $after);

        self::assertSame(['a join leads from b_id to main.c', 'no join leads from b_id to main.b any more'], $drift[0]->words);
        self::assertSame(['it has no primary key any more (was id)'], $drift[1]->words);
    }

    public function testARenamedTableIsToldByItsFieldsAndJoinsFollowIt(): void
    {
        $fields = ['parish' => 'varchar(40)', 'phone' => 'varchar(20)', 'since' => 'date'];
        $drift = Compare::catalogs(
            Made::catalog(Made::table('landowner', $fields), Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'landowner']), Made::table('unit'), Made::table('lab')),
            Made::catalog(Made::table('land_contact', $fields), Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'land_contact']), Made::table('unit'), Made::table('lab')),
        );

        // The permit has changed in nothing but the name of what it leads to.
        self::assertSame(['renamed land_contact'], self::said($drift));
        self::assertStringContainsString('4 of its 4 fields', $drift[0]->reason);
    }

    public function testATableInAnotherSchemaIsTheSame(): void
    {
        $moved = static fn (string $schema): Table => new Table($schema, 'sample', Made::table('sample', ['depth' => 'int(11)', 'taken' => 'date'])->kind, '', Made::table('sample', ['depth' => 'int(11)', 'taken' => 'date'])->columns, new Key(null, ['id']));
        $drift = Compare::catalogs(new Catalog('', '', [$moved('lab'), Made::table('x')]), new Catalog('', '', [$moved('laboratory'), Made::table('x')]));

        self::assertSame(['renamed sample'], self::said($drift));
    }

    public function testTablesThatShareOnlyWhatAllShareAreNotTakenForRenamed(): void
    {
        $usual = ['name' => 'varchar(80)', 'created_at' => 'datetime'];
        $others = array_map(static fn (int $i): Table => Made::table('t'.$i, $usual), range(1, 20));
        $drift = Compare::catalogs(Made::catalog(Made::table('invoice', $usual), ...$others), Made::catalog(Made::table('gauge', $usual), ...$others));

        self::assertSame(['new gauge', 'gone invoice'], self::said($drift));
    }

    /** @return iterable<string, array{list<Column>, list<Column>, list<string>}> */
    public static function fields(): iterable
    {
        $c = static fn (string $name, string $type = 'int(11)', string $comment = ''): Column => new Column($name, $type, comment: $comment);
        $id = $c('id', 'int(10) unsigned');
        yield 'an abbreviation written out' => [[$id, $c('stn_ref'), $c('z')], [$id, $c('station_ref'), $c('z')], ['stn_ref → station_ref']];
        yield 'another name in the same place' => [[$id, $c('opened_on', 'date'), $c('z')], [$id, $c('in_service_from', 'date'), $c('z')], ['opened_on → in_service_from']];
        yield 'the same comment' => [[$id, $c('a1', 'int(11)', 'depth in cm'), $c('z')], [$id, $c('z'), $c('depth_cm', 'int(11)', 'depth in cm')], ['a1 → depth_cm']];
        yield 'a wider type and a like name' => [[$id, $c('note', 'varchar(20)'), $c('z')], [$id, $c('notes', 'varchar(200)'), $c('z')], ['note → notes']];
        yield 'another type is another field' => [[$id, $c('weight'), $c('z')], [$id, $c('weighed', 'date'), $c('z')], []];
        yield 'one dropped, another added at the end' => [[$id, $c('colour', 'varchar(20)'), $c('z')], [$id, $c('z'), $c('parish', 'varchar(20)')], []];
        yield 'two that are equally like' => [[$id, $c('a_code'), $c('b_code'), $c('z')], [$id, $c('x_code'), $c('y_code'), $c('z')], []];
        yield 'two renamed in order' => [[$id, $c('x_pos'), $c('m'), $c('y_pos'), $c('z')], [$id, $c('x_position'), $c('m'), $c('y_position'), $c('z')], ['x_pos → x_position', 'y_pos → y_position']];
    }

    /**
     * @param list<Column> $before
     * @param list<Column> $after
     * @param list<string> $expected
     */
    #[DataProvider('fields')]
    public function testRenamedFieldsAreToldAndNoneIsInvented(array $before, array $after, array $expected): void
    {
        $found = [];
        foreach (Compare::catalogs(Made::catalog(self::of('t', ...$before)), Made::catalog(self::of('t', ...$after)))[0]->columns as $column) {
            if (Fate::Renamed === $column->change) {
                $found[] = $column->before?->name.' → '.$column->after?->name;
                self::assertNotSame('', $column->reason);
            }
        }

        self::assertSame($expected, $found);
    }

    public function testTheDataSpeaksForARenameOrAgainstIt(): void
    {
        $before = Made::catalog(self::of('t', new Column('id', 'int'), new Column('colour', 'varchar(20)'), new Column('z', 'int')));
        $after = Made::catalog(self::of('t', new Column('id', 'int'), new Column('z', 'int'), new Column('hue', 'varchar(20)')));
        $renamed = static fn (float $alike): bool => Fate::Renamed === Compare::catalogs(
            $before,
            $after,
            [],
            static fn (): float => $alike,
        )[0]->columns[0]->change;

        self::assertTrue($renamed(1.0));
        self::assertFalse($renamed(0.1));
    }

    #[TestWith(['opened_on', 'OpenedOn', 0.9, 1.0])]
    #[TestWith(['qty', 'quantity', 0.7, 1.0])]
    #[TestWith(['station_ref', 'stn_ref', 0.8, 1.0])]
    #[TestWith(['weight', 'colour', 0.0, 0.2])]
    #[TestWith(['a', 'b', 0.0, 0.0])]
    public function testLikenessOfNames(string $a, string $b, float $least, float $most): void
    {
        self::assertGreaterThanOrEqual($least, Likeness::of($a, $b));
        self::assertLessThanOrEqual($most, Likeness::of($a, $b));
        self::assertSame(Likeness::of($a, $b), Likeness::of($b, $a));
    }

    /** @return iterable<string, array{string, Column, Column, ?string}> */
    public static function texts(): iterable
    {
        yield 'the old length' => ['At most 12 characters.', new Column('a', 'varchar(12)'), new Column('a', 'varchar(40)'), 'speaks of 12'];
        yield 'the old bounds' => ['Up to 9999.99 per hour', new Column('a', 'decimal(6,2)'), new Column('a', 'decimal(9,2)'), 'speaks of 9999.99'];
        yield 'another figure' => ['Moved in 2012.', new Column('a', 'varchar(12)'), new Column('a', 'varchar(40)'), null];
        yield 'a code that came in' => ['open or shut', new Column('a', "enum('open','shut')"), new Column('a', "enum('open','shut','planned')"), 'planned came in'];
        yield 'the old kind of type' => ['A number that people type.', new Column('a', 'int(11)'), new Column('a', 'varchar(9)'), 'speaks of the old type'];
        yield 'never empty any more' => ['Never empty.', new Column('a', 'date', false), new Column('a', 'date', true), 'the text says “Never”'];
        yield 'taken over from a comment' => ['In km²', new Column('a', 'int', comment: 'In km²'), new Column('a', 'int', comment: 'In hectares'), 'now says “In hectares”'];
        yield 'a text that says nothing of it' => ['What people call it.', new Column('a', 'varchar(12)'), new Column('a', 'varchar(40)'), null];
        yield 'no text at all' => ['', new Column('a', 'varchar(12)'), new Column('a', 'date'), null];
    }

    #[DataProvider('texts')]
    public function testATextIsDoubtfulWhenItSpeaksOfWhatHasChanged(string $text, Column $was, Column $is, ?string $words): void
    {
        $reason = Doubt::about($text, $was, $is, Dialects::of('mariadb'));
        null === $words ? self::assertNull($reason) : self::assertStringContainsStringIgnoringCase($words, (string) $reason);
    }

    public function testCodesAreFoundInATextThatListsThem(): void
    {
        self::assertSame(['G', 'S', 'B'], Doubt::codes('How far it can be trusted: G = good, S = suspect, B = bad.'));
        self::assertSame(['1', '2'], Doubt::codes("- 1: open\n- 2: shut"));
        self::assertSame(['G', 'S', 'B'], Doubt::codes('How far: G good, S suspect, B bad.'));
        self::assertSame([], Doubt::codes('The day of its first valid reading.'));
        self::assertTrue(Doubt::mentions('joins to opened_on here', 'opened_on'));
        self::assertFalse(Doubt::mentions('reopened_on', 'opened_on'));
    }

    private static function of(string $name, Column ...$columns): Table
    {
        return new Table('main', $name, Made::table('x')->kind, '', array_values($columns));
    }

    /**
     * @param list<TableDrift> $drift
     *
     * @return list<string>
     */
    private static function said(array $drift): array
    {
        return array_map(static fn (TableDrift $item): string => $item->change->value.' '.$item->table()->name, $drift);
    }
}
