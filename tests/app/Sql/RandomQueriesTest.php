<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Sql\Held;
use PHPUnit\Framework\Attributes\DataProvider;

/** Queries made up by chance, over schemas made up by chance: names, types and fields must be those that PostgreSQL knows. */
final class RandomQueriesTest extends AppTestCase
{
    private const QUERIES = 1700;
    private const RECORDED = 11;

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
        if (Golden::records() && self::RECORDED === $seed) {
            $some = \array_slice($queries, 0, 400);
            foreach (array_keys(array_diff_key($queries, $some)) as $name) {
                $pdo->exec("DROP VIEW IF EXISTS v.$name CASCADE");
            }
            HardQueriesTest::record('postgresql', 'random', $pdo, '', ['truth' => array_intersect_key($truth, $some), 'queries' => $some]);
            Golden::of('queries.postgresql')->save();
        }
        Engines::drop($target);

        self::assertGreaterThan(900, \count($queries));
        self::assertSame([], Held::views($catalog, $queries, $truth, 'q'));
    }
}
