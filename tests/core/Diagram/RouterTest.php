<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Block;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Router;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Diagram\TabletShape;
use Fasti\Core\Join\End;
use PHPUnit\Framework\TestCase;

/** Routing with the columns given, so that each case is what it says. */
final class RouterTest extends TestCase
{
    /**
     * @param list<array{int, int}> $joins
     * @param list<list<int>>       $columns
     */
    private static function route(int $count, array $joins, array $columns, string $verb = ''): Block
    {
        $shapes = [];
        for ($i = 0; $i < $count; ++$i) {
            $shapes[] = new TabletShape(
                new Tablet(
                    $i,
                    'T'.$i,
                    [new TabletRow('id', 'id', true), ...array_map(static fn (int $j): TabletRow => new TabletRow('r'.$j, 'r'.$j), array_keys($joins))],
                ),
                Detail::All,
                [],
            );
        }
        $lines = [];
        foreach ($joins as $j => [$from, $to]) {
            $lines[] = [new Line($j, $from, 'r'.$j, $to, 'id', End::NoneOrMore, End::One, $verb), $from, $to];
        }

        return Router::route($shapes, $lines, $columns);
    }

    public function testALineToTheNextColumnHasOneBendAtTheMost(): void
    {
        $path = self::route(2, [[0, 1]], [[0], [1]])->paths[0];

        self::assertLessThanOrEqual(4, \count($path->points));
        self::assertSame([1, 0], $path->sides, 'It leaves to the right and arrives from the left.');
    }

    public function testALineThatPassesAColumnGoesAroundItsShapes(): void
    {
        $block = self::route(3, [[0, 2]], [[0], [1], [2]]);
        $middle = $block->shapes[1];

        foreach ($block->paths[0]->points as $i => [$x, $y]) {
            $before = $block->paths[0]->points[max(0, $i - 1)];
            if (min($x, $before[0]) < $middle->x + $middle->width && max($x, $before[0]) > $middle->x) {
                self::assertTrue($y < $middle->y || $y > $middle->y + $middle->height, "at $x, $y");
            }
        }
    }

    public function testALineWithinAColumnRunsBesideIt(): void
    {
        $block = self::route(2, [[0, 1]], [[0, 1]]);

        self::assertSame($block->paths[0]->sides[0], $block->paths[0]->sides[1]);
        self::assertSame(0, $block->crossings);
    }

    public function testALineOfAShapeWithItselfComesBackToIt(): void
    {
        $path = self::route(1, [[0, 0]], [[0]])->paths[0];

        self::assertSame($path->points[0][0], $path->points[\count($path->points) - 1][0]);
        self::assertNotSame($path->points[0][1], $path->points[\count($path->points) - 1][1]);
    }

    public function testLinesThatNeedNotCrossDoNot(): void
    {
        self::assertSame(0, self::route(6, [[0, 3], [1, 4], [2, 5]], [[0, 1, 2], [3, 4, 5]])->crossings);
        self::assertSame(0, self::route(5, [[1, 0], [2, 0], [3, 0], [4, 0]], [[0], [1, 2, 3, 4]])->crossings);
    }

    public function testLinesThatMustCrossAreCountedOnce(): void
    {
        self::assertSame(1, self::route(4, [[0, 3], [1, 2]], [[0, 1], [2, 3]])->crossings);
    }

    public function testARowIsAsHighAsItsLinesNeed(): void
    {
        $one = self::route(2, [[1, 0]], [[0], [1]])->shapes[0];
        $five = self::route(6, [[1, 0], [2, 0], [3, 0], [4, 0], [5, 0]], [[0], [1, 2, 3, 4, 5]])->shapes[0];

        self::assertSame(20, $one->rowHeights[0]);
        self::assertSame(60, $five->rowHeights[0]);
    }

    public function testAGutterIsWideEnoughForItsVerbs(): void
    {
        $plain = self::route(2, [[0, 1]], [[0], [1]]);
        $told = self::route(2, [[0, 1]], [[0], [1]], 'is recorded at a station by');

        self::assertGreaterThan($plain->width + 80, $told->width);
        $label = $told->paths[0]->label();
        self::assertIsArray($label);
        self::assertLessThan($told->shapes[1]->x, $label['x'] + $label['width']);
        self::assertNull($plain->paths[0]->label());
    }

    public function testATowerAndARibbonCostMoreThanABlockOfTheSameLines(): void
    {
        $joins = [[1, 0], [2, 0], [3, 0], [4, 0], [5, 0]];
        $tower = self::route(6, $joins, [[0, 1, 2, 3, 4, 5]]);
        $block = self::route(6, $joins, [[1, 2], [0, 3], [4, 5]]);

        self::assertLessThan($tower->cost(), $block->cost());
    }
}
