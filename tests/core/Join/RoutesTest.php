<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Area;
use Fasti\Core\Join\Areas;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\CatalogLinks;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Loop;
use Fasti\Core\Join\Loops;
use Fasti\Core\Join\LoopSql;
use Fasti\Core\Join\Route;
use Fasti\Core\Join\Routes;
use Fasti\Core\Join\RouteSql;
use PHPUnit\Framework\TestCase;

/** Routes, loops and areas over joins. */
final class RoutesTest extends TestCase
{
    public function testTheShortestComesFirstAndMultiplyingCostsMore(): void
    {
        // 0 → 1 → 2, and 0 ← 3 → 2.
        $routes = new Routes([self::link(0, 0, 1), self::link(1, 1, 2), self::link(2, 3, 0), self::link(3, 3, 2)]);
        $found = $routes->between(0, 2);

        self::assertSame([[0, 1, 2], [0, 3, 2]], array_map(static fn (Route $route): array => $route->nodes(), $found));
        self::assertSame([false, true], array_map(static fn (Route $route): bool => $route->multiplies(), $found));
        self::assertFalse($found[0]->drops());
    }

    public function testWhatIsUncertainComesAfterWhatIsSure(): void
    {
        $routes = new Routes([self::link(0, 0, 2, 0.6), self::link(1, 0, 1), self::link(2, 1, 2)]);

        self::assertSame([[0, 1, 2], [0, 2]], array_map(static fn (Route $route): array => $route->nodes(), $routes->between(0, 2)));
    }

    public function testTwoJoinsBetweenTheSameAreTwoRoutesAndNoRouteIsLongerThanSix(): void
    {
        $links = [self::link(0, 0, 1), self::link(1, 0, 1)];
        for ($i = 1; $i < 7; ++$i) {
            $links[] = self::link(10 + $i, $i, $i + 1);
        }
        $routes = new Routes($links);

        self::assertCount(2, $routes->between(0, 1));
        self::assertCount(2, $routes->between(0, 6));
        self::assertSame([], $routes->between(0, 7), 'it is seven joins away');
        self::assertSame([1, 2, 3], $routes->near(0, 3));
        self::assertSame([], $routes->between(3, 3));
        self::assertSame([], $routes->between(0, 99));
        self::assertSame([], (new Routes([self::link(0, 5, 5)]))->near(5, 3), 'a loop of one leads nowhere else');
    }

