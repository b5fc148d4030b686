<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Facts;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\OfTheMoment;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Statements;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\RoutineDrift;
use Fasti\Core\Drift\TableDrift;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Whatever a catalog holds of a thing, a change of it is told, in words that say what it is now; so a new fact fails here until it is. */
final class EveryFactTest extends TestCase
{
    /** What a thing is known by: with another one it is another thing. */
    private const KNOWN_BY = ['Table schema', 'Table name', 'Column name', 'Routine schema', 'Routine name', 'Routine kind'];

    /** @return iterable<string, array{Table, Table, string}> before, after, what is said */
    public static function ofTables(): iterable
    {
        $key = new Key(null, ['id']);
        $leads = static fn (string $to, string $far = 'id', string $delete = 'NO ACTION', string $update = 'NO ACTION'): array => [
            new ForeignKey('f', ['other'], new Reference('main', $to, [$far]), $delete, $update),
        ];
        foreach ([
            ['kind', TableType::Table, TableType::View, 'it was a table and is a view'],
            ['comment', '', 'rows of gauges', 'the database says “rows of gauges” of it'],
            ['comment', 'rows', 'gauges', 'the database says “gauges” of it (was “rows”)'],
            ['comment', 'rows', '', 'its comment was removed'],
            ['primaryKey', null, $key, 'its primary key is id'],
            ['primaryKey', $key, null, 'it has no primary key any more (was id)'],
            ['primaryKey', $key, new Key(null, ['other', 'id']), 'its primary key is other, id (was id)'],
            ['uniqueKeys', [], [new Key('u', ['other', 'id'])], 'other, id stands only once now'],
            ['uniqueKeys', [new Key('u', ['other'])], [], 'other may stand more than once now'],
            ['foreignKeys', [], $leads('gauge'), 'a join leads from other to main.gauge'],
            ['foreignKeys', $leads('gauge'), [], 'no join leads from other to main.gauge any more'],
            ['foreignKeys', $leads('gauge'), $leads('gauge', 'code'), 'the join from other to main.gauge meets code there (was id)'],
            ['foreignKeys', $leads('gauge'), $leads('gauge', 'id', 'CASCADE', 'SET NULL'), 'acts otherwise: on delete cascade, on update set null'],
            ['indexes', [], [self::index()], 'there is an index over other, id'],
            ['indexes', [self::index()], [], 'there is no index over other, id any more'],
            ['checks', [], [new CheckConstraint('c', 'other > 0')], 'it is checked now that other > 0'],
            ['checks', [new CheckConstraint('c', 'other > 0')], [], 'it is not checked any more that other > 0'],
            ['checks', [new CheckConstraint('c', 'other > 0')], [new CheckConstraint('c', 'other > 1')], 'it is checked now that other > 1'],
            ['triggers', [], [self::trigger()], 'the trigger t runs'],
            ['triggers', [self::trigger()], [], 'the trigger t does not run any more'],
            ['triggers', [self::trigger()], [self::trigger('AFTER', 'UPDATE')], 'the trigger t runs after update (was before insert)'],
            ['triggers', [self::trigger()], [self::trigger(body: 'SET NEW.other = 2')], 'the trigger t does something else now'],
            ['definition', 'SELECT a FROM t', 'SELECT b FROM t', 'its query is another'],
            ['definition', null, 'SELECT b FROM t', 'its query is another'],
            ['storage', null, 'Aria', 'it is kept as Aria (was usual)'],
            ['storage', 'InnoDB', 'Aria', 'it is kept as Aria (was InnoDB)'],
            ['collation', 'utf8mb4_bin', 'utf8mb4_general_ci', 'it is sorted as utf8mb4_general_ci (was utf8mb4_bin)'],
            ['collation', null, 'utf8mb4_bin', 'it is sorted as utf8mb4_bin (was the database)'],
            ['collation', 'utf8mb4_bin', null, 'it is sorted as the database is (was utf8mb4_bin)'],
            ['traits', [], ['parted by day'], 'it says of itself: parted by day'],
            ['traits', ['parted by day'], [], 'it does not say any more: parted by day'],
            ['planned', true, false, 'it is planned no longer: it is there'],
            ['planned', false, true, 'it is planned, and not expected to be there'],
            ['virtual', false, true, 'its rows come from a program now'],
            ['virtual', true, false, 'its rows do not come from a program any more'],
        ] as [$fact, $was, $is, $said]) {
            yield "Table $fact: ".json_encode([$was, $is]) => [self::table($fact, $was), self::table($fact, $is), $said];
        }
        foreach (Facts::of(Table::class) as $name => $fact) {
            $type = (string) (new \ReflectionParameter([Table::class, '__construct'], $name))->getType();
            [$was, $is] = ['bool' => [false, true], '?string' => ['this', 'that'], 'string' => ['this', 'that'], '?int' => [2, 3], 'int' => [2, 3]][$type];
            yield "Table $name: as it is declared" => [self::table($name, $was), self::table($name, $is), $fact->change($was, $is)];
        }
    }

