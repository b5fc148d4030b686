<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Candidate;
use Fasti\Core\Join\Candidates;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\Evidence;
use Fasti\Core\Join\EvidenceWords;
use Fasti\Core\Join\Feature;
use Fasti\Core\Join\JoinKey;
use Fasti\Core\Join\KeyValues;
use Fasti\Core\Join\NameMatch;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Join\TypeFit;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The parts of which finding joins consists, each by itself. */
final class PartsTest extends TestCase
{
    /** @return iterable<array{string, string, bool}> */
    public static function shortForms(): iterable
    {
        yield ['stn', 'station', true];
        yield ['dept', 'department', true];
        yield ['cust', 'customer', true];
        yield ['qty', 'quantity', true];
        yield ['st', 'station', false];
        yield ['ton', 'station', false];
        yield ['station', 'station', false];
        yield ['stations', 'station', false];
        yield ['ore', 'order', false];
    }

    #[DataProvider('shortForms')]
    public function testAShortFormBeginsAlikeAndKeepsTheOrderOfLetters(string $short, string $long, bool $is): void
    {
        self::assertSame($is, NameWords::isShort($short, $long));
    }

    /** @return iterable<array{string, int, list<string>}> field, how it names station, and the role */
    public static function namings(): iterable
    {
        yield ['station_id', NameMatch::EQUAL, []];
        yield ['homeStationId', NameMatch::ROLE, ['home']];
        yield ['station_first', NameMatch::ROLE_AFTER, ['first']];
        yield ['stn_ref', NameMatch::SHORT, []];
        yield ['STATIONID', NameMatch::EQUAL, []];
        yield ['homestation', NameMatch::INSIDE, ['home']];
        yield ['site', NameMatch::SYNONYM, []];
    }

    /** @param list<string> $role */
    #[DataProvider('namings')]
    public function testHowANameNamesATableIsTold(string $field, int $how, array $role): void
    {
        $table = new Table('', 'station', TableType::Table, '', [new Column('id', 'int', false), new Column('name', 'text')], new Key(null, ['id']));
        $visit = new Table('', 'visit', TableType::Table, '', [new Column('id', 'int', false), new Column($field, 'int')], new Key(null, ['id']));
        $match = (new Candidates(new Catalog('mariadb', '', [$table, $visit])))->names->answers($field, 1)[0] ?? null;

        self::assertSame([$how, $role], [$match?->how, $match?->role]);
    }

    public function testKeysArePrimaryUniqueOrOnlyCalledSo(): void
    {
        $columns = [new Column('id', 'int', false), new Column('code', 'char(3)', false), new Column('a', 'int'), new Column('b', 'int')];
        $indexes = [
            new Index('whole', [new IndexPart('a'), new IndexPart('b')], true),
            new Index('part', [new IndexPart('a')], true, 'btree', '', 'b > 0'),
            new Index('plain', [new IndexPart('b')]),
        ];
        $table = new Table(
            '',
            't',
            TableType::Table,
            '',
            $columns,
            new Key(null, ['id']),
            [new Key('u', ['code']), new Key('again', ['id'])],
            indexes: $indexes,
        );
        $said = static fn (Table $of): array => array_map(static fn (JoinKey $key): string => $key->standing.' '.implode('+', $key->columns), JoinKey::of($of));

        self::assertSame(['primary id', 'unique code', 'unique a+b'], $said($table));
        self::assertSame(['likely id'], $said(new Table('', 't', TableType::Table, '', $columns)));
        self::assertSame(
            ['likely station_no'],
            $said(new Table('', 'stations', TableType::Table, '', [new Column('x', 'int'), new Column('station_no', 'int')])),
        );
        self::assertSame([], $said(new Table('', 'v', TableType::View, '', $columns)));
        self::assertSame([], $said(new Table('', 't', TableType::Table, '', [new Column('name', 'text')])));
    }

    /** @return iterable<array{string, string, string, ?TypeFit}> */
    public static function types(): iterable
    {
        yield ['mariadb', 'int(10) unsigned', 'int(10) unsigned', TypeFit::Same];
        yield ['mariadb', 'int(11)', 'bigint(20)', TypeFit::Size];
        yield ['mariadb', 'varchar(6)', 'char(6)', TypeFit::Same];
        yield ['mariadb', 'varchar(6)', 'varchar(9)', TypeFit::Size];
        yield ['mariadb', 'varchar(6)', 'int(11)', TypeFit::Loose];
        yield ['mariadb', 'decimal(10,0)', 'int(11)', TypeFit::Size];
        yield ['mariadb', 'decimal(10,2)', 'int(11)', null];
        yield ['mariadb', 'date', 'int(11)', null];
        yield ['mariadb', 'point', 'point', null];
        yield ['mariadb', "set('a','b')", 'varchar(9)', null];
        yield ['mariadb', 'binary(16)', 'binary(16)', TypeFit::Same];
        yield ['postgresql', 'uuid', 'uuid', TypeFit::Same];
        yield ['postgresql', 'uuid', 'text', TypeFit::Loose];
        yield ['postgresql', 'regproc', 'oid', TypeFit::Same];
        yield ['postgresql', 'oidvector', 'oid', TypeFit::Same];
        yield ['postgresql', 'smallint[]', 'smallint', TypeFit::Same];
        yield ['postgresql', 'jsonb', 'jsonb', null];
    }

