<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Finding;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Seen;
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
use Fasti\Core\Finding\Check\PersonalFound;
use Fasti\Core\Finding\Check\RepeatedRows;
use Fasti\Core\Finding\Check\SameNameOtherType;
use Fasti\Core\Finding\Check\SingularAndPlural;
use Fasti\Core\Finding\Check\StandIn;
use Fasti\Core\Finding\Check\TimeNamedText;
use Fasti\Core\Finding\Check\TypeInText;
use Fasti\Core\Finding\Check\TypesDifferAcrossJoin;
use Fasti\Core\Finding\Check\Unjoined;
use Fasti\Core\Finding\Check\UnusualType;
use Fasti\Core\Finding\Check\WithoutComment;
use Fasti\Core\Finding\Check\WithoutKey;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\DataCheck;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\ReservedWords;
use Fasti\Core\Finding\Standouts;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\TableProfile;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Each check just before and just behind the edge at which it finds something. */
final class EdgesTest extends TestCase
{
    /** @return iterable<string, array{DataCheck, Column, array<string, mixed>, string}> check, field, its figures, what is found; '' for nothing */
    public static function figures(): iterable
    {
        $int = new Column('a', 'int(11)');
        foreach ([
            'empty in every row' => [new AlwaysEmpty(), $int, ['likely' => 'always empty', 'rows' => 1], 'It is empty in every row'],
            'empty without a row' => [new AlwaysEmpty(), $int, ['likely' => 'always empty', 'rows' => 0], ''],
            'not empty' => [new AlwaysEmpty(), $int, ['likely' => 'constant', 'rows' => 9], ''],
            'one value' => [new Constant(), $int, ['likely' => 'constant', 'rows' => 20, 'least' => '7'], 'It holds the same value in every row, 7'],
            'one value of few rows' => [new Constant(), $int, ['likely' => 'constant', 'rows' => 19, 'least' => '7'], ''],
            'one value that is personal' => [
                new Constant(), $int, [
                    'likely' => 'constant',
                    'rows' => 20,
                    'least' => 'Ada',
                    'personal' => 'its name',
                ], 'It holds the same value in every row',
            ],
            'one value that nobody knows' => [new Constant(), $int, ['likely' => 'constant', 'rows' => 20], 'It holds the same value in every row'],
            'near the end of its type' => [
                new NearLimit(), new Column('a', 'tinyint(4)'), ['greatest' => '121'], 'Its greatest value is 121; its type ends at 127',
            ],
            'not yet near' => [new NearLimit(), new Column('a', 'tinyint(4)'), ['greatest' => '120'], ''],
            'a flag' => [new NearLimit(), new Column('a', 'tinyint(1)'), ['greatest' => '127'], ''],
            'without a sign' => [
                new NearLimit(), new Column('a', 'smallint(5) unsigned'), ['greatest' => '62259'], 'Its greatest value is 62,259; its type ends at 65,535',
            ],
            'without a sign, not yet' => [new NearLimit(), new Column('a', 'smallint(5) unsigned'), ['greatest' => '62258'], ''],
            'a decimal' => [
                new NearLimit(), new Column('a', 'decimal(6,2)'), ['greatest' => '9500.00'], 'Its greatest value is 9,500.00; its type ends at 9,999.99',
            ],
            'a decimal, not yet' => [new NearLimit(), new Column('a', 'decimal(6,2)'), ['greatest' => '9499.98'], ''],
            'a float has no end' => [new NearLimit(), new Column('a', 'float(6,2)'), ['greatest' => '9999.99'], ''],
            'nothing known' => [new NearLimit(), new Column('a', 'tinyint(4)'), [], ''],
            'no figure' => [new NearLimit(), new Column('a', 'tinyint(4)'), ['greatest' => 'x'], ''],
            'a personal one' => [new NearLimit(), new Column('a', 'tinyint(4)'), ['greatest' => '127', 'personal' => 'x'], ''],
        ] as $name => $case) {
            yield $name => $case;
        }
    }