    /** Held against all simple chains of at most four joins, found by trying everything. */
    public function testOfAllChainsTheCheapestAreFound(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 30; ++$round) {
            $links = [];
            for ($i = 0; $i < 22; ++$i) {
                $links[] = new Link(
                    $i,
                    mt_rand(0, 9),
                    mt_rand(0, 9),
                    [['a', 'b']],
                    new Cardinality(End::cases()[mt_rand(0, 3)], End::cases()[mt_rand(0, 1)]),
                    mt_rand(50, 100) / 100,
                );
            }
            $routes = new Routes($links);
            $found = array_map(static fn (Route $route): float => round($route->cost, 6), $routes->between(0, 1, 12, 4));
            $all = array_map(static fn (Route $route): float => round($route->cost, 6), $routes->between(0, 1, 100000, 4));
            $tried = self::chains($links, 0, 1, 4);

            self::assertCount($tried, $all);
            self::assertSame(\array_slice(self::sorted($all), 0, 12), $found);
        }
    }

    public function testARouteIsAStatementThatRuns(): void
    {
        $base = new Base("CREATE TABLE unit (id integer PRIMARY KEY, symbol text); CREATE TABLE \"odd name\" (id integer PRIMARY KEY, unit_id integer
            REFERENCES unit (id));
            CREATE TABLE reading (id integer PRIMARY KEY, p integer REFERENCES \"odd name\" (id), kind text);
            INSERT INTO unit VALUES (1, 'm'), (2, 's'); INSERT INTO \"odd name\" VALUES (1, 1), (2, 2); INSERT INTO reading VALUES (1, 1, 'x'), (2, 1,
                'x'), (3, 2, 'x');");
        $catalog = $base->catalog();
        $at = array_flip(array_map(static fn ($table): string => $table->name, $catalog->tables));
        $route = (new Routes(CatalogLinks::of($catalog)))->between($at['reading'], $at['unit'])[0];
        $sql = new RouteSql(Dialects::of('sqlite'), array_map(static fn ($table): Place => $table->place(), $catalog->tables));

        self::assertStringStartsWith("SELECT *\nFROM ", $sql->select($route));
        self::assertCount(3, [...$base->rows($sql->select($route))]);
        self::assertSame([['n' => '3']], [...$base->rows($sql->select($route, 1, 'COUNT(*) AS n'))]);
        self::assertSame([['n' => '3']], [...$base->rows($sql->select($route, 0, 'COUNT(*) AS n'))]);
    }

    public function testAConditionAndTheSameNameInTwoSchemasAreInTheStatement(): void
    {
        $link = new Link(0, 0, 1, [['subject_id', 'id']], new Cardinality(End::NoneOrMore, End::One), 1.0, ['kind', "it's"]);
        $route = (new Routes([$link]))->between(0, 1)[0];
        $sql = (new RouteSql(Dialects::of('mariadb'), [new Place('a', 'x'), new Place('b', 'x')]))->select($route);

        self::assertSame("SELECT *\nFROM `a`.`x` AS `x`\nJOIN `b`.`x` AS `x_2` ON `x_2`.`id` = `x`.`subject_id` AND `x`.`kind` = 'it''s'", $sql);
        self::assertTrue($route->drops(), 'rows of another kind drop out');
    }

    public function testLoopsAreTwoWaysToTheSameAndCasesOfOneFieldAreNone(): void
    {
        $loops = Loops::of([self::link(0, 0, 2), self::link(1, 0, 1), self::link(2, 1, 2), self::link(3, 4, 4)]);

        self::assertSame([[4, 4, 1], [0, 2, 3]], array_map(static fn (Loop $loop): array => [$loop->from, $loop->to, $loop->length()], $loops));
        $case = static fn (int $id, int $to, string $kind): Link => new Link(
            $id,
            0,
            $to,
            [['s', 'id']],
            new Cardinality(End::NoneOrMore, End::One),
            1.0,
            ['kind', $kind],
        );
        self::assertSame([], Loops::of([$case(0, 1, 'a'), $case(1, 2, 'b'), self::link(2, 1, 3), self::link(3, 2, 3)]));
    }

    public function testWhetherTheWaysOfALoopAgreeIsCounted(): void
    {
        $base = new Base("CREATE TABLE station (id integer PRIMARY KEY, code text UNIQUE); CREATE TABLE visit (id integer PRIMARY KEY, station_id integer
            REFERENCES station (id));
            CREATE TABLE sample (id integer PRIMARY KEY, visit_id integer REFERENCES visit (id), station_id integer REFERENCES station (id), code text);
            INSERT INTO station VALUES (1, 'A'), (2, 'B'); INSERT INTO visit VALUES (1, 1), (2, 2);
            INSERT INTO sample VALUES (1, 1, 1, 'A'), (2, 1, 2, 'A'), (3, 2, 2, 'A'), (4, NULL, 1, 'A'), (5, 2, NULL, 'B');");
        $catalog = $base->catalog();
        $sql = new LoopSql(Dialects::of('sqlite'), array_map(static fn ($table): Place => $table->place(), $catalog->tables));
        $loop = Loops::of(CatalogLinks::of($catalog))[0];

        self::assertSame([['both_ways' => '3', 'same_end' => '2', 'all_rows' => '5']], [...$base->rows($sql->count($loop))]);
        // By another key of the last table.
        $at = array_flip(array_map(static fn ($table): string => $table->name, $catalog->tables));
        $byCode = new Link(9, $at['sample'], $at['station'], [['code', 'code']], new Cardinality(End::NoneOrMore, End::One));
        $others = array_filter(CatalogLinks::of($catalog), static fn (Link $link): bool => !($link->from === $at['sample'] && $link->to === $at['station']));
        self::assertSame(
            [['both_ways' => '4', 'same_end' => '3', 'all_rows' => '5']],
            [...$base->rows($sql->count(Loops::of([$byCode, ...array_values($others)])[0]))],
        );
    }

    public function testAreasAreWhatIsJoinedMoreToItselfThanToTheRest(): void
    {
        $links = [];
        foreach ([[0, 1, 2, 3], [4, 5, 6, 7]] as $of) {
            foreach ($of as $i => $one) {
                foreach (\array_slice($of, $i + 1) as $other) {
                    $links[] = self::link(\count($links), $one, $other);
                }
            }
        }
        $links[] = self::link(99, 3, 4);
        $areas = array_map(static function (Area $area): array {
            $nodes = $area->nodes;
            sort($nodes);

            return $nodes;
        }, Areas::of(range(0, 9), $links));

        self::assertEqualsCanonicalizing([[0, 1, 2, 3], [4, 5, 6, 7]], $areas, 'what stands alone is in none');
        self::assertSame([], Areas::of([], []));
        self::assertSame([], Areas::of([1], [self::link(0, 1, 1)]));
    }

    private static function link(int $id, int $from, int $to, float $certainty = 1.0): Link
    {
        return new Link($id, $from, $to, [['a', 'b']], new Cardinality(End::NoneOrMore, End::One), $certainty);
    }

    /** @param list<Link> $links */
    private static function chains(array $links, int $from, int $to, int $most): int
    {
        $count = 0;
        $go = static function (int $node, array $passed, int $left) use (&$go, &$count, $links, $to): void {
            if ($node === $to) {
                ++$count;

                return;
            }
            foreach (0 === $left ? [] : $links as $link) {
                foreach ($link->from === $link->to ? [] : [[$link->from, $link->to], [$link->to, $link->from]] as [$here, $there]) {
                    if ($here === $node && !\in_array($there, $passed, true)) {
                        $go($there, [...$passed, $there], $left - 1);
                    }
                }
            }
        };
        $go($from, [$from], $most);

        return $count;
    }

    /**
     * @param list<float> $costs
     *
     * @return list<float>
     */
    private static function sorted(array $costs): array
    {
        sort($costs);

        return $costs;
    }
}