    #[DataProvider('types')]
    public function testTypesFitOrNot(string $engine, string $field, string $key, ?TypeFit $fit): void
    {
        $dialect = Dialects::of($engine);

        self::assertSame($fit, TypeFit::of($dialect->typeOf(new Column('a', $field)), $dialect->typeOf(new Column('b', $key))));
    }

    public function testConfidencesOfCompetingTargetsAddUpToAtMostOne(): void
    {
        $key = new JoinKey(new Table('', 't', TableType::Table), ['id'], JoinKey::PRIMARY);
        $one = static fn (float $value): Candidate => new Candidate(0, ['a'], $key, 1, [Feature::ANY => $value]);
        $chooser = new Chooser([Feature::ANY => 2.0]);
        $alone = $one(1.0);
        $first = $one(1.0);
        $second = $one(1.0);
        $against = $one(-2.0);
        $chooser->weigh([$alone]);
        $chooser->weigh([$first, $second]);
        $chooser->weigh([$against]);

        self::assertGreaterThan(0.5, $alone->confidence);
        self::assertEqualsWithDelta($first->confidence, $second->confidence, 1e-9);
        self::assertLessThan($alone->confidence, $first->confidence);
        self::assertLessThanOrEqual(1.0, $first->confidence + $second->confidence);
        self::assertLessThan(0.1, $against->confidence);
        $certain = new Candidate(0, ['a'], $key, 1, [], confidence: 1.0, certain: true);
        $chooser->weigh([$certain]);
        self::assertSame(1.0, $certain->confidence, 'what is declared is not weighed');
    }

    public function testCanonicalTextsAreEqualForNumbersOfTheSameWorthOnly(): void
    {
        self::assertSame(['7', '7', '-3', '7.50', '07', 'A'], array_map(KeyValues::canonical(...), ['7', '7.00', '-3.0', '7.50', '07', 'A  ']));
    }

    public function testWhatIsAskedOfAKeyFitsItsType(): void
    {
        $base = new Base("CREATE TABLE t (id integer PRIMARY KEY, code text); INSERT INTO t VALUES (1, 'A'), (2, 'b'), (12, '12');");
        $table = $base->catalog()->tables[0];
        $values = new KeyValues($base, Dialects::of('sqlite'));

        self::assertSame([1 => true, 12 => true], $values->among($table, ['id'], ['1', '12', '12abc', '01', "1' OR '1", '99999999999999999999']));
        self::assertSame(['A' => true], $values->among($table, ['code'], ['A', 'B', "'"]));
        self::assertSame(
            ['1'.KeyValues::BETWEEN.'A' => true],
            $values->among($table, ['id', 'code'], ['1'.KeyValues::BETWEEN.'A', '2'.KeyValues::BETWEEN.'A']),
        );
        self::assertSame([3, '1', '12'], $values->range($table, 'id'));
    }

    public function testACaseIsSaidAsSql(): void
    {
        $one = static fn (?string $kind, string $field = 'kind'): Proposal => new Proposal(
            new Place('s', 'a'),
            ['x'],
            new Place('s', 'b'),
            ['id'],
            0.98765,
            [new Evidence('so', 1.0)],
            null === $kind ? null : [$field, $kind],
        );

        self::assertSame("kind = 'it''s'", $one("it's")->condition());
        self::assertSame("\"odd kind\" = 'a'", $one('a', 'odd kind')->condition());
        self::assertNull($one(null)->condition());
        self::assertSame([
            'from' => ['schema' => 's', 'table' => 'a', 'columns' => ['x']], 'to' => ['schema' => 's', 'table' => 'b', 'columns' => ['id']],
            'confidence' => 0.988, 'evidence' => ['so'], 'where' => null,
        ], $one(null)->toArray());
        self::assertNotSame(Proposals::identity($one(null)), Proposals::identity($one('a')));
    }

    public function testEvidenceIsInWordsWithWhatCountsMostFirst(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE visit (id integer PRIMARY KEY, home_station_id bigint);');
        $candidates = new Candidates($base->catalog());
        $chooser = Chooser::fitted(false);
        foreach ($candidates->all() as $of) {
            $chooser->weigh($of);
            $words = (new EvidenceWords($candidates, $chooser))->of($of[0]);
            self::assertSame('named after station, in the role “home”', $words[0]->words);
            self::assertGreaterThan(1.0, $words[0]->weight);
        }
        self::assertCount(1, $candidates->all());
    }

    public function testAUniqueIndexOverAnExpressionOrABeginningIsNoKey(): void
    {
        $table = static fn (IndexPart ...$parts): Table => new Table(
            'main', 'reading', TableType::Table, columns: [new Column('id', 'integer', false), new Column('code', 'text')],
            primaryKey: new Key(null, ['id']), indexes: [new Index('i', array_values($parts), true)],
        );
        $keys = static fn (Table $table): array => array_map(static fn (JoinKey $key): array => $key->columns, JoinKey::of($table));

        self::assertSame([['id'], ['code']], $keys($table(new IndexPart('code'))));
        self::assertSame([['id']], $keys($table(new IndexPart('code'), new IndexPart('coalesce(id, 0)'))));
        self::assertSame([['id']], $keys($table(new IndexPart('code', 10))));
        // Looking for joins comes to its end all the same.
        $other = new Table('main', 'other', TableType::Table, columns: [new Column('code', 'text'), new Column('reading_id', 'integer')]);
        self::assertNotSame([], (new Proposals())->of(new Catalog('sqlite', '', [$table(new IndexPart('code'), new IndexPart('coalesce(id, 0)')), $other])));
    }
}
