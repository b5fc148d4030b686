<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Core\Join\Tree;
use PHPUnit\Framework\TestCase;

/** From picture to query: joins that hold some tables together. */
final class TreeTest extends TestCase
{
    private static function link(int $id, int $from, int $to, float $certainty = 1.0, End $far = End::One): Link
    {
        return new Link($id, $from, $to, [["to_$to", 'id']], new Cardinality(End::NoneOrMore, $far), $certainty);
    }

    public function testItBeginsWhereNoRowIsMultiplied(): void
    {
        $tree = Tree::of([1, 2, 3], [self::link(1, 3, 1), self::link(2, 3, 2)]);

        self::assertSame(3, $tree->first, 'The one that refers to the others.');
        self::assertSame([false, false], array_map(static fn (Step $step): bool => $step->multiplies(), $tree->steps));
        self::assertSame([[], []], [$tree->unused, $tree->apart]);
    }

    public function testWhatIsCertainIsTakenAndTheRestIsTold(): void
    {
        $tree = Tree::of([1, 2, 9], [self::link(1, 1, 2, 0.6), self::link(2, 1, 2), self::link(3, 1, 1), self::link(4, 5, 1)]);

        self::assertSame([2], array_map(static fn (Step $step): int => $step->link->id, $tree->steps));
        self::assertSame([1, 3], array_map(static fn (Link $link): int => $link->id, $tree->unused));
        self::assertSame([9], $tree->apart);
    }

    public function testTwoFactsMultiplyAndThatCanBeSeen(): void
    {
        $tree = Tree::of([1, 2, 3], [self::link(1, 2, 1), self::link(2, 3, 1)]);

        self::assertContains(true, array_map(static fn (Step $step): bool => $step->multiplies(), $tree->steps));
    }

    public function testTheStatementNamesEachTableOnce(): void
    {
        $tree = Tree::of([1, 2, 3], [self::link(1, 3, 1), self::link(2, 3, 2, 1.0, End::NoneOrOne)]);
        $places = [1 => new Place('main', 'station'), 2 => new Place('archive', 'station'), 3 => new Place('main', 'order')];

        self::assertSame(
            "SELECT *\nFROM \"main\".\"order\" AS \"order\"\nJOIN \"main\".\"station\" AS \"station\" ON \"station\".\"id\" = \"order\".\"to_1\"\n"
            .'JOIN "archive"."station" AS "station_2" ON "station_2"."id" = "order"."to_2"',
            (new RouteSql(Dialects::of('postgresql'), $places))->tree($tree->first, $tree->steps),
        );
    }
}
