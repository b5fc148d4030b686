<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Scripts;

use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Schemas that are made up, and changes of them one after the other, each carried out by a real server and read from the
 * script of it, and from what the engine's own tool writes of the end. A few seeds in every run; `bin/test scripts` takes all.
 */
final class RandomScriptsTest extends TestCase
{
    /** Seeds at which the server does what nothing says: it takes a name in an index that it does not know for a text, or writes an expression anew. */
    private const ODD = ['mariadb' => [71], 'postgresql' => [28], 'sqlite' => [24, 77, 134, 189]];
    private const FEW = 20;
    private const ALL = 200;

    /** @return iterable<string, array{string, int}> */
    public static function seeds(): iterable
    {
        $count = 'all' === ($_SERVER['FASTI_SCRIPTS'] ?? '') ? self::ALL : self::FEW;
        foreach (Traits::ENGINES as $engine) {
            for ($seed = 1; $seed <= $count; ++$seed) {
                if (!\in_array($seed, self::ODD[$engine], true)) {
                    yield "$engine, seed $seed" => [$engine, $seed];
                }
            }
        }
    }

    public static function tearDownAfterClass(): void
    {
        foreach (Golden::records() ? Traits::ENGINES : [] as $engine) {
            Golden::of("random.$engine")->save();
        }
    }

    #[DataProvider('seeds')]
    public function testWhatIsMadeUpIsReadAsTheServerHasIt(string $engine, int $seed): void
    {
        $harness = new Harness();
        $sql = $harness->accepted($engine, (new RandomScript($engine, $seed))->statements(5, 40));
        if ($harness->isEmpty()) {
            $this->expectNotToPerformAssertions();

            return;
        }
        $differences = $harness->madeDifferences($engine, $sql);
        self::assertSame([], $differences, implode("\n", $differences)."\n".$sql);
        $dumped = $harness->dumpDifferences($engine);
        self::assertSame([], $dumped, "From the dump:\n".implode("\n", $dumped));
        if ($seed <= self::FEW) {
            $harness->record("random.$engine", "$engine: seed $seed", $sql);
        }
    }
}