    /** @return iterable<string, array{DataCheck, Column, array<string, mixed>, string}> */
    public static function moreFigures(): iterable
    {
        $int = new Column('a', 'int(11)');
        $text = new Column('a', 'varchar(20)');
        $some = ['rows' => 300, 'values' => 300];
        foreach ([
            'never empty' => [new NeverEmpty(), $int, ['rows' => 200, 'values' => 200], 'It may be empty, and never is'],
            'never empty in few rows' => [new NeverEmpty(), $int, ['rows' => 199, 'values' => 199], ''],
            'empty once' => [new NeverEmpty(), $int, ['rows' => 200, 'values' => 199], ''],
            'blank once' => [new NeverEmpty(), $int, ['rows' => 200, 'values' => 200, 'blank' => 1], ''],
            'required' => [new NeverEmpty(), new Column('a', 'int', false), $some, ''],
            'computed' => [new NeverEmpty(), new Column('a', 'int', generated: new Generated('1', true)), $some, ''],
            'a member of documents' => [new NeverEmpty(), new Column('a', 'int', seen: new Seen(1, 1, [])), $some, ''],
            'one that is not allowed' => [new NotAllowed(), $int, ['broken' => 1, 'allowed' => '0 to 9'], '1 row is not “0 to 9”'],
            'some that are not' => [
                new NotAllowed(), $int, ['broken' => 1200, 'allowed' => '0 to 9', 'breaking' => ['10' => 4, 'x' => 3, 'y' => 2, 'z' => 1]],
                '1,200 rows are not “0 to 9”, such as 10, x, y',
            ],
            'all allowed' => [new NotAllowed(), $int, ['broken' => 0, 'allowed' => '0 to 9'], ''],
            'nobody has looked' => [new NotAllowed(), $int, ['allowed' => '0 to 9'], ''],
            'personal' => [new PersonalFound(), $int, ['personal' => 'its name speaks of it'], 'It seems to hold personal data: its name speaks of it'],
            'personal as a steward says' => [new PersonalFound(), $int, ['personal' => Privacy::STEWARD_SAYS], ''],
            'days in text' => [
                new TypeInText(),
                $text,
                ['likely' => 'date kept as text', 'percent' => 97],
                'It is text and holds days (97 % of those looked at)',
            ],
            'numbers in text' => [
                new TypeInText(), $text, ['likely' => 'number kept as text', 'percent' => 91], 'It is text and holds numbers (91 % of those looked at)',
            ],
            'personal days in text' => [new TypeInText(), $text, ['likely' => 'date kept as text', 'percent' => 97, 'personal' => 'x'], ''],
            'codes in text' => [new TypeInText(), $text, ['likely' => 'code', 'percent' => 97], ''],
        ] as $name => $case) {
            yield $name => $case;
        }
    }

