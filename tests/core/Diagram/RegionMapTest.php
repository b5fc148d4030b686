<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Region;
use Fasti\Core\Diagram\RegionMap;
use Fasti\Core\Diagram\SvgRegion;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Join\End;
use PHPUnit\Framework\TestCase;

final class RegionMapTest extends TestCase
{
    /** @return array{array<string, list<int>>, array<int, int>, list<array{int, int}>} areas, fields, pairs */
    private static function made(int $areas, int $each): array
    {
        mt_srand(5);
        $made = $fields = $pairs = [];
        for ($a = 0; $a < $areas; ++$a) {
            for ($i = 0; $i < $each; ++$i) {
                $made["a$a"][] = $a * $each + $i;
                $fields[$a * $each + $i] = mt_rand(0, 60);
                if ($i > 0) {
                    $pairs[] = [$a * $each + $i, $a * $each + mt_rand(0, $i - 1)];
                }
            }
            if ($a > 0) {
                $pairs[] = [$a * $each, mt_rand(0, $a - 1) * $each];
            }
        }

        return [$made, $fields, $pairs];
    }

    public function testRegionsHoldTheirEntriesAndCoverNothing(): void
    {
        [$areas, $fields, $pairs] = self::made(24, 25);
        $map = RegionMap::of($areas, ['a3' => 'Third'], $fields, $pairs);

        self::assertCount(24, $map['regions']);
        self::assertSame('Third', $map['regions']['a3']->name);
        foreach ($map['regions'] as $key => $region) {
            self::assertSame($areas[$key], array_values(array_intersect($areas[$key], array_keys($region->tablets))));
            self::assertSame([], self::overlaps($region->tablets));
            foreach ($region->tablets as $rect) {
                self::assertTrue(
                    $rect->x >= $region->box->x && $rect->right() <= $region->box->right() && $rect->y >= $region->box->y
                        && $rect->bottom() <= $region->box->bottom(),
                );
            }
        }
        self::assertSame([], self::overlaps(array_map(static fn (Region $region): Rect => $region->box, $map['regions'])));
        self::assertSame(23, array_sum(array_column($map['between'], 2)), 'Each join from region to region is counted once.');
    }

    public function testOneRegionNoneAndSuchAsNothingJoins(): void
    {
        self::assertSame([], RegionMap::of([], [], [], [])['regions']);
        self::assertCount(1, RegionMap::of(['x' => [1, 2]], [], [1 => 3, 2 => 4], [])['regions']);
        $map = RegionMap::of(['a' => [1, 2], 'b' => [3], 'c' => [4], 'alone' => [5, 6]], [], [], [[1, 3], [3, 4]]);
        self::assertSame([], self::overlaps(array_map(static fn (Region $region): Rect => $region->box, $map['regions'])));
    }

    public function testTheSameSchemaGivesTheSameMap(): void
    {
        [$areas, $fields, $pairs] = self::made(8, 10);

        self::assertEquals(RegionMap::of($areas, [], $fields, $pairs), RegionMap::of($areas, [], $fields, $pairs));
    }

    public function testTheInsideOfARegionShowsKeysAndAllFieldsWithinItsTablets(): void
    {
        $rows = array_map(static fn (int $i): TabletRow => new TabletRow("f$i", "field $i", 0 === $i, '', 'text, or empty', $i < 9), range(0, 54));
        $tablets = [new Tablet(1, 'A & B', $rows, link: '/register/1'), new Tablet(2, 'C', [$rows[0]], link: '/register/2')];
        $places = [1 => new Rect(0, 0, 200, RegionMap::height(55)), 2 => new Rect(270, 0, 200, RegionMap::height(1))];
        $svg = SvgRegion::inside($tablets, [new Line(1, 1, 'f1', 2, 'f0', End::NoneOrMore, End::One, '', 'declared', 'A leads to C.')], $places);

        self::assertTrue((new \DOMDocument())->loadXML('<svg xmlns="http://www.w3.org/2000/svg">'.$svg.'</svg>'));
        self::assertStringContainsString('A &amp; B', $svg);
        self::assertSame(1, substr_count($svg, '<g class="line declared">'));
        self::assertStringContainsString('and 16 more', $svg, 'Of 55 fields 39 are shown, and how many are not.');
        preg_match_all('/<text[^>]* y="([\d.]+)"/', $svg, $m);
        self::assertLessThanOrEqual(RegionMap::height(55), max([0.0, ...array_map(floatval(...), $m[1])]));
    }

    /**
     * @param array<int|string, Rect> $rects
     *
     * @return list<string>
     */
    private static function overlaps(array $rects): array
    {
        $found = [];
        $keys = array_keys($rects);
        foreach ($keys as $i => $a) {
            foreach (\array_slice($keys, $i + 1) as $b) {
                if ($rects[$a]->meets($rects[$b])) {
                    $found[] = "$a and $b";
                }
            }
        }

        return $found;
    }
}
