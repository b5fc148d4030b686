<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Apart;
use Fasti\Core\Diagram\Leading\Ends;
use Fasti\Core\Diagram\Leading\Lanes;
use Fasti\Core\Diagram\Leading\Leading;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Leading\Trace;
use Fasti\Core\Diagram\Leading\Verbs;
use PHPUnit\Framework\TestCase;

/** The parts of leading lines: channels, ways, order, room and words, each where one can see what it should do. */
final class LanesTest extends TestCase
{
    /** @return list<Rect> four in a square, 100 apart across and 60 down */
    private static function square(): array
    {
        return [new Rect(0, 0, 100, 100), new Rect(200, 0, 100, 100), new Rect(0, 160, 100, 100), new Rect(200, 160, 100, 100)];
    }

    public function testAChannelHasALaneWhereItIsWideEnoughAndItRunsAsFarAsItIsFree(): void
    {
        $lanes = new Lanes([new Rect(0, 0, 100, 100), new Rect(140, 0, 100, 100), new Rect(100, 300, 60, 40)]);
        $between = array_values(array_filter(array_keys($lanes->at), static fn (int $lane): bool => $lane < $lanes->upright && 120.0 === $lanes->at[$lane]));

        self::assertCount(1, $between, 'Both sides mean the same lane.');
        self::assertLessThan(0, $lanes->start[$between[0]]);
        self::assertEqualsWithDelta(297, $lanes->end[$between[0]], 0.01, 'It ends at what stands below.');
        $narrow = new Lanes([new Rect(0, 0, 100, 100), new Rect(106, 0, 100, 100)]);
        self::assertSame([], array_filter(\array_slice($narrow->at, 0, $narrow->upright), static fn (float $x): bool => $x > 100 && $x < 106));
        self::assertSame([], (new Lanes([]))->at);
    }

    public function testLanesEnterNoRectangleAndKnowWhoCrossesThem(): void
    {
        mt_srand(4);
        $rects = [];
        for ($i = 0; $i < 40; ++$i) {
            $rects[] = Apart::beside(new Rect(mt_rand(0, 2000), mt_rand(0, 2000), mt_rand(60, 300), mt_rand(40, 300)), $rects);
        }
        $lanes = new Lanes($rects);
        foreach ($lanes->at as $lane => $at) {
            $upright = $lane < $lanes->upright;
            foreach ($rects as $rect) {
                [$low, $high, $from, $to] = $upright
                    ? [$rect->x, $rect->right(), $rect->y, $rect->bottom()]
                    : [$rect->y, $rect->bottom(), $rect->x, $rect->right()];
                $inside = $at > $low && $at < $high && $lanes->start[$lane] < $to && $lanes->end[$lane] > $from;
                self::assertFalse($inside, 'A lane runs through a rectangle.');
            }
            foreach ($lanes->meets[$lane] as $k => $other) {
                self::assertSame($lane, $lanes->meets[$other][$lanes->back[$lane][$k]]);
                self::assertSame($k, $lanes->place($lane, $lanes->at[$other]), 'They stand in order.');
            }
        }
    }

    public function testLinesThatShareAChannelDoNotCross(): void
    {
        $rects = self::square();
        $lines = [
            new Ends(0, 0, [10, 30], 3, [170, 190]),
            new Ends(1, 0, [40, 60], 3, [200, 220]),
            new Ends(2, 0, [70, 90], 3, [230, 250]),
        ];
        $traces = Leading::lead($rects, $lines);

        self::assertSame(0, self::crossings($traces));
        $uprights = array_map(static fn (Trace $trace): float => $trace->at[1], $traces);
        self::assertGreaterThan($uprights[1], $uprights[0], 'Who begins above and ends above runs outermost.');
        self::assertGreaterThan($uprights[2], $uprights[1]);
        self::assertGreaterThanOrEqual(8, min($uprights[0] - $uprights[1], $uprights[1] - $uprights[2]));
    }

    public function testLinesThatMustCrossDoSoOnce(): void
    {
        $traces = Leading::lead(self::square(), [new Ends(0, 0, [40, 60], 3, [200, 220]), new Ends(1, 2, [200, 220], 1, [40, 60])]);

        self::assertSame(1, self::crossings($traces));
    }