    /** @return iterable<string, array{DataCheck, Column, array<string, mixed>, string}> */
    public static function standIns(): iterable
    {
        $int = new Column('a', 'int(11)');
        $text = new Column('a', 'varchar(20)');
        foreach ([
            'n/a' => ['n/a', 20, ''], 'unknown' => ['Unknown', 20, ''], 'blanks around' => [' ??? ', 20, ''], 'dashes' => ['--', 20, ''],
            'xxx' => ['xxxx', 20, ''],
            'nines' => ['99999', 20, ''], 'noughts' => ['000000', 20, ''], 'four nines of a text' => ['9999', 0, ''], 'a word within a word' => ['na/n', 0, ''],
            'keiner' => ['keiner', 0, ''], 'not available' => ['not available', 20, ''], 'a real one' => ['weir', 0, ''],
        ] as $name => [$value, $rows]) {
            yield "text: $name" => [
                new StandIn(), $text, ['rows' => 40, 'values' => 40, 'frequent' => [$value => 20], 'frequentOf' => 40],
                0 === $rows ? '' : "$value stands in 20 of 40 values looked at, as if for something else",
            ];
        }
        foreach ([
            'at its end' => ['999', ['greatest' => '999'], true], 'with noughts' => ['-9990', ['least' => '-9990'], true], 'within' => [
                '999',
                ['greatest' => '1000'],
                false,
            ],
            'two digits' => ['99', ['greatest' => '99'], false], 'minus one' => ['-1', ['least' => '-1'], true], 'no nines' => [
                '1000',
                ['greatest' => '1000'],
                false,
            ],
            'seldom' => [
                '999',
                ['greatest' => '999', 'frequentOf' => 5000],
                false,
            ], 'just often enough' => ['999', ['greatest' => '999', 'frequentOf' => 4999], true],
            'four times' => ['999', ['greatest' => '999', 'frequent' => ['999' => 4]], false],
        ] as $name => [$value, $figures, $found]) {
            $of = $figures['frequentOf'] ?? 40;
            yield "number: $name" => [
                new StandIn(), $int, $figures + ['rows' => 40, 'values' => 40, 'frequent' => [$value => 5], 'frequentOf' => 40],
                $found ? \sprintf('%s stands in 5 of %s values looked at, as if for something else', $value, number_format($of)) : '',
            ];
        }
        foreach ([
            '1900-01-01' => true, '9999-12-31 00:00:00' => true, '1970-01-01 00:00:00' => true, '1970-01-01 00:01:00' => true, '1999-01-01' => false,
            '2099-12-31' => true,
            '0000-00-00' => true, '1753-01-01' => true, '1899-12-30' => true, '1899-12-29' => false] as $value => $found) {
            yield "day: $value" => [
                new StandIn(), new Column('a', 'datetime'), ['rows' => 40, 'values' => 40, 'frequent' => [$value => 20], 'frequentOf' => 40],
                $found ? "$value stands in 20 of 40 values looked at, as if for something else" : '',
            ];
        }
        $often = ['rows' => 20, 'values' => 20, 'frequent' => ['none' => 9], 'frequentOf' => 20];
        yield 'twenty are enough' => [new StandIn(), $text, $often, 'none stands in 9 of 20 values looked at, as if for something else'];
        yield 'nineteen are not' => [new StandIn(), $text, ['rows' => 19, 'values' => 19] + $often, ''];
        yield 'a code of few values' => [new StandIn(), $text, $often + ['likely' => 'code', 'distinct' => 11], ''];
        yield 'a code of many values' => [
            new StandIn(), $text, $often + ['likely' => 'code', 'distinct' => 12], 'none stands in 9 of 20 values looked at, as if for something else',
        ];
        yield 'a day kept as text' => [
            new StandIn(), $text, ['frequent' => ['1900-01-01' => 9], 'likely' => 'date kept as text'] + $often,
            '1900-01-01 stands in 9 of 20 values looked at, as if for something else',
        ];
        yield 'no value of what is personal' => [new StandIn(), $text, $often + ['personal' => 'x'], ''];
    }

    /** @param array<string, mixed> $figures */
    #[DataProvider('figures')]
    #[DataProvider('moreFigures')]
    #[DataProvider('standIns')]
    public function testFiguresOfAField(DataCheck $check, Column $column, array $figures, string $found): void
    {
        $table = new Table('s', 't', TableType::Table, columns: [$column]);
        $rows = \is_int($figures['rows'] ?? null) ? $figures['rows'] : 100;
        $field = Made::with(FieldProfile::class, $figures + ['rows' => $rows, 'values' => $rows]);

        self::assertSame(
            '' === $found ? [] : ["s.t.a: $found"],
            self::said($check->of($table, new TableProfile($rows, $rows, 'all', ['a' => $field]), Dialects::of('mariadb'))),
        );
    }

    public function testNeverEmptyIsNothingOfAViewOrOfASample(): void
    {
        $field = ['a' => new FieldProfile(300, 300)];
        $view = new Table('s', 'v', TableType::View, columns: [new Column('a', 'int')]);
        $table = new Table('s', 't', TableType::Table, columns: [new Column('a', 'int')]);

        self::assertSame([], self::said((new NeverEmpty())->of($view, new TableProfile(300, 300, 'all', $field), Dialects::of('mariadb'))));
        self::assertSame([], self::said((new NeverEmpty())->of($table, new TableProfile(300, 299, 'some', $field), Dialects::of('mariadb'))));
    }

