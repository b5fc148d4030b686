<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Traits;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Answers to made-up trials, on databases in memory, and the SQL that other engines have carried out before. */
final class RandomTrialsTest extends TestCase
{
    public function testAnAnswerIsThatOfGoingOverAllRows(): void
    {
        $trials = new Trials('sqlite');
        for ($seed = 1; $seed <= 25; ++$seed) {
            $trials->model($seed, static fn (): \PDO => new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]));
        }
        $trials->sum();
    }

    /** @return iterable<string, array{string}> */
    public static function kinds(): iterable
    {
        foreach (Trials::KINDS as $kind) {
            yield $kind => [$kind];
        }
    }

    #[DataProvider('kinds')]
    public function testWhatStandsBesideMeasuresIsThatOfGoingOverAllRows(string $kind): void
    {
        $trials = new Trials('sqlite');
        for ($seed = 1; $seed <= 18; ++$seed) {
            $trials->model($seed, static fn (): \PDO => new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]), $kind);
        }
        $trials->sum();
    }

    /** @return iterable<string, array{string, int}> */
    public static function recorded(): iterable
    {
        foreach (Traits::ENGINES as $engine) {
            foreach (Golden::of("models.$engine")->names() as $name) {
                yield "$engine, $name" => [$engine, (int) substr($name, 5)];
            }
        }
    }

    #[DataProvider('recorded')]
    public function testTheSqlIsThatOfWhichTheAnswersWereRight(string $engine, int $seed): void
    {
        $case = Golden::of("models.$engine")->case("seed $seed") ?? self::fail();

        self::assertSame($case['more'], Trials::written($seed, $engine), 'Where it is meant to be another: bin/test record.');
    }
}
