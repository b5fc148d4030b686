<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Replayed;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Schemas made up by chance with their changes, one after the other, against what a server had in the end when that was recorded. */
final class GoldenRandomScriptsTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function cases(): iterable
    {
        foreach (Traits::ENGINES as $engine) {
            foreach (Golden::of("random.$engine")->names() as $name) {
                yield $name => [$engine];
            }
        }
    }

    #[DataProvider('cases')]
    public function testAScriptIsReadAsItsServerCarriedItOut(string $engine): void
    {
        $case = Golden::of("random.$engine")->case((string) $this->dataName()) ?? self::fail();
        $live = Traits::survey($engine, new Replayed($case['answers']));

        self::assertSame([], Compared::catalogs($live, Traits::script($case['of'], $engine, Traits::SCHEMAS[$engine])), $case['of']);
        self::assertSame([], Compared::catalogs($live, Traits::script($case['text'], $engine, Traits::SCHEMAS[$engine])), $case['text']);
    }
}
