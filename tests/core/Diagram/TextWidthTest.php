<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\TextWidth;
use PHPUnit\Framework\TestCase;

final class TextWidthTest extends TestCase
{
    public function testWideLettersAreWiderThanNarrowOnes(): void
    {
        self::assertGreaterThan(3 * TextWidth::title('iii', 16), TextWidth::title('MMM', 16));
        self::assertSame(2 * TextWidth::text('Station', 11), TextWidth::text('Station', 22));
    }

    public function testFixedWidthLettersCountByCells(): void
    {
        self::assertEqualsWithDelta(7.5 * 6, TextWidth::code('id_abc', 12.5), 0.001);
        self::assertEqualsWithDelta(7.5 * 4, TextWidth::code('顧客', 12.5), 0.001, 'East Asian letters take two cells each.');
    }

    public function testATextIsCutOnlyWhereItDoesNotFit(): void
    {
        $width = static fn (string $text): float => (float) mb_strlen($text);

        self::assertSame('station', TextWidth::fitted('station', 7, $width));
        self::assertSame('stat…', TextWidth::fitted('station', 5, $width));
        self::assertSame('…', TextWidth::fitted('station', 0, $width));
        self::assertSame('grö…', TextWidth::fitted('größer', 4, $width));
        self::assertSame('one…', TextWidth::fitted('one two', 5, $width), 'No blank before the ellipsis.');
    }
}