    #[DataProvider('ofTables')]
    public function testAChangeOfATableIsTold(Table $was, Table $is, string $said): void
    {
        self::assertNotSame(OpenForm::fingerprint($was), OpenForm::fingerprint($is));
        $drift = self::drift($was, $is);

        self::assertSame(['changed'], array_map(static fn (TableDrift $one): string => $one->change->value, $drift));
        self::assertStringContainsString($said, implode('; ', $drift[0]->words));
    }

    /** @return iterable<string, array{string, mixed, mixed, string}> */
    public static function ofFields(): iterable
    {
        foreach ([
            ['type', 'int(11)', 'bigint(20)', 'the type was int(11) and is bigint(20)'],
            ['nullable', true, false, 'it is required now'],
            ['nullable', false, true, 'it may be empty now'],
            ['default', null, '5', '5 unless given'],
            ['default', '5', '6', 'the default was 5 and is 6'],
            ['default', '5', null, 'it has no default any more (was 5)'],
            ['comment', '', 'in cm', 'the database says “in cm” of it'],
            ['comment', 'in m', 'in cm', 'the database says “in cm” of it (was “in m”)'],
            ['comment', 'in m', '', 'its comment was removed'],
            ['autoNumbered', false, true, 'the database numbers it now'],
            ['autoNumbered', true, false, 'the database does not number it any more'],
            ['generated', null, new Generated('a * 2', true), 'it is computed as a * 2'],
            ['generated', new Generated('a * 2', true), new Generated('a * 3', true), 'it is computed as a * 3'],
            ['generated', new Generated('a * 2', true), new Generated('a * 2', false), 'it is computed as a * 2'],
            ['generated', new Generated('a * 2', true), null, 'it is not computed any more'],
            ['onUpdate', null, 'now()', 'it is set when the row changes, to now()'],
            ['onUpdate', 'now()', 'now(3)', 'it is set when the row changes, to now(3)'],
            ['onUpdate', 'now()', null, 'it is not set any more when the row changes'],
            ['charset', null, 'latin1', "its letters are kept as latin1 (was the table's)"],
            ['charset', 'latin1', null, "its letters are kept as the table's are (was latin1)"],
            ['collation', null, 'latin1_bin', 'it is sorted as latin1_bin (was the table)'],
            ['collation', 'latin1_bin', null, 'it is sorted as the table is (was latin1_bin)'],
            ['base', null, 'numeric(6,2)', 'int(11) stood for itself and stands for numeric(6,2)'],
            ['base', 'numeric(6,2)', 'numeric(7,2)', 'int(11) stood for numeric(6,2) and stands for numeric(7,2)'],
        ] as [$fact, $was, $is, $said]) {
            yield "Column $fact: ".json_encode([$was, $is]) => [$fact, $was, $is, $said];
        }
    }

    #[DataProvider('ofFields')]
    public function testAChangeOfAFieldIsTold(string $fact, mixed $was, mixed $is, string $said): void
    {
        $of = static fn (mixed $value): Table => self::table('columns', [Made::with(Column::class, [$fact => $value] + ['name' => 'a', 'type' => 'int(11)'])]);
        $drift = self::drift($of($was), $of($is));

        self::assertCount(1, $drift);
        self::assertSame([[Fate::Changed, [$said]]], array_map(static fn ($one): array => [$one->change, $one->words], $drift[0]->columns));
    }

