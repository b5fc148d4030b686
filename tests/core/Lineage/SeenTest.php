<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Lineage;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Lineage\Graph;
use Fasti\Core\Lineage\Picture;
use Fasti\Core\Lineage\PlacedTablet;
use Fasti\Core\Lineage\Steps;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Snapshot;
use Fasti\Tests\Core\Golden\World;
use Fasti\Tests\Core\Sql\Queries;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** The steps of the hard queries, and pictures of what is made of what, place by place, as they were seen to be. */
final class SeenTest extends TestCase
{
    #[TestWith(['postgresql', '', 'river'])]
    #[TestWith(['mariadb', 'fasti_queries', 'fasti_queries'])]
    #[TestWith(['sqlite', '', 'main'])]
    public function testStepsOfTheHardQueries(string $engine, string $database, string $schema): void
    {
        $catalog = self::recorded($engine, $database);
        $readings = new Readings($catalog);
        $lines = [];
        foreach (Queries::hard($engine) as $title => [$sql]) {
            foreach ((new Steps($catalog))->of($readings->query($sql, $schema)) as $i => $step) {
                array_push($lines, ...World::lines("$title, step $i", $step));
            }
        }

        Snapshot::same("steps.$engine", $lines);
    }

    public function testWhatIsMadeOfWhatInTheDemoAndInThreeLayers(): void
    {
        $catalog = self::recorded('postgresql', '');
        $graph = Graph::of($catalog);
        $starts = ["river\0reading\0value", "river\0station\0name", "river\0visit\0began"];
        $lines = World::lines('up', $graph->reach(["v\0q1\0name"], true));
        foreach ($starts as $start) {
            foreach ([true, false] as $up) {
                foreach ($graph->reach([$start], $up) as $key => $away) {
                    $lines[] = strtr("$start ".($up ? 'up' : 'down')." $key $away", "\0", '.');
                }
            }
        }
        array_push($lines, ...World::lines('whole', $graph->toArray()));

        Snapshot::same('lineage.graph', $lines);
    }

    public function testPlacesOfEveryTabletAndLine(): void
    {
        $lines = [];
        foreach ([3, 7, 12, 26] as $count) {
            $picture = self::picture($count);
            $lines[] = \sprintf('%d tablets: %s by %s', $count, Snapshot::figure($picture->width), Snapshot::figure($picture->height));
            foreach ($picture->tablets as $tablet) {
                array_push($lines, ...World::lines("$count tablet $tablet->id", [$tablet->x, $tablet->y, $tablet->width, $tablet->height]));
            }
            array_push($lines, ...World::lines("$count line", $picture->lines));
        }

        Snapshot::same('lineage.pictures', $lines);
    }

    public function testManyPictures(): void
    {
        $lines = [];
        for ($count = 2; $count <= 45; ++$count) {
            $picture = self::picture($count);
            $lines[] = World::digest("$count tablets", [
                ...World::lines('tablets', array_map(static fn (PlacedTablet $one): array => [$one->x, $one->y, $one->width, $one->height], $picture->tablets)),
                ...World::lines('lines', $picture->lines), ...World::lines('size', [$picture->width, $picture->height]),
            ]);
        }

        Snapshot::same('lineage.many', $lines);
    }

    private static function picture(int $count): Picture
    {
        $chance = new \Random\Randomizer(new \Random\Engine\Mt19937($count));
        $tablets = $ties = [];
        for ($i = 0; $i < $count; ++$i) {
            $rows = [];
            for ($k = 0; $k < 1 + $i % 5; ++$k) {
                $rows[] = ['key' => "$i.$k", 'label' => str_repeat('field ', 1 + $k), 'code' => 0 === $k % 2, 'link' => '', 'focus' => 1 === $k];
            }
            $tablets[] = new PlacedTablet($i, "Table $i", 0 === $i % 3 ? 'a view of a long name' : 'rivers', '', 0 === $i % 3, $rows);
        }
        for ($i = 0; $i < 2 * $count; ++$i) {
            $to = $chance->getInt(1, $count - 1);
            $from = $chance->getInt(max(0, $to - 8), $to - 1);
            $ties[] = ['from' => $from.'.'.$chance->getInt(0, $from % 5), 'to' => $to.'.'.$chance->getInt(0, $to % 5), 'word' => 0 === $i % 4 ? 'sum' : ''];
        }

        return new Picture($tablets, $ties);
    }

    private static function recorded(string $engine, string $database): Catalog
    {
        $case = Golden::of("queries.$engine")->case('hard') ?? self::fail();
        $reader = Dialects::of($engine)->reader(new Replayed($case['answers']), $database) ?? self::fail();

        return $reader->read(new Choice(), new SilentProgress());
    }
}
