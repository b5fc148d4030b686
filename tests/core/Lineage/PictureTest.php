<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Lineage;

use Fasti\Core\Lineage\Picture;
use Fasti\Core\Lineage\PlacedTablet;
use PHPUnit\Framework\TestCase;

/** What every picture of lineage keeps, measured on made-up ones. */
final class PictureTest extends TestCase
{
    public function testEverythingStandsToTheRightOfWhatItComesFrom(): void
    {
        $picture = self::picture([['a1', 'b1'], ['b1', 'c1'], ['a2', 'c2']]);
        $x = array_map(static fn (PlacedTablet $tablet): float => $tablet->x, $picture->tablets);

        self::assertLessThan($x[2], $x[1]);
        self::assertLessThan($x[3], $x[2]);
        self::assertCount(3, $picture->lines);
    }

    public function testACircleIsCutRatherThanFollowedForever(): void
    {
        self::assertNotEmpty(self::picture([['a1', 'b1'], ['b1', 'a2']])->lines);
    }

    public function testTabletsNeverOverlapAndLinesNeverPassThroughThem(): void
    {
        for ($seed = 1; $seed <= 60; ++$seed) {
            mt_srand($seed);
            $ties = [];
            $count = mt_rand(3, 14);
            for ($i = 0; $i < $count * 2; ++$i) {
                $from = mt_rand(1, $count - 1);
                $ties[] = [\chr(96 + $from).mt_rand(1, 4), \chr(96 + mt_rand($from + 1, $count)).mt_rand(1, 4)];
            }
            $picture = self::picture($ties);
            $tablets = array_values($picture->tablets);
            foreach ($tablets as $i => $a) {
                self::assertLessThanOrEqual($picture->width, $a->x + $a->width);
                self::assertLessThanOrEqual($picture->height, $a->y + $a->height);
                foreach (\array_slice($tablets, $i + 1) as $b) {
                    self::assertFalse(
                        $a->x < $b->x + $b->width && $b->x < $a->x + $a->width && $a->y < $b->y + $b->height && $b->y < $a->y + $a->height,
                        "seed $seed: $a->title lies on $b->title",
                    );
                }
            }
            foreach ($picture->lines as $line) {
                foreach (self::pieces($line['path']) as [$x1, $y1, $x2, $y2]) {
                    foreach ($tablets as $tablet) {
                        $through = max($x1, $x2) > $tablet->x + 0.5 && min($x1, $x2) < $tablet->x + $tablet->width - 0.5
                            && max($y1, $y2) > $tablet->y + 0.5 && min($y1, $y2) < $tablet->y + $tablet->height - 0.5;
                        self::assertFalse($through, "seed $seed: {$line['path']} passes through $tablet->title");
                    }
                }
            }
        }
    }

    /** @return list<array{float, float, float, float}> the straight pieces of a path */
    private static function pieces(string $path): array
    {
        preg_match_all('/([MHVQ])([-\d. ]+)/', $path, $commands, \PREG_SET_ORDER);
        $x = 0.0;
        $y = 0.0;
        $pieces = [];
        foreach ($commands as [, $command, $figures]) {
            $at = array_map(floatval(...), explode(' ', trim($figures)));
            [$toX, $toY] = match ($command) {
                'H' => [$at[0], $y],
                'V' => [$x, $at[0]],
                default => [$at[\count($at) - 2], $at[\count($at) - 1]],
            };
            if ('M' !== $command) {
                $pieces[] = [$x, $y, $toX, $toY];
            }
            $x = $toX;
            $y = $toY;
        }

        return $pieces;
    }

    /** @param list<array{string, string}> $ties between rows `a1`: the letter is the tablet */
    private static function picture(array $ties): Picture
    {
        $rows = [];
        foreach ($ties as $tie) {
            foreach ($tie as $row) {
                $rows[\ord($row[0]) - 96][$row] = ['key' => $row, 'label' => $row, 'code' => true, 'link' => '', 'focus' => false];
            }
        }
        ksort($rows);

        return new Picture(
            array_map(static fn (int $id): PlacedTablet => new PlacedTablet($id, \chr(96 + $id), '', '', false, array_values($rows[$id])), array_keys($rows)),
            array_map(static fn (array $tie): array => ['from' => $tie[0], 'to' => $tie[1], 'word' => 'value'], $ties),
        );
    }
}
