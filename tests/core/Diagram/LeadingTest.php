<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Apart;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\Piece\Frame;
use Fasti\Core\Diagram\Piece\Heading;
use Fasti\Core\Diagram\Piece\Remark;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Join\End;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Lines are led round whatever stands wherever a person has put it. */
final class LeadingTest extends TestCase
{
    /** @return iterable<string, array{int, int, float, int}> tables, joins, density, first seed */
    public static function arrangements(): iterable
    {
        foreach ([
            [3, 3, 0.3],
            [6, 8, 0.5],
            [10, 14, 0.3],
            [10, 16, 0.9],
            [16, 22, 0.5],
            [16, 24, 0.9],
            [24, 34, 0.6],
            [30, 42, 0.9],
        ] as $k => [$tables, $joins, $density]) {
            for ($part = 0; $part < 4; ++$part) {
                yield "$tables tables, $joins joins, density $density, part $part" => [$tables, $joins, $density, 1000 * $k + 10 * $part];
            }
        }
    }

    #[DataProvider('arrangements')]
    public function testAnyArrangementIsDrawnByTheRules(int $tables, int $joins, float $density, int $seed): void
    {
        for ($i = 0; $i < 10; ++$i) {
            [$tablets, $lines] = Drawn::schema($tables, $joins, $seed + $i, true);
            $layout = Layout::arranged($tablets, $lines, [Detail::Keys, Detail::All, Detail::Names][$i % 3], Drawn::scattered($tablets, $density));

            self::assertSame([], Drawn::faults($layout, 1.2), 'seed '.($seed + $i));
            self::assertCount($joins, $layout->paths);
        }
    }

    public function testTabletsThatTouchOneUponTheOtherAreGoneRound(): void
    {
        foreach ([1, 2, 3, 4, 5, 6] as $seed) {
            [$tablets, $lines] = Drawn::schema(16, 22, $seed, true);
            $places = [];
            $heights = array_map(static fn (Tablet $tablet): int => 200 + 30 * \count($tablet->rows), $tablets);
            $at = [0, 0, 0, 0];
            foreach ($tablets as $i => $tablet) {
                $places[$tablet->id] = [400.0 * ($i % 4), (float) $at[$i % 4]];
                $at[$i % 4] += 0 === $i % 3 ? 20 * intdiv($heights[$i], 20) : $heights[$i] + 7;
            }
            self::assertSame([], Drawn::faults(Layout::arranged($tablets, $lines, Detail::Keys, $places), 1.2), "seed $seed");
        }
    }

    public function testNotesAndHeadingsAreGoneRoundAndAFrameIsEntered(): void
    {
        [$tablets, $lines] = self::pair();
        $notes = [
            new Note('n1', new Remark(), 'A note in **the** middle, of some length, so that it takes two lines', 260, 0),
            new Note('h1', new Heading(), 'A heading below it', 260, 110),
            new Note('f1', new Frame(), 'Where it all is', -60, -60, 300, 300),
        ];
        $layout = Layout::arranged($tablets, $lines, Detail::All, [1 => [0.0, 0.0], 2 => [700.0, 0.0]], $notes);

        self::assertSame([], Drawn::faults($layout));
        self::assertGreaterThan(2, \count($layout->paths[0]->points), 'The straight way leads through the note.');
    }

    public function testRowsThatSeeOneAnotherAreJoinedStraight(): void
    {
        [$tablets, $lines] = self::pair();
        $layout = Layout::arranged($tablets, $lines, Detail::Keys, [1 => [0.0, 0.0], 2 => [500.0, 30.0]]);

        self::assertCount(2, $layout->paths[0]->points);
        self::assertSame([1, 0], $layout->paths[0]->sides);
    }

    public function testALineToItselfLeavesAndComesBack(): void
    {
        $tablet = new Tablet(1, 'Reach', [new TabletRow('id', 'id', true), new TabletRow('next', 'next')]);
        $layout = Layout::arranged([$tablet], [new Line(1, 1, 'next', 1, 'id', End::NoneOrMore, End::NoneOrOne, 'flows into')], Detail::All, [1 => [0.0, 0.0]]);

        self::assertSame([], Drawn::faults($layout));
        self::assertNotNull($layout->paths[0]->label());
    }

