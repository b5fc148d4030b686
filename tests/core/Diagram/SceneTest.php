<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\Piece\Frame;
use Fasti\Core\Diagram\Scene;
use Fasti\Core\Diagram\SceneError;
use Fasti\Core\Diagram\TabletShape;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** A drawing's ground, as it travels to the browser and back. */
final class SceneTest extends TestCase
{
    public function testItComesBackAsItWentAndIsLedTheSame(): void
    {
        [$tablets, $lines] = Drawn::schema(12, 16, 3, true);
        $layout = Layout::arranged($tablets, $lines, Detail::Keys, Drawn::scattered($tablets, 0.5), [new Note('n1', new Frame(), 'F', 0, 0, 400, 300)]);
        self::assertNotNull($layout->scene);
        /** @var array<mixed> $open */
        $open = json_decode((string) json_encode($layout->scene->open()), true);
        $back = Scene::fromOpen($open);
        $points = static fn (Path $path): array => $path->points;

        self::assertSame(array_map($points, $layout->paths), array_map($points, $back->lead()));
        self::assertEquals($layout->scene->open(), $back->open());
    }

    public function testWhatIsSetDownOnSomethingMovesAndNothingElse(): void
    {
        [$tablets, $lines] = Drawn::schema(8, 9, 2);
        $scene = Layout::arranged($tablets, $lines, Detail::Keys, Drawn::scattered($tablets, 0.4))->scene ?? self::fail();
        $pieces = $scene->pieces;
        $pieces['t1'] = new \Fasti\Core\Diagram\Leading\Rect($pieces['t2']->x + 5, $pieces['t2']->y + 5, $pieces['t1']->width, $pieces['t1']->height);
        $set = (new Scene($pieces, $scene->lines))->setDown(['t1', 'unknown']);

        foreach ($set->pieces as $key => $rect) {
            self::assertSame('t1' === $key, $rect != $pieces[$key], $key);
        }
        self::assertFalse($set->pieces['t1']->meets($set->pieces['t2']));
    }

    /** @return iterable<string, array{array<mixed>, string}> */
    public static function wrong(): iterable
    {
        $line = [
            'id' => 1,
            'from' => 't1',
            'leaves' => [0, 10],
            'to' => 't1',
            'enters' => [20, 30],
            'ends' => ['one', 'one'],
            'kind' => 'declared',
            'verb' => '',
            'tip' => '',
        ];
        $pieces = ['t1' => [0, 0, 10, 10]];
        yield 'nothing' => [[], '“pieces” is to be an object'];
        yield 'three figures' => [['pieces' => ['t1' => [0, 0, 10]]], '“pieces.t1” is to be 4 numbers'];
        yield 'huge' => [['pieces' => ['t1' => [0, 0, 1e12, 1]]], '“pieces.t1”'];
        yield 'leads nowhere' => [['pieces' => $pieces, 'lines' => [['to' => 't9'] + $line]], '“lines[0]” leads to what is not among the pieces'];
        yield 'no id' => [['pieces' => $pieces, 'lines' => [['id' => 'x', 'ends' => ['exactly one', 'exactly one']] + $line]], '“lines[0]'];
        yield 'no end' => [['pieces' => $pieces, 'lines' => [['ends' => ['some']] + $line]], '“lines[0].ends” is not known'];
        yield 'no object' => [['pieces' => $pieces, 'lines' => ['x']], '“lines[0]” is not an object'];
    }

    /** @param array<mixed> $open */
    #[DataProvider('wrong')]
    public function testWhatIsNoSceneIsRefusedWithItsPlace(array $open, string $words): void
    {
        $this->expectException(SceneError::class);
        $this->expectExceptionMessage($words);
        Scene::fromOpen($open);
    }

    public function testWaysThatAreNoneAreLeftOut(): void
    {
        self::assertSame(
            [1 => [[0.0, 1.0], [2.0, 1.0]]],
            Scene::ways([1 => [[0, 1], [2, 1]], 2 => [[0, 1]], 3 => 'x', 4 => [[0, 'y'], [1, 2]], 'a' => [[0, 1], [2, 1]]]),
        );
        self::assertSame([], Scene::ways(null));
    }

    public function testEnlargedTabletsArePushedApartInTheirOrder(): void
    {
        [$tablets, $lines] = Drawn::schema(16, 20, 6);
        $places = Drawn::scattered($tablets, 0.9);
        $large = Layout::arranged($tablets, $lines, Detail::All, array_map(static fn (array $place): array => [$place[0] * 0.6, $place[1] * 0.6], $places));

        self::assertSame([], Drawn::faults($large, 1.2));
    }

    public function testInRanksWhatRefersStandsBelow(): void
    {
        [$tablets, $lines] = Drawn::schema(20, 19, 4);
        $places = Layout::ranked($tablets, $lines, Detail::Keys);

        foreach ($lines as $line) {
            self::assertTrue($line->from === $line->to || $places[$line->from][1] > $places[$line->to][1], "line {$line->id}");
        }
        self::assertSame([], Drawn::faults(Layout::arranged($tablets, $lines, Detail::Keys, $places), 1.2));
    }

    public function testALayoutsOwnPlacesHoldWhenItIsDrawnAsArranged(): void
    {
        [$tablets, $lines] = Drawn::schema(30, 42, 11, true);
        $places = Layout::of($tablets, $lines, Detail::Keys)->places();
        $arranged = Layout::arranged($tablets, $lines, Detail::Keys, $places);

        self::assertSame([], Drawn::faults($arranged, 1.2));
        $moved = array_filter($arranged->shapes, static fn (TabletShape $shape): bool => $places[$shape->tablet->id] != [$shape->x, (float) $shape->y]);
        self::assertSame([], $moved);
    }
}