    public function testRowsThatRepeat(): void
    {
        $table = new Table('s', 't', TableType::Table, columns: [new Column('a', 'int'), new Column('b', 'int')]);
        $said = static fn (?int $repeated, string ...$grain): array => self::said((new RepeatedRows())->of(
            $table, new TableProfile(9, 9, 'all', [], array_values($grain), $repeated), Dialects::of('mariadb'),
        ));

        self::assertSame(['s.t: 1 row repeats another in a'], $said(1, 'a'));
        self::assertSame(['s.t: 1,200 rows repeat another in every field'], $said(1200, 'a', 'b'));
        self::assertSame([], $said(0, 'a'));
        self::assertSame([], $said(null, 'a'));
    }

    /** @return iterable<string, array{CatalogCheck, list<Table>, list<string>}> */
    public static function structures(): iterable
    {
        $without = ['main.reading.a: No index begins with a, which leads to station'];
        yield 'a join without an index' => [new LeadsWithoutIndex(), [self::table(['foreignKeys' => [self::leads(['a'])]])], $without];
        yield 'an index of it' => [new LeadsWithoutIndex(), [self::table(['foreignKeys' => [self::leads(['a'])], 'indexes' => [self::index(['a', 'b'])]])], []];
        yield 'an index that begins with another' => [
            new LeadsWithoutIndex(),
            [self::table(['foreignKeys' => [self::leads(['a'])], 'indexes' => [self::index(['b', 'a'])]])],
            $without,
        ];
        yield 'an index of some rows' => [
            new LeadsWithoutIndex(),
            [self::table(['foreignKeys' => [self::leads(['a'])], 'indexes' => [self::index(['a'], 'b > 0')]])],
            $without,
        ];
        yield 'a unique key of it' => [
            new LeadsWithoutIndex(),
            [self::table(['foreignKeys' => [self::leads(['a'])], 'uniqueKeys' => [new Key(null, ['a'])]])],
            [],
        ];
        yield 'two fields in any order' => [
            new LeadsWithoutIndex(), [
                self::table(['foreignKeys' => [self::leads(['a', 'b'], 'station', ['x', 'y'])], 'indexes' => [self::index(['b', 'a'])]]),
            ], [],
        ];
        yield 'a join that was worked out' => [new LeadsWithoutIndex(), [self::table(['foreignKeys' => [self::leads(['a'], reason: 'by name')]])], []];
        yield 'no index is known of it at all' => [new LeadsWithoutIndex(), [self::table(['foreignKeys' => [self::leads(['a'])], 'primaryKey' => null])], []];
        yield 'no key' => [new WithoutKey(), [self::table(['primaryKey' => null]), self::table(['name' => 'b'])], ['main.reading: No primary key']];
        yield 'no key of a view' => [new WithoutKey(), [self::table(['primaryKey' => null, 'kind' => TableType::View])], []];
        yield 'no comment' => [
            new WithoutComment(),
            [self::table([]), self::table(['name' => 'b', 'comment' => 'x'])],
            ['main.reading: No comment in the database'],
        ];
        yield 'no join' => [
            new Unjoined(), [
                self::table(['foreignKeys' => [self::leads(['a'])]]),
                self::table(['name' => 'station']),
                self::table(['name' => 'alone']),
            ], ['main.alone: No declared join'],
        ];
    }

