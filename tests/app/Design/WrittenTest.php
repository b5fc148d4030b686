<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use Fasti\Tests\Core\Golden\Compared;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a survey finds of each trait of an engine is written as a script, and makes the same again. */
final class WrittenTest extends TestCase
{
    #[DataProvider('traits')]
    public function testASurveyedSchemaIsMadeAgainByItsScript(string $engine, string $sql): void
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
        $writing = Dialects::of($engine)->writing(new ScriptOptions(places: 1 < \count(self::schemas($found))));
        $missing = array_merge(...array_map($writing->missing(...), $found->tables));
        if ([] !== $missing) {
            self::markTestSkipped(implode('; ', $missing));
        }
        $script = $writing->text($writing->catalog($found));
        self::assertSame([], Compared::catalogs($found, $harness->live($engine, $script)), $script);
    }

    /** @return iterable<string, array{string, string}> */
    public static function traits(): iterable
    {
        return Traits::all();
    }

    /** @return array<string, true> */
    private static function schemas(Catalog $catalog): array
    {
        return array_fill_keys(array_map(static fn (Table $table): string => $table->schema, $catalog->tables), true);
    }
}
