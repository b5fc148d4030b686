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
use Fasti\Core\Join\LookAlikes;
use Fasti\Core\Join\Loop;
use Fasti\Core\Join\Loops;
use Fasti\Core\Join\LoopSql;
use Fasti\Core\Join\Route;
use Fasti\Core\Join\Routes;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Core\Join\Turns;
use PHPUnit\Framework\Attributes\DataProvider;
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
                    [[['a', 'c', 'd'][$i % 3], 'b']],
                    new Cardinality(End::cases()[mt_rand(0, 3)], End::cases()[mt_rand(0, 1)]),
                    mt_rand(50, 100) / 100,
                );
            }
            $routes = new Routes($links);
            $found = array_map(static fn (Route $route): float => round($route->cost, 6), $routes->between(0, 1, 12, 4));
            $all = array_map(static fn (Route $route): float => round($route->cost, 6), $routes->between(0, 1, 100000, 4));
            $tried = self::chains($links, 0, 1, 4);

            self::assertSame(self::sorted($tried), self::sorted($all));
            self::assertSame(\array_slice(self::sorted($tried), 0, 12), $found);
        }
    }

    /**
     * @param list<list<int>> $links  from and to of each
     * @param list<int>       $first
     * @param list<int>       $second
     */
    #[DataProvider('plainer')]
    public function testThePlainestComesFirst(array $links, array $first, array $second): void
    {
        $links = array_map(
            static fn (array $ends, int $i): Link => new Link($i, $ends[0], $ends[1], [["f$ends[1]", 'id']], new Cardinality(End::NoneOrMore, End::One)),
            $links,
            array_keys($links),
        );
        $found = array_map(static fn (Route $route): array => $route->nodes(), (new Routes($links))->between(0, 1));

        self::assertSame([$first, $second], \array_slice($found, 0, 2));
    }

    /** @return iterable<string, array{list<list<int>>, list<int>, list<int>}> */
    public static function plainer(): iterable
    {
        yield 'from a match down to the points of its games, not over a player whom both name' => [
            [[0, 9], [1, 9], [3, 0], [1, 3], [3, 9]], [0, 3, 1], [0, 9, 1],
        ];
        yield 'over what only these two share, not over what all share' => [
            [[0, 9], [1, 9], [5, 9], [6, 9], [7, 9], [0, 8], [1, 8]], [0, 8, 1], [0, 9, 1],
        ];
        yield 'over what links just these two, not over what lists many things' => [
            [[3, 0], [3, 1], [3, 5], [3, 6], [3, 7], [4, 0], [4, 1]], [0, 4, 1], [0, 3, 1],
        ];
        yield 'up three steps rather than over what all share' => [
            [[0, 9], [1, 9], [4, 9], [5, 9], [6, 9], [7, 9], [0, 2], [2, 3], [3, 1]], [0, 2, 3, 1], [0, 9, 1],
        ];
    }

    public function testATurnCostsMoreTheMoreTurnThere(): void
    {
        $to = self::by(...);
        // Five refer to 1 (one of them twice); 2 refers to four by three fields, one of which is of one of two kinds.
        $turns = new Turns([
            $to(0, 3, 1, 'a'), $to(1, 4, 1, 'a'), $to(2, 5, 1, 'a'), $to(3, 6, 1, 'a'), $to(4, 2, 1, 'a'), $to(5, 3, 1, 'b'),
            $to(6, 2, 7, 'b'), $to(7, 2, 8, 'c'), $to(8, 2, 9, 'c'), $to(9, 2, 2, 'own'),
        ]);

        self::assertSame(1.4, $turns->cost(1, Turns::UP, Turns::DOWN));
        self::assertSame(0.35, $turns->cost(2, Turns::DOWN, Turns::UP));
        self::assertSame(0.9, $turns->cost(7, Turns::UP, Turns::DOWN), 'nothing else is there');
        foreach ([[Turns::UP, Turns::UP], [Turns::DOWN, Turns::DOWN], [Turns::LEVEL, Turns::UP], [Turns::LEVEL, Turns::DOWN]] as [$before, $step]) {
            self::assertSame(0.0, $turns->cost(1, $before, $step));
        }
    }

    /** Who has a page of its own for the same thing is the same thing: no turn is made there. */
    public function testAmongTheSameRowsARouteKeepsItsWay(): void
    {
        $same = new Link(1, 5, 0, [['id', 'id']], new Cardinality(End::NoneOrOne, End::One));

        self::assertSame(Turns::LEVEL, Turns::way(new Step($same, true)));
        self::assertSame(Turns::LEVEL, Turns::way(new Step($same, false)));
        self::assertSame(Turns::UP, Turns::after(Turns::UP, Turns::LEVEL));
        self::assertSame(Turns::DOWN, Turns::after(Turns::UP, Turns::DOWN));
        self::assertSame(Turns::UP, Turns::way(new Step(self::link(2, 0, 1), true)));
        self::assertSame(Turns::DOWN, Turns::way(new Step(self::link(2, 0, 1), false)));
    }

    public function testRoutesOverTheSameAreToldApartByTheFieldThatDiffers(): void
    {
        $by = self::by(...);
        $links = [$by(0, 0, 1, 'sender_id'), $by(1, 0, 1, 'payer_id'), $by(2, 1, 2, 'town_id'), $by(3, 0, 3, 'depot_id'), $by(4, 3, 2, 'town_id')];
        $told = [];
        foreach (LookAlikes::told($found = (new Routes($links))->between(0, 2)) as $number => $fields) {
            $told[] = [$found[$number]->nodes(), $fields];
        }

        self::assertEqualsCanonicalizing([[[0, 1, 2], ['sender_id']], [[0, 1, 2], ['payer_id']], [[0, 3, 2], []]], $told);
        $kinds = [$by(0, 0, 1, 'of_id', ['of', 'sender']), $by(1, 0, 1, 'of_id', ['of', 'payer'])];
        self::assertEqualsCanonicalizing(
            [['of_id where of is sender'], ['of_id where of is payer']],
            LookAlikes::told((new Routes($kinds))->between(0, 1)),
        );
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

    /** @param array{string, string}|null $where */
    private static function by(int $id, int $from, int $to, string $field, ?array $where = null): Link
    {
        return new Link($id, $from, $to, [[$field, 'id']], new Cardinality(End::NoneOrMore, End::One), 1.0, $where);
    }

    private static function link(int $id, int $from, int $to, float $certainty = 1.0): Link
    {
        return new Link($id, $from, $to, [['a', 'b']], new Cardinality(End::NoneOrMore, End::One), $certainty);
    }

    /**
     * Written without what is tested, but for what a turn costs.
     *
     * @param list<Link> $links
     *
     * @return list<float>
     */
    private static function chains(array $links, int $from, int $to, int $most): array
    {
        $costs = [];
        $turns = new Turns($links);
        $go = static function (int $node, array $passed, int $left, float $cost, int $before) use (&$go, &$costs, $turns, $links, $to): void {
            if ($node === $to) {
                $costs[] = round($cost, 6);

                return;
            }
            foreach (0 === $left ? [] : $links as $link) {
                $ends = [[$link->from, $link->to, $link->cardinality->to, $link->cardinality->from]];
                $ends[] = [$link->to, $link->from, $link->cardinality->from, $link->cardinality->to];
                foreach ($link->from === $link->to ? [] : $ends as [$here, $there, $far, $near]) {
                    if ($here === $node && !\in_array($there, $passed, true)) {
                        $optional = \in_array($far, [End::NoneOrOne, End::NoneOrMore], true);
                        $many = \in_array($far, [End::OneOrMore, End::NoneOrMore], true);
                        $climbs = !$many && \in_array($near, [End::OneOrMore, End::NoneOrMore], true);
                        $way = match (true) {
                            $many => Turns::DOWN,
                            $climbs => Turns::UP,
                            default => $before,
                        };
                        $so = $cost + 1 - 3 * log($link->certainty) + ($many ? 0.75 : 0) + ($optional ? 0.1 : 0) + $turns->cost($node, $before, $way);
                        $go($there, [...$passed, $there], $left - 1, $so, $way);
                    }
                }
            }
        };
        $go($from, [$from], $most, 0.0, Turns::LEVEL);

        return $costs;
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
