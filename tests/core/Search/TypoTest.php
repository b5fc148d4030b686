<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Search;

use Fasti\Core\Search\Trigrams;
use Fasti\Core\Search\Typo;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class TypoTest extends TestCase
{
    #[TestWith(['station', 'station', 0])]
    #[TestWith(['station', 'staton', 1])]
    #[TestWith(['station', 'staation', 1])]
    #[TestWith(['station', 'ststion', 1])]
    #[TestWith(['station', 'sattion', 1])]
    #[TestWith(['station', 'sattin', 2])]
    #[TestWith(['größe', 'groesse', null])]
    #[TestWith(['', 'ab', 2])]
    #[TestWith(['station', 'reading', null])]
    public function testSlips(string $a, string $b, ?int $slips): void
    {
        self::assertSame($slips, Typo::distance($a, $b, 2));
        self::assertSame($slips, Typo::distance($b, $a, 2));
    }

    public function testShortWordsForgiveNothing(): void
    {
        self::assertSame([0, 1, 2], [Typo::allowance(3), Typo::allowance(7), Typo::allowance(12)]);
    }

    public function testTrigramsOfAWord(): void
    {
        self::assertSame(['^ab', 'ab$'], Trigrams::of('ab'));
        self::assertSame(['^ää', 'äää', 'ää$'], Trigrams::of('äääää'));
        self::assertSame([], Trigrams::of(''));
    }
}
