<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Isotonic;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Join\End;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class LayoutTest extends TestCase
{
    /** @return iterable<string, array{int, int, int, Detail, bool}> */
    public static function schemas(): iterable
    {
        foreach ([1, 2, 3, 4, 5, 6] as $seed) {
            foreach (Detail::cases() as $detail) {
                yield "30 tables, seed $seed, {$detail->value}" => [30, 42, $seed, $detail, 0 === $seed % 2];
            }
        }
        yield 'a tree' => [12, 11, 7, Detail::All, true];
        yield 'a dense one' => [15, 60, 8, Detail::All, true];
        yield 'dense, names only' => [15, 60, 9, Detail::Names, true];
        yield 'two tables' => [2, 1, 10, Detail::All, true];
        yield 'two tables, five joins' => [2, 5, 11, Detail::Keys, true];
        yield '120 tables' => [120, 170, 12, Detail::Keys, true];
    }

    #[DataProvider('schemas')]
    public function testNothingCoversAnything(int $tables, int $joins, int $seed, Detail $detail, bool $verbs): void
    {
        [$tablets, $lines] = Drawn::schema($tables, $joins, $seed, $verbs);
        $layout = Layout::of($tablets, $lines, $detail);

        self::assertSame([], Drawn::faults($layout));
        self::assertCount($tables, $layout->shapes);
        self::assertCount($joins, $layout->paths);
    }

    #[DataProvider('schemas')]
    public function testAConnectedSchemaIsNeitherATowerNorARibbon(int $tables, int $joins, int $seed, Detail $detail, bool $verbs): void
    {
        if (30 !== $tables) {
            $this->addToAssertionCount(1);

            return;
        }
        [$tablets, $lines] = Drawn::schema($tables, $joins, $seed, $verbs);
        $layout = Layout::of($tablets, $lines, $detail);

        self::assertGreaterThan(0.5, $layout->width / $layout->height);
        self::assertLessThan(2.0, $layout->width / $layout->height);
    }

    public function testTheSameInputGivesTheSameDrawing(): void
    {
        [$tablets, $lines] = Drawn::schema(25, 40, 3);
        $points = static fn (Layout $layout): array => array_map(static fn ($path): array => $path->points, $layout->paths);

        self::assertSame($points(Layout::of($tablets, $lines, Detail::Keys)), $points(Layout::of($tablets, $lines, Detail::Keys)));
    }

    public function testAroundAnEntryWhatItRefersToStandsLeftAndWhatRefersToItRight(): void
    {
        $tablet = static fn (int $id): Tablet => new Tablet($id, 'T'.$id, [new TabletRow('id', 'id', true), new TabletRow('a', 'a'), new TabletRow('b', 'b')]);
        $line = static fn (int $id, int $from, int $to): Line => new Line($id, $from, 'a', $to, 'id', End::NoneOrMore, End::One, 'leads to');
        $layout = Layout::of(
            array_map($tablet, range(0, 9)),
            [$line(0, 0, 1), $line(1, 0, 2), ...array_map(static fn (int $i): Line => $line($i, $i, 0), range(3, 9)), $line(10, 5, 5), $line(11, 0, 0)],
            Detail::Keys,
            0,
        );

        $middle = Drawn::shapeOf($layout, 0)->x;
        self::assertLessThan($middle, Drawn::shapeOf($layout, 1)->x);
        self::assertLessThan($middle, Drawn::shapeOf($layout, 2)->x);
        self::assertGreaterThan($middle, Drawn::shapeOf($layout, 7)->x);
        self::assertSame([], Drawn::faults($layout));
    }

    public function testDetailAndFolding(): void
    {
        $rows = [new TabletRow('id', 'id', true), new TabletRow('to', 'to'), new TabletRow('other', 'other')];
        $tablets = static fn (bool $folded): array => [new Tablet(1, 'A', $rows, folded: $folded), new Tablet(2, 'B', $rows)];
        $lines = [new Line(1, 1, 'to', 2, 'id', End::NoneOrMore, End::One)];
        $count = static fn (Detail $detail, bool $folded = false): int => \count(Drawn::shapeOf(Layout::of($tablets($folded), $lines, $detail), 1)->rows);

        self::assertSame([0, 2, 3, 0], [$count(Detail::Names), $count(Detail::Keys), $count(Detail::All), $count(Detail::All, true)]);
        self::assertSame([], Drawn::faults(Layout::of($tablets(true), $lines, Detail::All)));
    }

    public function testLinesToWhatIsNotThereAreLeftOut(): void
    {
        $layout = Layout::of([new Tablet(1, 'A', [])], [new Line(1, 1, 'x', 99, 'id', End::One, End::One)], Detail::All);

        self::assertSame([], $layout->paths);
        self::assertCount(1, $layout->shapes);
    }

    public function testNothingAtAllIsAnEmptyDrawing(): void
    {
        self::assertSame([], Layout::of([], [], Detail::All)->shapes);
    }

    public function testAVeryLongNameIsCutAndKeepsItsTabletNarrow(): void
    {
        $layout = Layout::of([new Tablet(1, str_repeat('Ärger ', 40), [new TabletRow('x', str_repeat('y', 90))])], [], Detail::All);

        self::assertLessThanOrEqual(320, $layout->shapes[0]->width);
        self::assertStringEndsWith('…', $layout->shapes[0]->title);
    }

    public function testBoxesKeepTheirOrderAndComeAsNearAsTheyCan(): void
    {
        self::assertSame([0.0, 50.0, 100.0], Isotonic::tops([0, 50, 100], [20, 20, 20], 0, 200));
        self::assertSame([40.0, 60.0], Isotonic::tops([50, 50], [20, 20], 0, 200), 'Two that want the same place share the way.');
        self::assertSame([0.0, 20.0], Isotonic::tops([-90, -90], [20, 20], 0, 200));
        self::assertSame([80.0, 100.0], Isotonic::tops([900, 900], [20, 20], 0, 100));
        self::assertSame([], Isotonic::tops([], [], 0, 0));
    }
}
