<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Fasti\Core\Sql\Readings;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use PHPUnit\Framework\Attributes\DataProvider;

/** Queries made up by chance, over schemas made up by chance: names, types and fields must be those that PostgreSQL knows. */
final class RandomQueriesTest extends AppTestCase
{
    private const QUERIES = 1700;

    /** @return iterable<string, array{int}> */
    public static function seeds(): iterable
    {
        foreach ([11, 12, 13] as $seed) {
            yield "seed $seed" => [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function testRandomQueriesAreReadAsTheServerReadsThem(int $seed): void
    {
        $random = new RandomQuery($seed);
        $script = sys_get_temp_dir().'/fasti-random-'.bin2hex(random_bytes(4)).'.sql';
        file_put_contents($script, "CREATE SCHEMA q; CREATE SCHEMA v;\n".$random->schema());
        $target = Engines::made($script);
        unlink($script);
        $pdo = Engines::pdo($target);
        $queries = [];
        for ($i = 0; $i < self::QUERIES; ++$i) {
            $sql = $random->query();
            try {
                $pdo->exec("CREATE VIEW v.x$i AS $sql");
                $queries["x$i"] = $sql;
            } catch (\PDOException) {
                // Not all that is made up is good.
            }
        }
        $catalog = HardQueriesTest::survey($target);
        $truth = HardQueriesTest::dependences($pdo);
        Engines::drop($target);
        $readings = new Readings($catalog);
        $faults = [];
        foreach ($queries as $name => $sql) {
            $view = $catalog->table('v', $name);
            self::assertNotNull($view);
            array_push(
                $faults,
                ...HardQueriesTest::compared("$sql as the server has it", $readings->of($view), $truth[$name] ?? [], $view->columns),
                ...HardQueriesTest::compared($sql, $readings->query($sql, 'q'), $truth[$name] ?? [], $view->columns),
            );
        }

        self::assertGreaterThan(900, \count($queries));
        self::assertSame([], $faults);
    }
}
