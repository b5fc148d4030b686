<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Join\DataEvidence;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use PHPUnit\Framework\TestCase;

/** What the rows say of keys: that it is none, that there is nothing to learn, that it is one of several tables'. */
final class KeysTest extends TestCase
{
    private const NOTES = 'CREATE TABLE gauge (auth char(3), code integer, label text, PRIMARY KEY (auth, code));
        CREATE TABLE weir (auth char(3), code integer, label text, PRIMARY KEY (auth, code)); CREATE TABLE person (id integer PRIMARY KEY, full_name text);
        CREATE TABLE note (note_no integer PRIMARY KEY, about_table_name varchar(20), about_auth char(3), about_code integer, said text);';

    public function testWhatIsCalledLikeAKeyAndRepeatsIsNone(): void
    {
        $sql = 'CREATE TABLE station (station_id integer, seen text); CREATE TABLE visit (visit_no integer PRIMARY KEY, station_id integer);';
        $visits = Base::rowsOf('visit', 300, 'n, n % 40 + 1');

        self::assertGreaterThan(0.3, (new Base($sql))->named()['visit.station_id > station.station_id'] ?? 0.0, 'by names it may be one');
        self::assertGreaterThan(0.5, (new Base($sql.Base::rowsOf('station', 40, "n, 'x'").$visits))->looked()['visit.station_id > station.station_id']);
        $repeated = (new Base($sql.Base::rowsOf('station', 80, "n % 40 + 1, 'x'").$visits))->looked();
        self::assertArrayNotHasKey('visit.station_id > station.station_id', $repeated);
    }

    public function testAnEmptyTableSaysNothingOfWhatLeadsThere(): void
    {
        $sql = 'CREATE TABLE team (id integer PRIMARY KEY, label text); CREATE TABLE visit (visit_no integer PRIMARY KEY, team_id integer);';
        $named = (new Base($sql))->named()['visit.team_id > team.id'];
        $proposal = self::found($sql.Base::rowsOf('visit', 200, 'n, n % 31 + 1'), 'team_id');

        self::assertNull($proposal->data, 'nothing is told of values that could not be found');
        self::assertEqualsWithDelta($named, $proposal->confidence, 1e-9);
    }

    public function testOneValueForAllRowsSaysNothing(): void
    {
        $sql = 'CREATE TABLE team (id integer PRIMARY KEY, label text); CREATE TABLE visit (visit_no integer PRIMARY KEY, team_id integer);'
            .Base::rowsOf('team', 30, "n, 'x'");

        self::assertNull(self::found($sql.Base::rowsOf('visit', 200, 'n, 1'), 'team_id')->data);
        self::assertNull(self::found($sql.Base::rowsOf('visit', 200, 'n, 0'), 'team_id')->data);
        self::assertInstanceOf(DataEvidence::class, self::found($sql.Base::rowsOf('visit', 200, 'n, n % 2 + 1'), 'team_id')->data);
        $elsewhere = (new Base($sql.Base::rowsOf('visit', 200, 'n, 4711')))->looked();
        self::assertArrayNotHasKey('visit.team_id > team.id', $elsewhere, 'that it is not there says something');
    }

    public function testAFieldThatHoldsNamesOfTablesTellsWhereTheFieldsBesideItLead(): void
    {
        $rows = Base::rowsOf('gauge', 40, "CASE n % 2 WHEN 0 THEN 'AAA' ELSE 'BBB' END, n, 'x'").Base::rowsOf('weir', 60, "'CCC', n, 'x'")
            .Base::rowsOf('person', 50, "n, 'x'");
        $half = "CASE WHEN n % 2 THEN 'gauge' ELSE 'weir' END, CASE WHEN n % 2 = 0 THEN 'CCC' WHEN (n % 40 + 1) % 2 = 0 THEN 'AAA' ELSE 'BBB' END";
        $said = (new Base(self::NOTES.$rows.Base::rowsOf('note', 200, "n, $half, n % 40 + 1, 'y'")))->looked();

        self::assertSame(0.98, $said["note.about_auth+about_code > gauge.auth+code where about_table_name = 'gauge'"]);
        self::assertSame(0.98, $said["note.about_auth+about_code > weir.auth+code where about_table_name = 'weir'"]);
        self::assertArrayNotHasKey('note.about_auth+about_code > gauge.auth+code', $said);
        $wrong = (new Base(self::NOTES.$rows.Base::rowsOf('note', 200, "n, CASE WHEN n % 2 THEN 'gauge' ELSE 'weir' END, 'ZZZ', n, 'y'")))->looked();
        self::assertSame(0.15, $wrong["note.about_auth+about_code > gauge.auth+code where about_table_name = 'gauge'"], 'none of its values is there');
    }

    public function testWhatTheStructureSaysOfTheNamesOfTablesIsEnough(): void
    {
        $checked = str_replace('about_table_name varchar(20)', "about_table_name varchar(20) CHECK (about_table_name IN ('gauge', 'weir'))", self::NOTES);
        $said = (new Base($checked))->named();

        self::assertSame(0.93, $said["note.about_auth+about_code > weir.auth+code where about_table_name = 'weir'"]);
        self::assertSame([], array_filter(array_keys((new Base(self::NOTES))->named()), static fn (string $one): bool => str_contains($one, 'where')));
    }

    public function testWordsThatNameNoTableMakeNoCase(): void
    {
        $other = Base::rowsOf('note', 200, "n, CASE n % 3 WHEN 0 THEN 'gauge' WHEN 1 THEN 'weather' ELSE 'people at large' END, 'AAA', n % 9, 'y'");
        $said = (new Base(self::NOTES.Base::rowsOf('gauge', 40, "'AAA', n, 'x'").$other))->looked();

        self::assertSame([], array_filter(array_keys($said), static fn (string $one): bool => str_contains($one, 'where')));
    }

    private static function found(string $sql, string $field): Proposal
    {
        $base = new Base($sql);
        foreach ((new Proposals())->of($base->catalog(), $base) as $one) {
            if ([$field] === $one->columns) {
                return $one;
            }
        }
        self::fail("Nothing is proposed for $field.");
    }
}
