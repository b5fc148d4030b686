<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Design\DesignScript;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\OutlineWriter;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Taking;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a survey finds is taken into an outline, read again, and its script makes the same again. */
final class TakenTest extends TestCase
{
    #[DataProvider('traits')]
    public function testASourceIsTheSameAfterItsOutlineAndItsScript(string $engine, string $sql): void
    {
        $harness = new Harness();
        if (isset(Traits::NOT_HELD[$this->dataName()])) {
            self::markTestSkipped('A catalog does not hold '.Traits::NOT_HELD[$this->dataName()].'.');
        }
        try {
            $found = $harness->live($engine, $sql);
        } catch (\RuntimeException $e) {
            self::markTestSkipped($e->getMessage());
        }
        [$design, $notes] = Taking::of($found);
        if ([] !== $notes) {
            self::markTestSkipped(implode(' ', $notes));
        }
        $text = OutlineWriter::design($design);
        $outline = Outline::read($text);
        self::assertSame([], array_map(strval(...), $outline->faults), $text);
        self::assertSame($text, OutlineWriter::design($outline->design));
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, $found->tables));
        $script = (new DesignScript(Physical::of($outline->design)))->text(new ScriptOptions(places: 1 < \count($schemas)));
        try {
            $again = $harness->live($engine, $script);
        } catch (\RuntimeException $e) {
            self::fail($e->getMessage()."\n".$text."\n".$script);
        }
        self::assertSame([], Compared::catalogs($found, $again), $text."\n".$script);
    }

    /** @return iterable<string, array{string, string}> */
    public static function traits(): iterable
    {
        return Traits::all();
    }
}