    public function testAFullChannelIsLeftForAnother(): void
    {
        $rects = [new Rect(0, 0, 100, 700), new Rect(140, 40, 60, 400), new Rect(240, 0, 100, 700)];
        $lines = [];
        for ($i = 0; $i < 30; ++$i) {
            $lines[] = new Ends($i, 0, [20.0 * $i + 40, 20.0 * $i + 60], 2, [680 - 20.0 * $i, 700 - 20.0 * $i]);
        }
        $traces = Leading::lead($rects, $lines);
        $below = array_filter($traces, static fn (Trace $trace): bool => max($trace->at) > 440);

        self::assertGreaterThan(5, \count($below));
        foreach ($traces as $i => $a) {
            foreach (\array_slice($traces, $i + 1) as $b) {
                self::assertNotSame($a->points(), $b->points());
            }
        }
    }

    public function testAFramesBorderIsCrossedAndNotFollowed(): void
    {
        $rects = [new Rect(0, 0, 100, 100), new Rect(300, 300, 100, 100)];
        $line = [new Ends(0, 0, [40, 60], 1, [340, 360])];
        $free = Leading::lead($rects, $line)[0]->at[1];
        $traces = Leading::lead($rects, $line, [], [new Rect($free, -100, 400, 600)]);

        self::assertGreaterThanOrEqual(5, abs($traces[0]->at[1] - $free));
    }

    public function testWordsStandAboveTheirEndElseElsewhereElseNowhere(): void
    {
        $rects = [new Rect(0, 0, 100, 100), new Rect(400, 0, 100, 100)];
        $line = new Ends(0, 0, [40, 60], 1, [40, 60], 60);
        $trace = Leading::lead($rects, [$line])[0];
        $place = Verbs::place($rects, [$trace])[0];
        self::assertSame([126.0, 37.0], [$place['x'], $place['y']]);

        $shut = [...$rects, new Rect(100, 20, 190, 24)];
        $place = Verbs::place($shut, [$trace])[0];
        self::assertGreaterThan(290 - 60, $place['x'] + ($place['y'] < 50 ? 0 : 1000), 'Above there is no room at its end: further on, or below.');

        $tight = [...$rects, new Rect(100, 10, 300, 34), new Rect(100, 56, 300, 34)];
        self::assertSame([], Verbs::place($tight, [$trace]), 'Words that would cover something are left out.');
    }

    public function testAWayThatNoLongerFitsIsNotKept(): void
    {
        $rects = self::square();
        $ends = new Ends(0, 0, [40, 60], 1, [40, 60]);

        self::assertNotNull(Trace::along($ends, [[100, 50], [200, 50]], $rects));
        self::assertNull(Trace::along($ends, [[100, 70], [200, 70]], $rects), 'Not at its row.');
        self::assertNull(Trace::along($ends, [[110, 50], [200, 50]], $rects), 'Not at its side.');
        self::assertNull(Trace::along($ends, [[100, 50], [150, 50], [150, 200], [50, 200], [50, 50], [200, 50]], $rects), 'Through a rectangle.');
        self::assertNull(Trace::along($ends, [[100, 50], [150, 50], [200, 50]], $rects), 'Ends upright.');
        self::assertNull(Trace::along($ends, [[100, 50], [200, 55]], $rects), 'Aslant.');
    }

    /** @param list<Trace> $traces */
    private static function crossings(array $traces): int
    {
        $found = 0;
        foreach ($traces as $i => $a) {
            foreach (\array_slice($traces, $i + 1) as $b) {
                foreach ([[$a, $b], [$b, $a]] as [$one, $other]) {
                    for ($v = 1; $v < \count($one->at); $v += 2) {
                        for ($h = 0; $h < \count($other->at); $h += 2) {
                            $up = $one->span($v);
                            $level = $other->span($h);
                            $found += min($level) < $one->at[$v] && $one->at[$v] < max($level) && min($up) < $other->at[$h] && $other->at[$h] < max($up)
                                ? 1
                                : 0;
                        }
                    }
                }
            }
        }

        return $found;
    }
}