    /** @return iterable<string, array{CatalogCheck, list<Table>, list<string>}> */
    public static function types(): iterable
    {
        yield 'types that are unusual' => [
            new UnusualType(), [self::table(['columns' => [new Column('a', 'float'), new Column('b', 'double'), new Column('c', "set('x')")]])],
            ['main.reading.c: An unusual type: set (a value holds several of its members, and the order of the list decides how they are stored)'],
        ];
        $typed = static fn (
            string $name,
            string $type,
            string $field = 'flag',
        ): Table => self::table(['name' => $name, 'columns' => [new Column($field, $type)]]);
        yield 'another type than most' => [
            new SameNameOtherType(), [$typed('x', 'char(1)'), $typed('y', 'varchar(9)'), $typed('z', 'date'), $typed('q', 'varchar(20)')],
            ['main.z.flag: “flag” is char(1) in 3 tables, but date in z'],
        ];
        yield 'another type than one other' => [
            new SameNameOtherType(),
            [$typed('x', 'int(11)'), $typed('y', 'date', 'FLAG')],
            ['main.y.FLAG: “flag” is int(11) in x, but date in y'],
        ];
        yield 'whole numbers are alike' => [new SameNameOtherType(), [$typed('x', 'int(11)'), $typed('y', 'bigint(20)')], []];
        $across = static fn (string $near, string $far): array => [
            self::table([
                'columns' => [new Column('a', $near)],
                'foreignKeys' => [self::leads(['a'])],
            ]), self::table(['name' => 'station', 'columns' => [new Column('id', $far)]]),
        ];
        foreach ([['int(11)', 'int(11)', false], ['int(11)', 'bigint(20)', true], ['bigint(20)', 'int(11)', false], ['varchar(9)', 'varchar(20)', true],
            [
                'varchar(20)',
                'varchar(9)',
                false,
            ], ['varchar(20)', 'int(11)', true], ['int(11)', 'decimal(6,2)', true], ['point', 'int(11)', true], [
                'no_such_type',
                'int(11)',
                false,
            ]] as [$near, $far, $found]) {
            $in = Dialects::of('mariadb');
            yield "$near leads to $far" => [new TypesDifferAcrossJoin(), $across($near, $far), $found ? [\sprintf(
                'main.reading.a: a is %s, but station.id, to which it '
                    .'leads, is %s', $in->typeInWords(new Column('a', $near)), $in->typeInWords(new Column('id', $far)),
            )] : []];
        }
        foreach ([[
            'valid_until',
            'varchar(10)',
            true,
        ], ['valid_until', 'varchar(5)', false], ['valid_until', 'varchar(6)', true], ['valid_until', 'varchar(40)', true],
            [
                'valid_until',
                'varchar(41)',
                false,
            ], ['valid_until', 'date', false], ['on', 'varchar(10)', false], ['taken_on', 'varchar(10)', true], ['taken_at', 'varchar(10)', true],
            ['date', 'varchar(10)', true], ['dated', 'varchar(10)', false]] as [$field, $type, $found]) {
            yield "$field as $type" => [
                new TimeNamedText(), [$typed('x', $type, $field)], $found
                    ? ["main.x.$field: Its name is that of a day or an instant, but it is kept as text"]
                    : [],
            ];
        }
    }

    /**
     * @param list<Table>  $tables
     * @param list<string> $found
     */
    #[DataProvider('structures')]
    #[DataProvider('types')]
    public function testStructure(CatalogCheck $check, array $tables, array $found): void
    {
        self::assertSame($found, self::said($check->of(new Catalog('mariadb', '10.11', $tables))));
    }

    public function testStylesOfNames(): void
    {
        $said = static fn (Table ...$tables): array => self::said((new MixedNaming())->of(Made::catalog(...$tables)));
        $usual = Made::table('barrier_survey', ['a_b' => 'int', 'c_d' => 'int', 'e_f' => 'int']);
        foreach ([
            'CAPITALS' => 'in capitals', 'speciesCode' => 'run together, the first letter small', 'SpeciesCode' => 'run together, each word with a capital',
            'with blank' => 'with signs or blanks', 'Odd_Mix' => 'in a mixture',
        ] as $name => $style) {
            self::assertSame(
                ["main.lab: $name is not written as most names are, in small letters with underscores"],
                $said($usual, Made::table('lab', [$name => 'int'])),
                $style,
            );
        }
        self::assertSame(
            ['main.lab: aB, cD, eF, gH and 1 more are not written as most names are, in small letters with underscores'],
            $said($usual, Made::table('all_of_it', ['x_y' => 'int', 'x_z' => 'int', 'y_z' => 'int', 'y_x' => 'int']), Made::table(
                'lab', ['aB' => 'int', 'cD' => 'int', 'eF' => 'int', 'gH' => 'int', 'iJ' => 'int'],
            )),
        );
        self::assertSame(
            ['main.TheLab: the table itself is not written as most names are, in small letters with underscores'],
            $said($usual, Made::table('TheLab')),
        );
        // Of five names three are usual, which is the least that makes a rule; of four, two are not.
        self::assertCount(1, $said(Made::table('t', ['a_b' => 'int', 'c_d' => 'int', 'e_f' => 'int', 'gH' => 'int', 'iJ' => 'int'])));
        self::assertSame([], $said(Made::table('t', ['a_b' => 'int', 'c_d' => 'int', 'gH' => 'int', 'iJ' => 'int'])));
        self::assertSame([], $said(Made::table('lab', ['name' => 'int', 'x1' => 'int'])));
    }

