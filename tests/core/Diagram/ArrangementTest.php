<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\SceneError;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a person has put where, and what may be said of it. */
final class ArrangementTest extends TestCase
{
    private const KEPT = '{"detail":{"shows":"leads"},"n1":{"kind":"note","text":"x","x":5,"y":6,"width":300},"t7":{"x":10,"y":20,"folded":true},'
        .'"t9":{"x":1,"y":2,"fields":["b"],"auto":true}}';

    public function testItIsReadAndWrittenAgain(): void
    {
        $arrangement = Arrangement::fromJson(self::KEPT);

        self::assertEquals($arrangement, Arrangement::fromJson($arrangement->json()));
        self::assertSame([7, 9], $arrangement->entries());
        self::assertSame([7 => [10.0, 20.0], 9 => [1.0, 2.0]], $arrangement->places());
        self::assertSame(Detail::Leads, $arrangement->detail());
        self::assertSame(['note', 300.0], [$arrangement->notes()[0]->kind->name(), $arrangement->notes()[0]->width]);
        self::assertSame(['detail', 'n1', 't7'], array_keys($arrangement->byHand()->pieces), 'What Fasti has placed may be placed anew.');
        self::assertSame([], Arrangement::fromJson('')->pieces);
    }

    public function testATabletIsShownAsItIsArranged(): void
    {
        $rows = [new TabletRow('a', 'a', true), new TabletRow('b', 'b')];
        $arrangement = Arrangement::fromJson(self::KEPT);

        self::assertTrue($arrangement->shown(new Tablet(7, 'T', $rows))->folded);
        self::assertSame(['b'], $arrangement->shown(new Tablet(9, 'T', $rows))->picked);
        self::assertNull($arrangement->shown(new Tablet(1, 'T', $rows, leads: 3))->picked);
        self::assertSame(3, $arrangement->shown(new Tablet(1, 'T', $rows, leads: 3))->leads);
    }

    /** @return iterable<string, array{string, mixed, string}> */
    public static function wrong(): iterable
    {
        yield 'no such key' => ['t0', ['x' => 1, 'y' => 2], '“t0” is not the name of a piece'];
        yield 'markup in a key' => ['n"><', ['kind' => 'note', 'text' => '', 'x' => 1, 'y' => 2], 'is not the name of a piece'];
        yield 'no place' => ['t5', ['x' => 1], '“y” of “t5”'];
        yield 'far outside' => ['t5', ['x' => 1e9, 'y' => 0], '“x” of “t5”'];
        yield 'not a number' => ['t5', ['x' => '1', 'y' => 0], '“x” of “t5”'];
        yield 'no such level' => ['t5', ['x' => 1, 'y' => 0, 'shows' => 'more'], 'shows names, keys, leads or all'];
        yield 'no such kind' => ['n5', ['kind' => 'cloud', 'text' => '', 'x' => 1, 'y' => 0], 'a heading, a note or a frame'];
        yield 'too long' => ['n5', ['kind' => 'note', 'text' => str_repeat('ä', 4001), 'x' => 1, 'y' => 0], '4001 characters; 4000 fit'];
        yield 'not an object' => ['t5', 'here', 'is not an object'];
        yield 'detail' => ['detail', ['shows' => 'x'], '“detail” shows'];
    }

    #[DataProvider('wrong')]
    public function testWhatCannotBeSaidIsRefusedWithItsPlace(string $key, mixed $value, string $words): void
    {
        $this->expectException(SceneError::class);
        $this->expectExceptionMessage($words);
        Arrangement::checked($key, $value);
    }

    public function testWhatIsUnknownOfAPieceIsNotKept(): void
    {
        self::assertSame(['x' => 1.0, 'y' => 2.0], Arrangement::checked('t5', ['x' => 1, 'y' => 2.04, 'onclick' => 'x', 'folded' => false]));
    }

    public function testADifferenceIsToldInWords(): void
    {
        $before = Arrangement::fromJson('{"t1":{"x":0,"y":0},"t2":{"x":0,"y":0},"t3":{"x":0,"y":0},"n1":{"kind":"note","text":"a","x":0,"y":0}}');
        $after = Arrangement::fromJson(
            '{"t1":{"x":9,"y":0},"t2":{"x":9,"y":0},"t4":{"x":0,"y":0},"n1":{"kind":"note","text":"b","x":0,"y":0},"detail":{"shows":"all"}}',
        );

        self::assertSame('2 tablets moved, 1 tablet added, 1 note changed, level of detail chosen, 1 tablet removed', $after->since($before));
        self::assertSame('', $after->since($after));
    }
}
