<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Core\Dialect\Dialects;
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

    /** @return iterable<string, array{string, string}> */
    public static function kinds(): iterable
    {
        foreach (self::engines() as [$engine]) {
            foreach (Trials::KINDS as $kind) {
                yield "$engine, $kind" => [$engine, $kind];
            }
        }
    }

    #[DataProvider('kinds')]
    public function testWhatStandsBesideMeasuresIsThatOfGoingOverAllRows(string $engine, string $kind): void
    {
        $models = (int) (getenv('FASTI_MODELS') ?: 12);
        $first = (int) (getenv('FASTI_MODEL') ?: 1);
        $trials = new Trials($engine);
        for ($seed = $first; $seed < $first + $models; ++$seed) {
            $trials->model($seed, static fn (): \PDO => self::database($engine), $kind);
        }
        $trials->sum();
    }

    /** Halves are rounded away from nought, and twelve places are kept, whatever the engine. */
    #[DataProvider('engines')]
    public function testDivisionIsThatOfExactNumbers(string $engine): void
    {
        $sql = Dialects::of($engine)->asking() ?? self::fail();
        $asked = static function (string $expression) use ($engine): string {
            $found = self::database($engine)->query("SELECT $expression");

            return \is_scalar($value = false === $found ? null : $found->fetchColumn()) ? (string) $value : '';
        };

        self::assertEquals(3, $asked($sql->rounded($sql->divided('5', '2'), '0')));
        self::assertEquals(-3, $asked($sql->rounded($sql->divided('-5', '2'), '0')));
        self::assertEqualsWithDelta(1.01, (float) $asked($sql->rounded($sql->divided('2.01', '2'), '2')), 1e-9);
        self::assertStringStartsWith('0.333333333333', $asked($sql->divided('1', '3')));
        self::assertSame('', $asked($sql->divided('1', '0')), 'by nought there is none');
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
