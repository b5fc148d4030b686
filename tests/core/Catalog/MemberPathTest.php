<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\MemberPath;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class MemberPathTest extends TestCase
{
    /** @param list<string|0|1> $steps */
    #[TestWith(['a', ['a']])]
    #[TestWith(['a.b[].c{}', ['a', 'b', 0, 'c', 1]])]
    #[TestWith(['a[][]', ['a', 0, 0]])]
    #[TestWith(['{}.a', [1, 'a']])]
    #[TestWith(['a."b.c"[]', ['a', 'b.c', 0]])]
    #[TestWith(['"say ""x"""', ['say "x"']])]
    #[TestWith(['""."[]"', ['', '[]']])]
    #[TestWith(['0.12', ['0', '12']])]
    #[TestWith(['$ref/~1.ä b', ['$ref/~1', 'ä b']])]
    #[TestWith(["a\nb", ["a\nb"]])]
    public function testWhatIsWrittenGivesTheSameStepsBack(string $path, array $steps): void
    {
        self::assertSame($steps, MemberPath::of($path)->steps);
        self::assertSame($path, (string) new MemberPath($steps));
    }

    public function testAnySignMayStandInAName(): void
    {
        mt_srand(12);
        for ($round = 0; $round < 2000; ++$round) {
            $steps = [];
            for ($i = mt_rand(1, 5); $i > 0; --$i) {
                $name = '';
                for ($n = mt_rand(0, 6); $n > 0; --$n) {
                    $name .= ['a', 'b', '.', '[', ']', '{', '}', '"', ' ', '0', '/', "\n", '\\'][mt_rand(0, 12)];
                }
                $steps[] = [$name, MemberPath::ITEMS, MemberPath::VALUES][[0, 0, 0, 1, 2][mt_rand(0, 4)]];
            }
            self::assertSame($steps, MemberPath::of((string) new MemberPath($steps))->steps);
        }
    }

    public function testWhatIsNotWrittenSoIsStillReadToItsEnd(): void
    {
        self::assertSame(['a"b'], MemberPath::of('a"b')->steps);
        self::assertSame(['a', 'b'], MemberPath::of('a..b')->steps);
        self::assertSame([], MemberPath::of('.')->steps);
    }

    public function testTheObjectAroundIsFoundOutsideTheLists(): void
    {
        self::assertSame('a.b', (string) MemberPath::of('a.b[].c')->around());
        self::assertSame('a', (string) MemberPath::of('a.b[]')->around());
        self::assertSame('a{}', (string) MemberPath::of('a{}."x.y"')->around());
        self::assertNull(MemberPath::of('a[]')->around());
        self::assertSame('c.d', MemberPath::of('a."c.d"[]')->name());
    }
}
