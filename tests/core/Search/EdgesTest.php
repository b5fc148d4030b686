<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Search;

use Fasti\Core\Search\Trigrams;
use Fasti\Core\Search\Typo;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class EdgesTest extends TestCase
{
    #[TestWith(['', '', 0, 0])]
    #[TestWith(['a', '', 1, 1])]
    #[TestWith(['', 'ab', 2, 2])]
    #[TestWith(['', 'ab', 1, null])]
    #[TestWith(['station', 'station', 0, 0])]
    #[TestWith(['station', 'staton', 2, 1])]
    #[TestWith(['station', 'sttaion', 2, 1])]
    #[TestWith(['station', 'stadion', 2, 1])]
    #[TestWith(['station', 'stationen', 2, 2])]
    #[TestWith(['station', 'stationen', 1, null])]
    #[TestWith(['ca', 'abc', 3, 3])]
    #[TestWith(['ab', 'ba', 1, 1])]
    #[TestWith(['ab', 'ba', 0, null])]
    #[TestWith(['größe', 'grösse', 2, 2])]
    #[TestWith(['größe', 'grosse', 2, null])]
    #[TestWith(['abcdef', 'ghijkl', 2, null])]
    public function testHowManySlipsLieBetween(string $a, string $b, int $most, ?int $slips): void
    {
        self::assertSame($slips, Typo::distance($a, $b, $most));
        self::assertSame($slips, Typo::distance($b, $a, $most));
    }

    #[TestWith([0, 0])]
    #[TestWith([3, 0])]
    #[TestWith([4, 1])]
    #[TestWith([7, 1])]
    #[TestWith([8, 2])]
    #[TestWith([80, 2])]
    public function testHowManyAreForgiven(int $length, int $slips): void
    {
        self::assertSame($slips, Typo::allowance($length));
    }

    /** @param list<string> $windows */
    #[TestWith(['', []])]
    #[TestWith(['a', ['^a$']])]
    #[TestWith(['ab', ['^ab', 'ab$']])]
    #[TestWith(['aaaa', ['^aa', 'aaa', 'aa$']])]
    #[TestWith(['größe', ['^gr', 'grö', 'röß', 'öße', 'ße$']])]
    #[TestWith(['123', ['^12', '123', '23$']])]
    public function testWindowsOfThreeLetters(string $folded, array $windows): void
    {
        self::assertSame($windows, Trigrams::of($folded));
    }
}