    public function testWhatDoesNotConcernAMoveStaysAsItIs(): void
    {
        [$tablets, $lines] = Drawn::schema(60, 80, 5, true);
        $places = Drawn::scattered($tablets, 0.4);
        $before = Layout::arranged($tablets, $lines, Detail::Keys, $places);
        $ways = static fn (Layout $layout): array => array_column(array_map(
            static fn (Path $path): array => ['id' => $path->line->id, 'points' => $path->points],
            $layout->paths,
        ), 'points', 'id');
        $kept = $ways($before);
        $places[7] = [$places[7][0] + 5000, $places[7][1]];
        $after = Layout::arranged($tablets, $lines, Detail::Keys, $places, [], $kept);

        self::assertSame([], Drawn::faults($after, 1.2));
        $changed = array_filter($after->paths, static fn (Path $path): bool => \count($path->points) !== \count($kept[$path->line->id]));
        foreach ($changed as $path) {
            self::assertTrue(7 === $path->line->from || 7 === $path->line->to, "Line {$path->line->id} does not end at what has moved.");
        }
        self::assertSame(
            $kept,
            $ways(Layout::arranged($tablets, $lines, Detail::Keys, [...$places, 7 => [$before->shapes[7]->x, (float) $before->shapes[7]->y]], [], $kept)),
        );
    }

    public function testAWayThatLeadsThroughATabletIsNotKept(): void
    {
        [$tablets, $lines] = self::pair();
        $third = new Tablet(3, 'Between', [new TabletRow('id', 'id', true)]);
        $open = Layout::arranged([...$tablets, $third], $lines, Detail::Keys, [1 => [0.0, 0.0], 2 => [800.0, 0.0], 3 => [400.0, 900.0]]);
        $kept = [1 => $open->paths[0]->points];
        $shut = Layout::arranged([...$tablets, $third], $lines, Detail::Keys, [1 => [0.0, 0.0], 2 => [800.0, 0.0], 3 => [400.0, 30.0]], [], $kept);

        self::assertSame([], Drawn::faults($shut));
        self::assertGreaterThan(2, \count($shut->paths[0]->points));
    }

    public function testCrossingsAreHardlyMoreThanThoseOfStraightLines(): void
    {
        $crossed = $would = 0;
        foreach ([1, 2, 3, 4, 5, 6] as $seed) {
            [$tablets, $lines] = Drawn::schema(50, 75, $seed);
            [$own, $straight] = Drawn::crossings(Layout::arranged($tablets, $lines, Detail::Keys, Drawn::scattered($tablets, 0.4)));
            $crossed += $own;
            $would += $straight;
        }

        self::assertLessThan(1.2, $crossed / $would);
    }

    public function testTheSameArrangementIsDrawnTheSame(): void
    {
        [$tablets, $lines] = Drawn::schema(20, 30, 4, true);
        $places = Drawn::scattered($tablets, 0.5);
        $points = static fn (): array => array_map(
            static fn (Path $path): array => $path->points,
            Layout::arranged($tablets, $lines, Detail::Keys, $places)->paths,
        );

        self::assertSame($points(), $points());
    }

    public function testWhatIsSetDownOnAnotherMovesBesideItByAsLittleAsPossible(): void
    {
        $others = [new Rect(0, 0, 200, 100), new Rect(300, 0, 200, 100)];
        $set = Apart::beside(new Rect(150, 93, 100, 60), $others);

        self::assertSame([150.0, 120.0], [$set->x, $set->y], 'Straight down is the nearest place.');
        foreach ($others as $other) {
            self::assertFalse($set->meets($other, Apart::ACROSS, Apart::DOWN));
        }
        self::assertSame(
            [710.0, 10.0],
            [($free = Apart::beside(new Rect(707, 12, 10, 10), $others))->x, $free->y],
            'Where there is room, it snaps to the grid.',
        );
    }

    public function testTabletsWithoutAPlaceStandBesideWhatTheyJoin(): void
    {
        [$tablets, $lines] = Drawn::schema(20, 26, 8);
        $places = Drawn::scattered($tablets, 0.4);
        unset($places[9], $places[12]);
        $layout = Layout::arranged($tablets, $lines, Detail::Keys, $places);

        self::assertSame([], Drawn::faults($layout, 1.2));
        foreach ($places as $id => [$x, $y]) {
            self::assertSame([$x, (int) $y], [Drawn::shapeOf($layout, $id)->x, Drawn::shapeOf($layout, $id)->y], 'Who had a place stays.');
        }
        $all = Layout::arranged($tablets, $lines, Detail::Keys, []);
        self::assertSame([], Drawn::faults($all, 1.2), 'Even all of them find one.');
    }

    /** @return array{list<Tablet>, list<Line>} */
    private static function pair(): array
    {
        return [
            [
                new Tablet(1, 'Reading', [new TabletRow('id', 'id', true), new TabletRow('station', 'station')]),
                new Tablet(2, 'Station', [new TabletRow('id', 'id', true)]),
            ],
            [new Line(1, 1, 'station', 2, 'id', End::NoneOrMore, End::One, 'is taken at')],
        ];
    }
}
