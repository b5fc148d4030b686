<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Model\Trials;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Made-up models over made-up databases, on the real engines: each answer is held against one that goes over all rows in PHP. A part here;
 * `bin/test scripts` asks several thousand.
 */
final class RandomTrialsTest extends TestCase
{
    /** Of which the SQL is kept for the tests of the core. */
    private const RECORDED = 12;

    public static function setUpBeforeClass(): void
    {
        foreach (Golden::records() ? ['mariadb', 'postgresql', 'sqlite'] : [] as $engine) {
            Golden::fresh("models.$engine");
        }
    }

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        foreach (['mariadb', 'postgresql', ...(false === getenv('FASTI_MODELS') && !Golden::records() ? [] : ['sqlite'])] as $engine) {
            yield $engine => [$engine];
        }
    }

    #[DataProvider('engines')]
    public function testAnAnswerIsThatOfGoingOverAllRows(string $engine): void
    {
        $models = (int) (getenv('FASTI_MODELS') ?: 25);
        $first = (int) (getenv('FASTI_MODEL') ?: 1);
        $trials = new Trials($engine);
        for ($seed = $first; $seed < $first + $models; ++$seed) {
            $trials->model($seed, static fn (): \PDO => self::database($engine));
        }
        $trials->sum();
        if (Golden::records()) {
            for ($seed = 1; $seed <= self::RECORDED; ++$seed) {
                $own = array_filter($trials->sql, static fn (string $name): bool => str_starts_with($name, "seed $seed,"), \ARRAY_FILTER_USE_KEY);
                Golden::of("models.$engine")->keep("seed $seed", '', [], '', $own);
            }
            Golden::of("models.$engine")->save();
        }
    }

    private static function database(string $engine): \PDO
    {
        if ('sqlite' === $engine) {
            return new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        }
        if ('postgresql' === $engine) {
            return Engines::pdo(Engines::postgreSql());
        }
        $pdo = OddSchema::server();
        $pdo->exec('CREATE DATABASE IF NOT EXISTS fasti_models');
        $pdo->exec('USE fasti_models');

        return $pdo;
    }
}
