<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Support;

use Fasti\Support\Row;
use Fasti\Support\Words;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class WordsTest extends TestCase
{
    #[TestWith([0, 'just now'])]
    #[TestWith([89, 'just now'])]
    #[TestWith([90, '2 minutes ago'])]
    #[TestWith([300, '5 minutes ago'])]
    #[TestWith([5400, '2 hours ago'])]
    #[TestWith([7200, '2 hours ago'])]
    #[TestWith([86400, '1 day ago'])]
    #[TestWith([864000, '10 days ago'])]
    #[TestWith([1209500, '14 days ago'])]
    public function testHowLongAgo(int $seconds, string $words): void
    {
        self::assertSame($words, (new Words())->ago(gmdate('Y-m-d H:i:s', time() - $seconds)));
    }

    public function testLongAgoIsADay(): void
    {
        self::assertSame('3 Feb 2020', (new Words())->ago('2020-02-03 04:05:06'));
        self::assertSame('3 Feb 2020, 04:05 UTC', (new Words())->minute('2020-02-03 04:05:06'));
        self::assertSame('', (new Words())->day(null));
        self::assertSame('3 Feb 2020', (new Words())->day(new \DateTimeImmutable('2020-02-03')));
    }

    public function testRowsGiveWhatTheyHoldOrFail(): void
    {
        self::assertSame(
            [7, null, 'x', null, ['a' => 1], []],
            [
                Row::int(['n' => '7'], 'n'), Row::maybeInt(['n' => null], 'n'), Row::text(['t' => 'x'], 't'), Row::maybeText([], 't'),
                Row::json(['j' => '{"a":1}'], 'j'), Row::json(['j' => 'broken'], 'j'),
            ],
        );
        $this->expectException(\LogicException::class);
        Row::int(['n' => 'seven'], 'n');
    }
}
