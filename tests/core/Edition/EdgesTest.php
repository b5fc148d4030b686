<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Edition;

use Fasti\Core\Edition\Slug;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class EdgesTest extends TestCase
{
    #[TestWith(['station'])]
    #[TestWith(['station_2-b'])]
    #[TestWith(['2024'])]
    #[TestWith(['_x'])]
    #[TestWith(['indexes'])]
    #[TestWith(['a-0123456'])]
    #[TestWith(['a-0123456g'])]
    #[TestWith(['aaaaaaaaaabbbbbbbbbbccccccccccddddddddddeeeeeeeeeeffffffffff'])]
    public function testAPlainNameStaysAsItIs(string $name): void
    {
        self::assertSame($name, Slug::of($name));
    }

    #[TestWith(['index', 'index-'])]
    #[TestWith(['con', 'con-'])]
    #[TestWith(['prn', 'prn-'])]
    #[TestWith(['aux', 'aux-'])]
    #[TestWith(['nul', 'nul-'])]
    #[TestWith(['diagram', 'diagram-'])]
    #[TestWith(['Station', 'station-'])]
    #[TestWith(['two words', 'two-words-'])]
    #[TestWith(['-begins', 'begins-'])]
    #[TestWith(['a-01234567', 'a-01234567-'])]
    #[TestWith(['größe', 'gr-e-'])]
    #[TestWith(['顧客', ''])]
    #[TestWith(['', ''])]
    #[TestWith(['../etc/passwd', 'etc-passwd-'])]
    #[TestWith(['aaaaaaaaaabbbbbbbbbbccccccccccddddddddddeeeeeeeeeefffffffffffg', 'aaaaaaaaaabbbbbbbbbbccccccccccddddddddddeeeeeeeeeeffffffffff-'])]
    public function testAnyOtherGetsWhatOneCanReadAndASignOfItsOwn(string $name, string $readable): void
    {
        self::assertSame($readable.substr(hash('sha256', $name), 0, 8), Slug::of($name));
    }

    public function testNoTwoNamesShareOne(): void
    {
        $names = ['a', 'A', 'a-', 'a b', 'a-b', 'a_b', 'a  b', 'index', 'Index', 'index-'.substr(hash('sha256', 'index'), 0, 8)];

        self::assertCount(\count($names), array_unique(array_map(Slug::of(...), $names)));
        self::assertCount(\count($names), array_unique(array_map(static fn (string $name): string => strtolower(Slug::of($name)), $names)));
    }
}
