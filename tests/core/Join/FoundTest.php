<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Joins that nothing declares, found by names, types, keys and data. How well, over whole schemas, bench/JoinBench measures. */
final class FoundTest extends TestCase
{
    /** @return iterable<string, array{string, string}> the tables, and the one join between them */
    public static function names(): iterable
    {
        $station = 'CREATE TABLE station (id integer PRIMARY KEY, name varchar(40));';
        yield 'snake' => [$station.'CREATE TABLE visit (id integer PRIMARY KEY, station_id integer)', 'visit.station_id > station.id'];
        yield 'camel and plural' => [
            'CREATE TABLE stations (id integer PRIMARY KEY, name text); CREATE TABLE visits (id integer PRIMARY KEY, stationId integer)',
            'visits.stationId > stations.id',
        ];
        yield 'capitals' => [
            'CREATE TABLE Station (StationID integer PRIMARY KEY, Name text); CREATE TABLE Visit (VisitID integer PRIMARY KEY, StationID integer)',
            'Visit.StationID > Station.StationID',
        ];
        yield 'run together' => [$station.'CREATE TABLE visit (id integer PRIMARY KEY, stationid integer)', 'visit.stationid > station.id'];
        yield 'the key before' => [$station.'CREATE TABLE visit (id integer PRIMARY KEY, fk_station integer)', 'visit.fk_station > station.id'];
        yield 'a prefix of tables' => [
            'CREATE TABLE tbl_station (id integer PRIMARY KEY, name text); CREATE TABLE tbl_visit (id integer PRIMARY KEY, station_id integer)',
            'tbl_visit.station_id > tbl_station.id',
        ];
        yield 'a prefix of fields' => [
            'CREATE TABLE customer (c_custkey integer PRIMARY KEY, c_name text, c_phone text); CREATE TABLE orders (o_orderkey integer PRIMARY KEY,
                o_custkey integer, o_total real)',
            'orders.o_custkey > customer.c_custkey',
        ];
        yield 'a short form' => [$station.'CREATE TABLE visit (id integer PRIMARY KEY, stn_id integer)', 'visit.stn_id > station.id'];
        yield 'a role' => [$station.'CREATE TABLE visit (id integer PRIMARY KEY, home_station_id integer)', 'visit.home_station_id > station.id'];
        yield 'by a code' => [
            'CREATE TABLE species (code char(5) PRIMARY KEY, name text); CREATE TABLE sighting (id integer PRIMARY KEY, species_code char(5))',
            'sighting.species_code > species.code',
        ];
        yield 'to a unique key' => [
            'CREATE TABLE lab (id integer PRIMARY KEY, lab_no varchar(8) UNIQUE, name text); CREATE TABLE result (id integer PRIMARY KEY, lab_no varchar(8))',
            'result.lab_no > lab.lab_no',
        ];
        yield 'to itself' => ['CREATE TABLE category (id integer PRIMARY KEY, parent_id integer, name text)', 'category.parent_id > category.id'];
        yield 'to somebody' => [
            'CREATE TABLE person (id integer PRIMARY KEY, full_name text, email text); CREATE TABLE note (id integer PRIMARY KEY, created_by integer,
                body text)',
            'note.created_by > person.id',
        ];
        yield 'the end of a name' => [
            'CREATE TABLE instrument_model (id integer PRIMARY KEY, maker text); CREATE TABLE instrument (id integer PRIMARY KEY, model_id integer)',
            'instrument.model_id > instrument_model.id',
        ];
    }

    #[DataProvider('names')]
    public function testNamesInAnyStyleLeadToTheirTable(string $sql, string $join): void
    {
        $said = (new Base($sql))->named();

        self::assertArrayHasKey($join, $said);
        self::assertGreaterThanOrEqual(0.5, $said[$join]);
        self::assertSame([$join], array_keys(array_filter($said, static fn (float $confidence): bool => $confidence >= 0.5)));
    }

    public function testPlainNamesInManyTablesAreNoJoins(): void
    {
        $sql = '';
        foreach (['alder', 'birch', 'cedar', 'elm'] as $name) {
            $sql .= "CREATE TABLE $name (id integer PRIMARY KEY, name text, type integer, status integer, created_at datetime);";
            $sql .= Base::rowsOf($name, 60, "n, 'x' || n, n % 3 + 1, n % 2 + 1, '2026-01-01'");
        }
        $base = new Base($sql);

        self::assertSame([], array_filter($base->named(), static fn (float $confidence): bool => $confidence >= 0.3));
        self::assertSame([], array_filter($base->looked(), static fn (float $confidence): bool => $confidence >= 0.3));
    }

    public function testACompositeKeyIsReachedByAllItsFields(): void
    {
        $base = new Base('CREATE TABLE lab (code char(3) PRIMARY KEY, name text);
            CREATE TABLE method (lab_code char(3), method_code varchar(10), name text, PRIMARY KEY (lab_code, method_code));
            CREATE TABLE lab_result (id integer PRIMARY KEY, lab_code char(3), method_code varchar(10), value real)');
        $said = $base->named();

        self::assertGreaterThan(0.6, $said['lab_result.lab_code+method_code > method.lab_code+method_code']);
        self::assertLessThan(0.5, $said['lab_result.lab_code > lab.code'] ?? 0.0, 'it is implied by the other');
    }

    public function testTwoReferencesToOneCompositeKeyAreToldApartByTheirRole(): void
    {
        $said = (new Base('CREATE TABLE location (zone_code varchar(4), place_code varchar(4), size real, PRIMARY KEY (zone_code, place_code));
            CREATE TABLE movement (id integer PRIMARY KEY, from_zone_code varchar(4), from_place_code varchar(4), to_zone_code varchar(4),
                to_place_code varchar(4))'))->named();

        self::assertArrayHasKey('movement.from_zone_code+from_place_code > location.zone_code+place_code', $said);
        self::assertArrayHasKey('movement.to_zone_code+to_place_code > location.zone_code+place_code', $said);
        self::assertArrayNotHasKey('movement.from_zone_code+to_place_code > location.zone_code+place_code', $said);
    }

    public function testValuesOfAnotherTypeAreComparedByTheirTexts(): void
    {
        $base = new Base('CREATE TABLE site (id integer PRIMARY KEY, name text); CREATE TABLE good (id integer PRIMARY KEY, site_id varchar(10));
            CREATE TABLE bad (id integer PRIMARY KEY, site_id varchar(10));'
            .Base::rowsOf('site', 40, "n, 'x'").Base::rowsOf('good', 80, 'n, CAST(n % 40 + 1 AS TEXT)').Base::rowsOf('bad', 80, "n, (n % 40 + 1) || 'abc'"));
        $said = $base->looked();

        self::assertGreaterThan(0.5, $said['good.site_id > site.id']);
        self::assertArrayNotHasKey('bad.site_id > site.id', $said, '12abc is not 12');
    }

    public function testSmallNumbersProveNothing(): void
    {
        $base = new Base('CREATE TABLE barrier (id integer PRIMARY KEY, height real); CREATE TABLE incident (id integer PRIMARY KEY, what text,
            severity integer);'
            .Base::rowsOf('barrier', 300, 'n, n * 1.5').Base::rowsOf('incident', 300, "n, 'x', n % 5 + 1"));

        self::assertLessThan(0.3, $base->looked()['incident.severity > barrier.id'] ?? 0.0);
    }

    public function testTheDataLeadsWhereNamesSayNothing(): void
    {
        $base = new Base('CREATE TABLE species (code char(5) PRIMARY KEY, name text); CREATE TABLE sighting (id integer PRIMARY KEY, what varchar(5));'
            .Base::rowsOf('species', 40, "'SP' || (100 + n), 'x'").Base::rowsOf('sighting', 400, "n, 'SP' || (101 + (n * 7) % 40)"));
        $said = $base->looked();

        self::assertGreaterThan(0.4, $said['sighting.what > species.code'] ?? 0.0);
        self::assertArrayNotHasKey('sighting.what > species.code', $base->named());
    }

    public function testAValueThatStandsForNoneIsSaidAndIsNoOrphan(): void
    {
        $base = new Base('CREATE TABLE team (id integer PRIMARY KEY, name text); CREATE TABLE visit (id integer PRIMARY KEY, team_id integer);'
            .Base::rowsOf('team', 30, "n, 'x'").Base::rowsOf('visit', 200, 'n, n % 31'));
        $proposal = (new Proposals())->of($base->catalog(), $base)[0];

        self::assertSame('0', $proposal->data?->none);
        self::assertGreaterThan(0.9, $proposal->confidence);
        self::assertStringContainsString('0 stands for none', implode("\n", array_map(static fn ($one): string => $one->words, $proposal->evidence)));
    }

    public function testWhatLeadsToOneOfSeveralTablesIsACaseOfEach(): void
    {
        $sql = "CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE barrier (id integer PRIMARY KEY, name text);
            CREATE TABLE alert (id integer PRIMARY KEY, subject_kind varchar(10) CHECK (subject_kind IN ('station', 'barrier')), subject_id integer);";
        $named = (new Base($sql))->named();
        $looked = (new Base($sql.Base::rowsOf('station', 40, "n, 'x'").Base::rowsOf('barrier', 90, "n, 'x'")
            .Base::rowsOf(
                'alert',
                400,
                "n, CASE WHEN n % 2 THEN 'station' ELSE 'barrier' END, CASE WHEN n % 2 THEN n % 40 + 1 ELSE n % 90 + 1 END",
            )))->looked();

        foreach ([$named, $looked] as $said) {
            self::assertGreaterThan(0.8, $said["alert.subject_id > station.id where subject_kind = 'station'"]);
            self::assertGreaterThan(0.8, $said["alert.subject_id > barrier.id where subject_kind = 'barrier'"]);
            self::assertArrayNotHasKey('alert.subject_id > station.id', $said);
        }
    }

    public function testAKindThatIsAClassNamesItsTable(): void
    {
        $base = new Base('CREATE TABLE photo (id integer PRIMARY KEY, path text); CREATE TABLE article (id integer PRIMARY KEY, title text);
            CREATE TABLE comment (id integer PRIMARY KEY, commentable_type varchar(60), commentable_id integer);'
            .Base::rowsOf('photo', 50, "n, 'x'").Base::rowsOf('article', 80, "n, 'x'")
            .Base::rowsOf(
                'comment',
                300,
                "n, CASE WHEN n % 2 THEN 'App\\Entity\\Photo' ELSE 'App\\Entity\\Article' END, CASE WHEN n % 2 THEN n % 50 + 1 ELSE n % 80 + 1 END",
            ));

        self::assertCount(
            2,
            array_filter(
                array_keys($base->looked()),
                static fn (string $join): bool => str_starts_with($join, 'comment.commentable_id > ') && str_contains($join, 'where'),
            ),
        );
    }

    public function testWhatIsDeclaredIsNotProposedAndHelpsTheRest(): void
    {
        $tables = 'CREATE TABLE person (id integer PRIMARY KEY, name text);';
        $alone = (new Base($tables.'CREATE TABLE a (id integer PRIMARY KEY, done_by integer);'))->named();
        $helped = (new Base($tables.'CREATE TABLE a (id integer PRIMARY KEY, done_by integer); CREATE TABLE b (id integer PRIMARY KEY, done_by integer
            REFERENCES person (id));
            CREATE TABLE c (id integer PRIMARY KEY, done_by integer REFERENCES person (id));'))->named();

        self::assertGreaterThan($alone['a.done_by > person.id'] ?? 0.0, $helped['a.done_by > person.id']);
        self::assertSame([], array_filter(array_keys($helped), static fn (string $join): bool => str_starts_with($join, 'b.') || str_starts_with($join, 'c.')));
    }

    public function testAViewAndATriggerSpeakForAJoin(): void
    {
        $plain = 'CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE visit (id integer PRIMARY KEY, place integer);';
        $view = (new Proposals())->of((new Base($plain.'CREATE VIEW seen AS SELECT v.id, s.name FROM visit v JOIN station s ON s.id = v.place;'))->catalog());
        $words = implode("\n", array_map(static fn ($one): string => $one->words, $view[0]->evidence));

        self::assertSame('visit.place > station.id', array_key_first(Base::said($view)));
        self::assertStringContainsString('joined so in seen', $words);
        $trigger = (new Proposals())->of(
            (new Base(
                $plain.'CREATE TRIGGER v AFTER INSERT ON visit BEGIN UPDATE visit SET place = (SELECT id FROM station WHERE id = NEW.place); END;',
            ))->catalog(),
        );
        self::assertGreaterThan(0.5, Base::said($trigger)['visit.place > station.id'] ?? 0.0);
    }

    public function testAQueryThatWasHandedInSpeaksForAJoin(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE visit (id integer PRIMARY KEY, place integer);');
        $said = Base::said((new Proposals())->of($base->catalog(), null, ['who was where' => 'SELECT * FROM visit, station WHERE station.id = visit.place']));

        self::assertGreaterThan(0.5, $said['visit.place > station.id']);
    }

    public function testWhatWasDismissedStaysAwayAndLowersWhatIsLikeIt(): void
    {
        $base = new Base(
            'CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE a (id integer PRIMARY KEY, station_id integer);
                CREATE TABLE b (id integer PRIMARY KEY, station_id integer);',
        );
        $all = (new Proposals())->of($base->catalog());
        $first = array_values(array_filter($all, static fn (Proposal $one): bool => 'a' === $one->from->name))[0];
        $said = Base::said((new Proposals())->of($base->catalog(), null, [], [Proposals::identity($first) => true]));

        self::assertArrayNotHasKey('a.station_id > station.id', $said);
        self::assertLessThan(Base::said($all)['b.station_id > station.id'], $said['b.station_id > station.id']);
    }

    public function testNamesThatNeedQuotingAreAskedAbout(): void
    {
        $base = new Base('CREATE TABLE "order list" ("Order No" integer PRIMARY KEY, "a ""b""" text); CREATE TABLE "order.line" (id integer PRIMARY KEY,
            "Order No" integer);'
            .Base::rowsOf('"order list"', 40, "n, 'x'").Base::rowsOf('"order.line"', 90, 'n, n % 40 + 1'));

        self::assertGreaterThan(0.9, $base->looked()['order.line.Order No > order list.Order No']);
    }

    public function testATableThatIsDroppedWhileItIsLookedAtIsSaidAndTheOthersAreFound(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE a (id integer PRIMARY KEY, station_id integer);
            CREATE TABLE gone (id integer PRIMARY KEY, station_id integer);'
            .Base::rowsOf('station', 40, "n, 'x'").Base::rowsOf('a', 90, 'n, n % 40 + 1'));
        $catalog = $base->catalog();
        $base->pdo->exec('DROP TABLE gone');
        $proposals = new Proposals();
        $said = Base::said($proposals->of($catalog, $base));

        self::assertGreaterThan(0.9, $said['a.station_id > station.id']);
        self::assertStringContainsString('gone', implode(' ', $proposals->notes));
    }

    public function testAQuestionOverItsTimeIsGivenUpAndSaid(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE a (id integer PRIMARY KEY, station_id integer);'
            .Base::rowsOf('station', 40, "n, 'x'").Base::rowsOf('a', 90, 'n, n % 40 + 1'));
        $catalog = $base->catalog();
        $base->before = static function (string $sql): void {
            if (str_contains($sql, 'FROM "a"')) {
                throw new SourceError('too long', '', null, SourceError::OVER_TIME);
            }
        };
        $proposals = new Proposals();
        $said = Base::said($proposals->of($catalog, $base));

        self::assertGreaterThan(0.5, $said['a.station_id > station.id'], 'names speak for it all the same');
        self::assertStringContainsString('took too long', implode(' ', $proposals->notes));
    }

    public function testABudgetThatIsSpentIsSaid(): void
    {
        $base = new Base('CREATE TABLE station (id integer PRIMARY KEY, name text); CREATE TABLE a (id integer PRIMARY KEY, station_id integer);');
        $proposals = new Proposals(0.0);

        self::assertArrayHasKey('a.station_id > station.id', Base::said($proposals->of($base->catalog(), $base)));
        self::assertStringContainsString('as its budget says', implode(' ', $proposals->notes));
    }

    public function testOneFieldHasFewProposalsHoweverManyTablesItMayName(): void
    {
        $sql = 'CREATE TABLE item (id integer PRIMARY KEY, code_id integer);';
        for ($i = 0; $i < 200; ++$i) {
            $sql .= "CREATE TABLE w{$i}_code (id integer PRIMARY KEY, name text);";
        }

        self::assertLessThanOrEqual(12, \count((new Base($sql))->named()));
    }

    public function testAMemberOfACollectionLeadsToATable(): void
    {
        $seen = new Seen(10, 10, ['integer' => 10]);
        $catalog = new Catalog('sqlite', '', [
            new Table('', 'station', TableType::Table, '', [new Column('id', 'integer', false), new Column('name', 'text')], new Key(null, ['id'])),
            new Table(
                '',
                'messages',
                TableType::Collection,
                '',
                [new Column('header.stationId', 'integer', seen: $seen), new Column('readings[].value', 'number', seen: $seen)],
            ),
        ]);

        self::assertGreaterThan(0.5, Base::said((new Proposals())->of($catalog))['messages.header.stationId > station.id']);
    }

    public function testAListOfReferencesLeadsToWhatItListsRowsOf(): void
    {
        $catalog = new Catalog('postgresql', '', [
            new Table('public', 'tag', TableType::Table, '', [new Column('id', 'integer', false), new Column('name', 'text')], new Key(null, ['id'])),
            new Table('public', 'post', TableType::Table, '', [new Column('id', 'integer', false), new Column('tag_ids', 'integer[]')], new Key(null, ['id'])),
        ]);

        self::assertGreaterThan(0.5, Base::said((new Proposals())->of($catalog))['post.tag_ids > tag.id']);
    }

    public function testACopyOfATableIsNotWhatItRefersTo(): void
    {
        $said = (new Base('CREATE TABLE reading_2023 (station integer, taken_at datetime, value real, PRIMARY KEY (station, taken_at));
            CREATE TABLE reading_2024 (station integer, taken_at datetime, value real, PRIMARY KEY (station, taken_at))'))->named();

        self::assertSame([], array_filter($said, static fn (float $confidence): bool => $confidence >= 0.5));
    }

    public function testAnEmptyCatalogHasNoProposals(): void
    {
        self::assertSame([], (new Proposals())->of(new Catalog('mariadb', '', [])));
        self::assertSame([], (new Proposals())->of(new Catalog('mariadb', '', [new Table('s', 't', TableType::Table)])));
    }

    public function testTriggersWithoutQueriesSayNothing(): void
    {
        $table = new Table(
            's',
            't',
            TableType::Table,
            '',
            [new Column('id', 'int', false)],
            new Key(null, ['id']),
            triggers: [new Trigger('x', 'BEFORE', 'INSERT', 'SELECT FROM WHERE (')],
        );

        self::assertSame([], (new Proposals())->of(new Catalog('mariadb', '', [$table])));
    }
}
