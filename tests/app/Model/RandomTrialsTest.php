<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Plan;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/**
 * Made-up models over made-up databases, on the real engines: each answer is held against one that goes over all rows in PHP. A part here;
 * `bin/test scripts` asks several thousand.
 */
final class RandomTrialsTest extends TestCase
{
    private const TRIALS = 12;

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        foreach (['mariadb', 'postgresql', 'sqlite'] as $engine) {
            yield $engine => [$engine];
        }
    }

    #[DataProvider('engines')]
    public function testAnAnswerIsThatOfGoingOverAllRows(string $engine): void
    {
        $models = (int) (getenv('FASTI_MODELS') ?: 25);
        $first = (int) (getenv('FASTI_MODEL') ?: 1);
        $asked = $answered = $wrongly = 0;
        $refusals = [];
        for ($seed = $first; $seed < $first + $models; ++$seed) {
            $made = new RandomModel($seed);
            $pdo = self::database($engine);
            foreach ($made->statements($engine) as $statement) {
                $pdo->exec($statement);
            }
            for ($n = 0; $n < self::TRIALS; ++$n) {
                $trial = $made->trial();
                $slow = new SlowAnswer($made, $trial);
                ++$asked;
                try {
                    $plan = (new Planner(new Ground($made->model, $made->catalog($engine)), new \DateTimeImmutable('2025-06-01')))->plan($trial);
                } catch (Unanswerable $e) {
                    if ('' === $slow->refused) {
                        $refusals[] = "seed $seed, trial $n: ".$e->getMessage();
                    }
                    continue;
                }
                if (self::guarded($pdo, $plan)) {
                    if ('' === $slow->refused) {
                        ++$wrongly;
                    }
                    continue;
                }
                self::assertSame('', $slow->refused, "seed $seed, trial $n was answered:\n".$plan->sql());
                ++$answered;
                self::hold($pdo, $plan, $slow, $trial, "$engine, seed $seed, trial $n");
            }
        }
        self::assertSame([], $refusals);
        self::assertGreaterThan($asked / 4, $answered);
        self::assertLessThanOrEqual(0.05 * ($answered + $wrongly), $wrongly, "$wrongly of ".($answered + $wrongly).' answerable ones were refused.');
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

    private static function guarded(\PDO $pdo, Plan $plan): bool
    {
        foreach ($plan->guards as $guard) {
            if (false !== self::query($pdo, $guard->sql)->fetch()) {
                return true;
            }
        }

        return false;
    }

    private static function query(\PDO $pdo, string $sql): \PDOStatement
    {
        try {
            $statement = $pdo->query($sql);
        } catch (\PDOException $e) {
            self::fail($e->getMessage()."\n".$sql);
        }
        self::assertInstanceOf(\PDOStatement::class, $statement);

        return $statement;
    }

    private static function hold(\PDO $pdo, Plan $plan, SlowAnswer $slow, Trial $trial, string $where): void
    {
        $got = [];
        foreach (self::query($pdo, $plan->sql())->fetchAll(\PDO::FETCH_NUM) as $row) {
            $got[] = self::plain((array) $row);
        }
        $wanted = array_map(self::plain(...), $slow->rows);
        $say = static fn (string $what): string => "$where: $what\n".json_encode($trial, \JSON_PRETTY_PRINT)."\n".$plan->sql();
        self::assertCount(min(\count($wanted), $trial->limit ?? \PHP_INT_MAX), $got, $say('other rows'));
        // A limit shows some of the rows; each must be one of the answer, and none twice.
        $left = $wanted;
        foreach ($got as $row) {
            $i = self::find($row, $left);
            self::assertNotNull($i, $say('no such row: '.json_encode($row).' among '.json_encode($left)));
            unset($left[$i]);
        }
        self::ordered($got, $left, $trial, $say);
        foreach ($plan->losses as $losses) {
            self::query($pdo, $losses->sql)->fetch();
            foreach ($losses->steps as $step) {
                self::query($pdo, $step->rows)->fetch();
            }
        }
        // The total of a measure in the plan is the one of the fact alone.
        $total = [] === $trial->by ? $plan : $plan->total;
        if (null === $total) {
            return;
        }
        if ([] === $trial->by && [] !== array_filter($trial->where, static fn ($one): bool => \in_array($one->what, $trial->measures, true))) {
            return;
        }
        $row = self::query($pdo, $total->sql())->fetch(\PDO::FETCH_ASSOC);
        foreach ($total->alone as $reckoning) {
            $alone = self::query($pdo, $reckoning->alone)->fetchColumn();
            if (\is_array($row) && \array_key_exists($reckoning->measure, $row)) {
                self::assertTrue(self::same(self::plain([$row[$reckoning->measure]])[0], self::plain([$alone])[0]), $say(
                    "$reckoning->measure: ".json_encode($row[$reckoning->measure]).' is '.json_encode($alone)." alone\n".$total->sql()."\n\n".$reckoning->alone,
                ));
            }
        }
    }

    /**
     * @param array<mixed> $row
     *
     * @return list<float|string|null>
     */
    private static function plain(array $row): array
    {
        return array_map(
            static fn (mixed $value): float|string|null => match (true) {
                null === $value => null,
                is_numeric($value) => (float) $value,
                \is_scalar($value) => (string) $value,
                default => '?',
            },
            array_values($row),
        );
    }

    private static function same(float|string|null $a, float|string|null $b): bool
    {
        return $a === $b || (\is_float($a) && \is_float($b) && abs($a - $b) <= 1e-12 * max(abs($a), abs($b), 1));
    }

    /**
     * @param list<float|string|null>             $row
     * @param array<int, list<float|string|null>> $rows
     */
    private static function find(array $row, array $rows): ?int
    {
        foreach ($rows as $i => $other) {
            $alike = true;
            foreach ($row as $k => $value) {
                $alike = $alike && self::same($value, $other[$k]);
            }
            if ($alike) {
                return $i;
            }
        }

        return null;
    }

    /**
     * @param list<list<float|string|null>>       $got
     * @param array<int, list<float|string|null>> $left rows that are not shown
     * @param callable(string): string            $say
     */
    private static function ordered(array $got, array $left, Trial $trial, callable $say): void
    {
        $columns = [...$trial->by, ...$trial->measures];
        $first = $trial->order[0] ?? null;
        $what = $first->what ?? $trial->by[0] ?? null;
        if (null === $what || str_starts_with($what, 'letter')) {
            return;
        }
        $at = (int) array_search($what, $columns, true);
        $down = null !== $first && $first->descending;
        $before = static fn (float|string|null $a, float|string|null $b): bool => null === $b || (null !== $a && ($down ? $a >= $b : $a <= $b));
        for ($i = 1, $n = \count($got); $i < $n; ++$i) {
            self::assertTrue($before($got[$i - 1][$at], $got[$i][$at]) || self::same($got[$i - 1][$at], $got[$i][$at]), $say('not in order'));
        }
        foreach ([] === $got ? [] : $left as $row) {
            self::assertTrue($before($got[\count($got) - 1][$at], $row[$at]) || self::same($got[\count($got) - 1][$at], $row[$at]), $say('not the first rows'));
        }
    }
}
