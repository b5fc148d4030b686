<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\Likeness;
use Fasti\Core\Drift\RoutineDrift;
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

        foreach ([
            'the type was varchar(5) and is varchar(9)',
            'it is required now',
            "no default any more (was 'x')",
            'the database says “new” of it (was “old”)',
        ] as $said) {
            self::assertStringContainsString($said, $words);
        }
        self::assertSame(['the database numbers it now'], $drift[0]->columns[1]->words);
    }

    public function testKeysJoinsAndChecksOfATableAreCompared(): void
    {
        $before = Made::catalog(Made::table('a', ['b_id' => 'int(11)'], ['b_id' => 'b']), Made::table('b'), Made::table('c'));
        $after = Made::catalog(
            Made::table('a', ['b_id' => 'int(11)'], ['b_id' => 'c']),
            self::of('b', new Column('id', 'int(10) unsigned', false, autoNumbered: true)),
            Made::table('c'),
        );
        $drift = Compare::catalogs($before, $after);

        self::assertSame(['a join leads from b_id to main.c', 'no join leads from b_id to main.b any more'], $drift[0]->words);
        self::assertSame(['it has no primary key any more (was id)'], $drift[1]->words);
    }

    public function testARenamedTableIsToldByItsFieldsAndJoinsFollowIt(): void
    {
        $fields = ['parish' => 'varchar(40)', 'phone' => 'varchar(20)', 'since' => 'date'];
        $drift = Compare::catalogs(
            Made::catalog(
                Made::table('landowner', $fields),
                Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'landowner']),
                Made::table('unit'),
                Made::table('lab'),
            ),
            Made::catalog(
                Made::table('land_contact', $fields),
                Made::table('permit', ['owner' => 'int(11)'], ['owner' => 'land_contact']),
                Made::table('unit'),
                Made::table('lab'),
            ),
        );

        // The permit has changed in nothing but the name of what it leads to.
        self::assertSame(['renamed land_contact'], self::said($drift));
        self::assertStringContainsString('4 of its 4 fields', $drift[0]->reason);
    }

    public function testATableInAnotherSchemaIsTheSame(): void
    {
        $moved = static fn (string $schema): Table => new Table(
            $schema, 'sample', Made::table('sample', ['depth' => 'int(11)', 'taken' => 'date'])->kind, '',
            Made::table('sample', ['depth' => 'int(11)', 'taken' => 'date'])->columns, new Key(null, ['id']),
        );
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
        yield 'another name in the same place' => [
            [$id, $c('opened_on', 'date'), $c('z')],
            [$id, $c('in_service_from', 'date'), $c('z')],
            ['opened_on → in_service_from'],
        ];
        yield 'the same comment' => [
            [$id, $c('a1', 'int(11)', 'depth in cm'), $c('z')],
            [$id, $c('z'), $c('depth_cm', 'int(11)', 'depth in cm')],
            ['a1 → depth_cm'],
        ];
        yield 'a wider type and a like name' => [[$id, $c('note', 'varchar(20)'), $c('z')], [$id, $c('notes', 'varchar(200)'), $c('z')], ['note → notes']];
        yield 'another type is another field' => [[$id, $c('weight'), $c('z')], [$id, $c('weighed', 'date'), $c('z')], []];
        yield 'one dropped, another added at the end' => [[$id, $c('colour', 'varchar(20)'), $c('z')], [$id, $c('z'), $c('parish', 'varchar(20)')], []];
        yield 'two that are equally like' => [[$id, $c('a_code'), $c('b_code'), $c('z')], [$id, $c('x_code'), $c('y_code'), $c('z')], []];
        yield 'a thing of another kind in the same place' => [[$id, $c('notes', 'text'), $c('z')], [$id, $c('avatar', 'text'), $c('z')], []];
        yield 'another number in the same place' => [[$id, $c('floor'), $c('z')], [$id, $c('price'), $c('z')], []];
        yield 'words of the kind alone' => [[$id, $c('created_at', 'datetime'), $c('z')], [$id, $c('z'), $c('deleted_at', 'datetime')], []];
        yield 'a choice of its own' => [
            [$id, $c('mood', "enum('glad','sad')"), $c('z')],
            [$id, $c('feeling', "enum('glad','sad')"), $c('z')],
            ['mood → feeling'],
        ];
        yield 'two renamed in order' => [
            [$id, $c('x_pos'), $c('m'), $c('y_pos'), $c('z')],
            [$id, $c('x_position'), $c('m'), $c('y_position'), $c('z')],
            ['x_pos → x_position', 'y_pos → y_position'],
        ];
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

    public function testThePlaceInTheKeyIsEvidence(): void
    {
        $of = static fn (string $key): Table => new Table(
            'main', 't', TableType::Table, columns: [new Column($key, 'int(11)', false), new Column('kept', 'varchar(9)')],
            primaryKey: new Key(null, [$key]),
        );
        $drift = Compare::catalogs(Made::catalog($of('id')), Made::catalog($of('serial')))[0];

        self::assertSame('serial', $drift->columns[0]->name());
        self::assertStringContainsString('the same part in the primary key', $drift->columns[0]->reason);
        self::assertSame([], $drift->words);
    }

    public function testEveryPropertyOfAnIndexIsCompared(): void
    {
        $of = static fn (Index ...$indexes): Table => new Table(
            'main', 't', TableType::Table, columns: [new Column('a', 'varchar(50)'), new Column('b', 'int(11)')], indexes: array_values($indexes),
        );
        $words = static fn (Index $was, Index $is): array => Compare::catalogs(Made::catalog($of($was)), Made::catalog($of($is)))[0]->words ?? [];
        $plain = new Index('i', [new IndexPart('a')]);

        self::assertSame(['the index i is over the first 10 of a (was over a)'], $words($plain, new Index('i', [new IndexPart('a', 10)])));
        self::assertSame(['the index i is over a descending (was over a)'], $words($plain, new Index('i', [new IndexPart('a', null, true)])));
        self::assertSame(['the index i is over a, by hash (was over a)'], $words($plain, new Index('i', [new IndexPart('a')], false, 'hash')));
        self::assertSame(['the index i is over a, each value once (was over a)'], $words($plain, new Index('i', [new IndexPart('a')], true)));
        self::assertSame(['the index i is over a, where (b > 0) (was over a)'], $words($plain, new Index('i', [new IndexPart('a')], where: '(b > 0)')));
        self::assertSame(['there is an index over b', 'there is no index over a any more'], $words($plain, new Index('j', [new IndexPart('b')])));
        self::assertSame(['the index i is called other_name now'], $words($plain, new Index('other_name', [new IndexPart('a')])));
    }

    public function testAReferenceToAnotherKeyOfTheSameTableIsSaid(): void
    {
        $of = static fn (string $far): Table => new Table(
            'main', 't', TableType::Table, columns: [new Column('p', 'int(11)')],
            foreignKeys: [new ForeignKey('f', ['p'], new Reference('main', 'parent', [$far]))],
        );

        self::assertSame(
            ['the join from p to main.parent meets code there (was id)'],
            Compare::catalogs(Made::catalog($of('id')), Made::catalog($of('code')))[0]->words,
        );
    }

    public function testTimingEventAndBodyOfTriggersAreCompared(): void
    {
        $of = static fn (Trigger $trigger): Table => new Table('main', 't', TableType::Table, columns: [new Column('a', 'int(11)')], triggers: [$trigger]);
        $words = static fn (Trigger $is): array => Compare::catalogs(
            Made::catalog($of(new Trigger('tr', 'BEFORE', 'INSERT', 'SET NEW.a = 1'))),
            Made::catalog($of($is)),
        )[0]->words ?? [];

        self::assertSame(['the trigger tr runs after insert (was before insert)'], $words(new Trigger('tr', 'AFTER', 'INSERT', 'SET NEW.a = 1')));
        self::assertSame(['the trigger tr does something else now'], $words(new Trigger('tr', 'BEFORE', 'INSERT', 'SET NEW.a = 2')));
        self::assertSame([], $words(new Trigger('tr', 'BEFORE', 'INSERT', "-- as before\nSET  NEW.a = 1;")));
    }

    public function testRoutinesAreComparedWithParametersAndBodies(): void
    {
        $of = static fn (Routine ...$routines): Catalog => new Catalog('mariadb', '', [], array_values($routines));
        $f = new Routine('main', 'f', 'function', 'int(11)', 'RETURN 1', '', 'x int(11)');
        $words = static fn (Routine ...$is): array => array_map(
            static fn (RoutineDrift $drift): string => $drift->inWords(),
            Compare::routines($of($f), $of(...$is)),
        );

        self::assertSame([], $words($f));
        self::assertSame(['the function main.f is gone'], $words());
        self::assertSame(
            ['the function main.f has changed: it takes y text (was x int(11))'],
            $words(new Routine('main', 'f', 'function', 'int(11)', 'RETURN 1', '', 'y text')),
        );
        self::assertSame(
            ['the function main.f has changed: it gives text (was int(11)); it does something else now'],
            $words(new Routine('main', 'f', 'function', 'text', 'RETURN 2', '', 'x int(11)')),
        );
        self::assertSame(['the function main.g is new'], $words($f, new Routine('main', 'g', 'function', null, null)));
        // Moved with all that it is, and a body that may not be read: neither is a change.
        self::assertSame([], $words(new Routine('other', 'f', 'function', 'int(11)', 'RETURN 1', '', 'x int(11)')));
        self::assertSame([], $words(new Routine('main', 'f', 'function', 'int(11)', null, '', 'x int(11)')));
    }

    public function testAllTablesOfASchemaThatIsCalledOtherwiseAreTheSame(): void
    {
        $tables = static fn (string $schema): array => array_map(
            static fn (int $i): Table => new Table($schema, 't'.$i, TableType::Table, columns: [
                new Column('id', 'int(11)', false),
                new Column('name', 'varchar(80)'),
            ], primaryKey: new Key(null, ['id']), foreignKeys: [
                new ForeignKey('f', ['id'], new Reference($schema, 't0', ['id'])),
            ]),
            range(0, 53),
        );
        $drift = Compare::catalogs(new Catalog('', '', $tables('shop')), new Catalog('', '', $tables('shop_test')));

        self::assertCount(54, $drift);
        self::assertSame([Fate::Renamed], array_values(array_unique(array_map(static fn (TableDrift $item): Fate => $item->change, $drift), \SORT_REGULAR)));
        self::assertSame([], array_merge(...array_map(static fn (TableDrift $item): array => [...$item->words, ...$item->columns], $drift)));
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
        yield 'a code that came in' => [
            'open or shut',
            new Column('a', "enum('open','shut')"),
            new Column('a', "enum('open','shut','planned')"),
            'planned came in',
        ];
        yield 'the old kind of type' => ['A number that people type.', new Column('a', 'int(11)'), new Column('a', 'varchar(9)'), 'speaks of the old type'];
        yield 'never empty any more' => ['Never empty.', new Column('a', 'date', false), new Column('a', 'date', true), 'the text says “Never”'];
        yield 'taken over from a comment' => [
            'In km²',
            new Column('a', 'int', comment: 'In km²'),
            new Column('a', 'int', comment: 'In hectares'),
            'now says “In hectares”',
        ];
        yield 'a text that says nothing of it' => ['What people call it.', new Column('a', 'varchar(12)'), new Column('a', 'varchar(40)'), null];
        yield 'a default that the text names' => [
            'Metres unless given.', new Column('a', 'int', default: '5'), new Column('a', 'int', default: '6'), 'was 5 and is 6',
        ];
        yield 'a default whose value the text has' => [
            'Mostly open.', new Column('a', 'varchar(9)', default: "'open'"), new Column('a', 'varchar(9)'), "was 'open' and is none",
        ];
        yield 'a default of one letter' => ['Some of a kind.', new Column('a', 'varchar(9)', default: "'a'"), new Column('a', 'varchar(9)'), null];
        yield 'a default of which it says nothing' => ['What it is.', new Column('a', 'int', default: '55'), new Column('a', 'int'), null];
        yield 'no other default' => ['The default is 5.', new Column('a', 'int', default: '5'), new Column('a', 'bigint', default: '5'), null];
        yield 'may be empty now' => ['Required.', new Column('a', 'date', false), new Column('a', 'date', true), 'the field may be empty now'];
        yield 'required now' => ['Empty where unknown.', new Column('a', 'date', true), new Column('a', 'date', false), 'the field is required now'];
        yield 'as empty as before' => ['Empty where unknown.', new Column('a', 'date', true), new Column('a', 'datetime', true), null];
        yield 'a comment that stays' => ['In km²', new Column('a', 'int', comment: 'In km²'), new Column('a', 'bigint', comment: 'In km²'), null];
        yield 'another text than the comment' => [
            'How large.', new Column('a', 'int', comment: 'In km²'), new Column('a', 'int', comment: 'In hectares'), null,
        ];
        yield 'no text at all' => ['', new Column('a', 'varchar(12)'), new Column('a', 'date'), null];
    }

    #[DataProvider('texts')]
    public function testATextIsDoubtfulWhenItSpeaksOfWhatHasChanged(string $text, Column $was, Column $is, ?string $words): void
    {
        $reason = Doubt::about($text, $was, $is, Dialects::of('mariadb'));
        if (null === $words) {
            self::assertNull($reason);
        } else {
            self::assertStringContainsStringIgnoringCase($words, (string) $reason);
        }
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
