<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Tests\App\Scripts\Harness;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What a survey finds of each trait of an engine is written as a script, and makes the same again. */
final class WrittenTest extends TestCase
{
    /** What a catalog does not hold, so that no script can be made of it. */
    public const NOT_HELD = [
        'mariadb: a sequence' => 'a table that is a sequence', 'mariadb: an aggregate function' => 'that a function is an aggregate',
        'mariadb: versioned with its own columns' => 'the period of the system', 'mariadb: a foreign key to a table that is not there' => 'what is not there',
        'postgresql: a collation of its own' => 'collations', "postgresql: operators and casts of one's own" => 'operators',
        'postgresql: a domain over a domain' => 'the inner domain', 'postgresql: extensions' => 'extensions and classes of operators',
        'postgresql: a composite type and a range of its own' => 'such types',
        "postgresql: functions that return rows and types of one's own" => 'such types', 'postgresql: aggregates' => 'aggregates, which are noted',
        'postgresql: constraints that come, go and change names' => 'the same key twice: the server makes one of two that are made together',
        'sqlite: an integer key numbers itself' => 'INTEGER PRIMARY KEY DESC, a slip of the engine that it keeps',
    ];

    #[DataProvider('traits')]
    public function testASurveyedSchemaIsMadeAgainByItsScript(string $engine, string $sql): void
    {
        $harness = new Harness();
        if (isset(self::NOT_HELD[$this->dataName()])) {
            self::markTestSkipped('A catalog does not hold '.self::NOT_HELD[$this->dataName()].'.');
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
        self::assertSame([], Harness::compared($found, $harness->live($engine, $script)), $script);
    }

    /** @return iterable<string, array{string, string}> */
    public static function traits(): iterable
    {
        return Harness::traits();
    }

    /** @return array<string, true> */
    private static function schemas(Catalog $catalog): array
    {
        return array_fill_keys(array_map(static fn (Table $table): string => $table->schema, $catalog->tables), true);
    }
}