    /** @return iterable<string, array{string, mixed, mixed, string}> */
    public static function ofIndexes(): iterable
    {
        $parts = static fn (?int $length, bool $descending): array => [new IndexPart('other', $length, $descending), new IndexPart('id')];
        foreach ([
            ['name', 'i', 'j', 'the index i is called j now'],
            ['parts', $parts(null, false), $parts(10, false), 'the index i is over the first 10 of other, id (was over other, id)'],
            ['parts', $parts(null, false), $parts(null, true), 'the index i is over other descending, id (was over other, id)'],
            ['unique', false, true, 'the index i is over other, id, each value once (was over other, id)'],
            ['unique', true, false, 'the index i is over other, id (was over other, id, each value once)'],
            ['method', 'btree', 'hash', 'the index i is over other, id, by hash (was over other, id)'],
            ['comment', '', 'for the list', 'the database says “for the list” of the index i'],
            ['comment', 'for the list', '', 'the comment of the index i was removed'],
            ['where', null, '(other > 0)', 'the index i is over other, id, where (other > 0) (was over other, id)'],
        ] as [$fact, $was, $is, $said]) {
            yield "Index $fact: $said" => [$fact, $was, $is, $said];
        }
    }

    #[DataProvider('ofIndexes')]
    public function testAChangeOfAnIndexIsTold(string $fact, mixed $was, mixed $is, string $said): void
    {
        $drift = self::drift(self::table('indexes', [self::index($fact, $was)]), self::table('indexes', [self::index($fact, $is)]));

        self::assertCount(1, $drift);
        self::assertSame([$said], $drift[0]->words);
    }

    /** @return iterable<string, array{string, mixed, mixed, string}> */
    public static function ofRoutines(): iterable
    {
        foreach ([
            ['returns', 'int', 'bigint', 'it gives bigint (was int)'],
            ['returns', null, 'int', 'it gives int (was nothing)'],
            ['returns', 'int', null, 'it gives nothing (was int)'],
            ['body', 'RETURN 1', 'RETURN 2', 'it does something else now'],
            ['comment', '', 'of gauges', 'the database says “of gauges” of it'],
            ['comment', 'of gauges', '', 'its comment was removed'],
            ['parameters', '', 'a int', 'it takes a int (was nothing)'],
            ['parameters', 'a int', '', 'it takes nothing (was a int)'],
        ] as [$fact, $was, $is, $said]) {
            yield "Routine $fact: $said" => [$fact, $was, $is, $said];
        }
    }

    #[DataProvider('ofRoutines')]
    public function testAChangeOfARoutineIsTold(string $fact, mixed $was, mixed $is, string $said): void
    {
        $of = static fn (mixed $value): Catalog => new Catalog('mariadb', '10.11', [], [Made::with(Routine::class, [$fact => $value] + [
            'schema' => 'main', 'name' => 'f', 'kind' => 'function', 'returns' => 'int', 'body' => 'RETURN 1',
        ])]);
        $drift = Compare::routines($of($was), $of($is));

        self::assertSame(["the function main.f has changed: $said"], array_map(static fn (RoutineDrift $one): string => $one->inWords(), $drift));
    }

    public function testRoutinesAreToldByTheirNames(): void
    {
        $of = static fn (string ...$names): Catalog => new Catalog('mariadb', '10.11', [], array_map(
            static fn (string $name): Routine => new Routine('main', $name, 'function', 'int', 'RETURN 1'), array_values($names),
        ));

        self::assertSame(
            ['a', 'b', 'c', 'd'],
            array_map(static fn (RoutineDrift $one): string => $one->routine()->name, Compare::routines($of('b', 'd'), $of('c', 'a'))),
        );
    }

