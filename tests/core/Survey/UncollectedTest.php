<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Survey;

use Fasti\Core\Survey\Uncollected;
use PHPUnit\Framework\TestCase;

final class UncollectedTest extends TestCase
{
    protected function tearDown(): void
    {
        gc_enable();
    }

    public function testTheCollectorRestsWhileTheWorkIsDoneAndIsAsItWasAfterwards(): void
    {
        self::assertFalse(Uncollected::run(gc_enabled(...)));
        self::assertTrue(gc_enabled());
        try {
            Uncollected::run(static function (): never {
                throw new \RuntimeException('given up');
            });
        } catch (\RuntimeException $e) {
            self::assertSame('given up', $e->getMessage());
        }
        self::assertTrue(gc_enabled());
        gc_disable();
        Uncollected::run(static fn (): int => 1);

        self::assertFalse(gc_enabled());
    }
}