    public function testSingularsAndPlurals(): void
    {
        $said = static fn (string ...$names): array => self::said((new SingularAndPlural())->of(Made::catalog(...array_map(Made::table(...), $names))));

        self::assertSame(
            ['main.reading: A singular as name, while most tables of main are named in the other way'],
            $said('stations', 'visits', 'gauges', 'reading'),
        );
        self::assertSame(
            ['main.gauges: A plural as name, while most tables of main are named in the other way'],
            $said('station', 'visit', 'reading', 'gauges'),
        );
        self::assertSame(['main.a_gauges: A plural as name, while most tables of main are named in the other way',
            'main.gauges: A plural as name, while most tables of main are named in the other way'], $said('station', 'visit', 'reading', 'a_gauges', 'gauges'));
        self::assertSame([], $said('station', 'visit', 'gauges', 'reaches'), 'Half and half is no rule.');
        self::assertSame([], $said('station', 'species', 'lab1', 'tie'));
    }

    public function testWhatIsChecked(): void
    {
        self::assertTrue(Checked::is(Made::table('t')));
        self::assertFalse(Checked::is(new Table('s', 'v', TableType::View)));
        self::assertSame(['1 field has', '2 fields have'], [Checked::have(1, 'field'), Checked::have(2, 'field')]);
        foreach (['select' => true, 'SELECT' => true, 'precision' => true, 'reading' => false, 'selects' => false, '' => false] as $word => $is) {
            self::assertSame($is, ReservedWords::has($word), $word);
        }
    }

    public function testWhatStandsOutIsCountedByCheckAndGroup(): void
    {
        $found = (new Standouts([new WithoutKey(), new UnusualType()]))->of(new Catalog('mariadb', '10.11', [
            new Table('s', 'a', TableType::Table, columns: [new Column('x', 'year'), new Column('y', 'tinyblob')]),
            new Table('s', 'b', TableType::Table, columns: [new Column('x', 'year')]),
        ]));

        self::assertSame(
            ['2 tables have no primary key', '1 field has an unusual type (tinyblob)', '2 fields have an unusual type (year)'], array_column($found, 'title'),
        );
    }

    /**
     * @param iterable<Finding> $found
     *
     * @return list<string>
     */
    private static function said(iterable $found): array
    {
        return array_values(array_map(
            static fn (Finding $one): string => $one->place.(null === $one->field ? '' : '.'.$one->field).': '.$one->title,
            [...$found],
        ));
    }

    /**
     * @param non-empty-list<string> $columns
     * @param non-empty-list<string> $far
     */
    private static function leads(array $columns, string $to = 'station', array $far = ['id'], string $reason = ''): ForeignKey
    {
        return new ForeignKey(null, $columns, new Reference('main', $to, $far), reason: $reason);
    }

    /** @param array<string, mixed> $with */
    private static function table(array $with): Table
    {
        return Made::with(Table::class, $with + [
            'schema' => 'main', 'name' => 'reading', 'kind' => TableType::Table, 'primaryKey' => new Key(null, ['id']),
            'columns' => [new Column('id', 'int(11)'), new Column('a', 'int(11)'), new Column('b', 'int(11)')],
        ]);
    }

    /** @param list<string> $columns */
    private static function index(array $columns, ?string $where = null): Index
    {
        return new Index('i', array_map(static fn (string $column): IndexPart => new IndexPart($column), $columns), where: $where);
    }
}