    public function testOfTwoJoinsOfTheSameFieldsThatOfTheSameNameIsTheSame(): void
    {
        $keys = static fn (string $delete): array => [
            new ForeignKey('f', ['other'], new Reference('main', 'gauge', ['id'])),
            new ForeignKey('g', ['other'], new Reference('main', 'gauge', ['code']), $delete),
        ];
        $drift = self::drift(self::table('foreignKeys', $keys('NO ACTION')), self::table('foreignKeys', array_reverse($keys('CASCADE'))));

        self::assertCount(1, $drift);
        self::assertCount(1, $drift[0]->words, 'Only that one acts otherwise.');
        self::assertStringContainsString('on delete cascade', $drift[0]->words[0]);
    }

    public function testABodyThatMayNotBeReadIsNotKnownToBeAnother(): void
    {
        $of = static fn (?string $body): Catalog => new Catalog('mariadb', '10.11', [], [new Routine('main', 'f', 'function', 'int', $body)]);

        self::assertSame([], Compare::routines($of('RETURN 1'), $of(null)));
        self::assertSame([], Compare::routines($of(null), $of('RETURN 1')));
        self::assertSame([], Compare::routines($of('RETURN 1;'), $of("RETURN /* why */ 1 -- so\n")));
    }

    public function testWhatAScriptDoesNotSayHasNotGone(): void
    {
        [$none, $bin, $other] = array_map(static fn (?string $collation): Table => self::table('collation', $collation), [null, 'utf8mb4_bin', 'utf8mb4_da']);
        $server = static fn (Table $table): Catalog => new Catalog('mariadb', '10.11', [$table]);
        $script = static fn (Table $table): Catalog => new Catalog('mariadb', '', [$table], statements: new Statements(1, 1, 0, []));

        self::assertSame([], Compare::catalogs($server($bin), $script($none)));
        self::assertSame([], Compare::catalogs($script($none), $server($bin)));
        self::assertCount(1, Compare::catalogs($script($none), $script($bin)));
        self::assertCount(1, Compare::catalogs($server($other), $script($bin)));
    }

    public function testEveryFactIsTriedHere(): void
    {
        $tried = [];
        foreach ([self::ofTables(), self::ofFields(), self::ofIndexes(), self::ofRoutines()] as $cases) {
            foreach ($cases as $name => $case) {
                $tried[explode(':', $name)[0]] = true;
            }
        }
        $tried['Table columns'] = true;
        $facts = [];
        foreach ([Table::class, Column::class, Index::class, Routine::class] as $class) {
            foreach ((new \ReflectionMethod($class, '__construct'))->getParameters() as $parameter) {
                if ([] === $parameter->getAttributes(OfTheMoment::class)) {
                    $facts[] = substr($class, (int) strrpos($class, '\\') + 1).' '.$parameter->getName();
                }
            }
        }

        self::assertSame([], array_values(array_diff($facts, array_keys($tried), self::KNOWN_BY)));
    }

    public function testFiguresOfTheMomentAreNoChange(): void
    {
        self::assertSame([], self::drift(self::table('rowEstimate', 10), self::table('rowEstimate', 11)));
        self::assertSame([], self::drift(self::table('sizeBytes', 10), self::table('sizeBytes', null)));
    }

    /** @return list<TableDrift> */
    private static function drift(Table $was, Table $is): array
    {
        return Compare::catalogs(new Catalog('mariadb', '10.11', [$was]), new Catalog('mariadb', '10.11', [$is]));
    }

    private static function table(string $fact, mixed $value): Table
    {
        $columns = [new Column('id', 'int(11)', false), new Column('other', 'int(11)')];

        return Made::with(Table::class, [$fact => $value] + ['schema' => 'main', 'name' => 'reading', 'kind' => TableType::Table, 'columns' => $columns]);
    }

    private static function index(string $fact = 'name', mixed $value = 'i'): Index
    {
        return Made::with(Index::class, [$fact => $value] + ['name' => 'i', 'parts' => [new IndexPart('other'), new IndexPart('id')]]);
    }

    private static function trigger(string $timing = 'BEFORE', string $event = 'INSERT', string $body = 'SET NEW.other = 1'): Trigger
    {
        return new Trigger('t', $timing, $event, $body);
    }
}
