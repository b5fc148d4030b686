<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Scripts;

use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Drift\RoutineDrift;
use Fasti\Core\Drift\TableDrift;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProviderExternal;
use PHPUnit\Framework\TestCase;

/**
 * Each trait of a script, as it is read and as the engine's own server has it: equal in every property. The scripts stand in
 * tests/scripts, written from the engines' documentation of their statements.
 */
final class TraitsTest extends TestCase
{
    /** What the engine's own tool does not write so that it can be read back as it was. */
    private const NOT_DUMPED = ['mariadb: another database', 'postgresql: inheritance', 'postgresql: inheritance that comes and goes'];

    public static function setUpBeforeClass(): void
    {
        foreach (Golden::records() ? Traits::ENGINES : [] as $engine) {
            Golden::fresh("scripts.$engine");
        }
    }

    public static function tearDownAfterClass(): void
    {
        foreach (Golden::records() ? Traits::ENGINES : [] as $engine) {
            Golden::of("scripts.$engine")->save();
        }
    }

    #[DataProviderExternal(Traits::class, 'all')]
    public function testAScriptIsReadAsTheServerCarriesItOut(string $engine, string $sql): void
    {
        $harness = new Harness();
        $differences = $harness->differences($engine, $sql);

        self::assertSame([], $differences, implode("\n", $differences));
        if (!\in_array((string) $this->dataName(), self::NOT_DUMPED, true)) {
            $dumped = $harness->dumpDifferences($engine);
            self::assertSame([], $dumped, "From the dump:\n".implode("\n", $dumped));
        }
        $harness->record("scripts.$engine", (string) $this->dataName(), $sql);
    }

    /** Every statement of a script against the database that it made: nothing has changed, though the one may not name its schema. */
    #[DataProviderExternal(Traits::class, 'all')]
    public function testAScriptAgainstItsOwnDatabaseShowsNoDrift(string $engine, string $sql): void
    {
        $harness = new Harness();
        $live = $harness->live($engine, $sql);
        $script = Traits::script($sql, $engine, 'elsewhere');
        $drift = array_filter(
            Compare::catalogs($live, $script),
            static fn (TableDrift $item): bool => Fate::Renamed !== $item->change || $item->before?->name !== $item->after?->name
                || [] !== $item->words || [] !== $item->columns,
        );

        self::assertSame([], array_map(static fn (TableDrift $item): array => $item->toArray(), array_values($drift)));
        self::assertSame([], array_map(static fn (RoutineDrift $item): array => $item->toArray(), Compare::routines($live, $script)));
    }

    public function testThereAreEnoughOfThem(): void
    {
        $count = array_count_values(array_map(static fn (array $trait): string => $trait[0], iterator_to_array(Traits::all())));

        foreach (Traits::ENGINES as $engine) {
            self::assertGreaterThanOrEqual(150, $count[$engine], $engine);
        }
    }
}
