<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Plan;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use PHPUnit\Framework\Assert;

/** Made-up models over made-up databases: each answer is held against one that goes over all rows in PHP. */
final class Trials
{
    /** What is made of figures in trials of their own. */
    public const KINDS = ['or', 'has', 'share', 'shown', 'running', 'rank', 'before', 'each', 'others', 'subtotals', 'link'];
    private const EACH = 12;

    /** @var array<string, string> seed and trial → the SQL of its answer */
    public array $sql = [];
    private int $asked = 0;
    private int $answered = 0;
    private int $wrongly = 0;
    /** @var list<string> */
    private array $refusals = [];

    public function __construct(private readonly string $engine)
    {
    }

    /** @param callable(): \PDO $database an empty one, or one in which the tables of the model before still are */
    public function model(int $seed, callable $database, string $kind = ''): void
    {
        $made = new RandomModel($seed);
        $pdo = $database();
        foreach ($made->statements($this->engine) as $statement) {
            $pdo->exec($statement);
        }
        for ($n = 0; $n < self::EACH; ++$n) {
            $trial = '' === $kind ? $made->trial() : $made->trialOf($kind);
            $slow = new SlowAnswer($made, $trial);
            ++$this->asked;
            try {
                $plan = self::plan($made, $trial, $this->engine);
            } catch (Unanswerable $e) {
                if ('' === $slow->refused) {
                    $this->refusals[] = "seed $seed, trial $n: ".$e->getMessage();
                }
                continue;
            }
            $this->sql["seed $seed, trial $n"] = self::all($plan);
            if (self::guarded($pdo, $plan)) {
                $this->wrongly += '' === $slow->refused ? 1 : 0;
                continue;
            }
            foreach ($plan->uncovered as $uncovered) {
                self::query($pdo, $uncovered->sql)->fetch();
            }
            Assert::assertSame('', $slow->refused, "seed $seed, trial $n was answered:\n".$plan->sql());
            ++$this->answered;
            foreach ($plan->subtotals as $k => $of) {
                $less = $of->trial->with(by: \array_slice($trial->by, 0, $k + 1));
                Assert::assertCount($k + 1, $of->trial->by);
                self::hold($pdo, $of, new SlowAnswer($made, $less), $less, "$this->engine, seed $seed, trial $n, subtotals of ".($k + 1));
            }
            self::hold($pdo, $plan, $slow, $trial, "$this->engine, seed $seed, trial $n");
        }
    }

    /** What holds of all of them together. */
    public function sum(): void
    {
        Assert::assertSame([], $this->refusals);
        Assert::assertGreaterThan($this->asked / 4, $this->answered);
        $all = $this->answered + $this->wrongly;
        Assert::assertLessThanOrEqual(0.05 * $all, $this->wrongly, "$this->wrongly of $all answerable ones were refused.");
    }

    /** @throws Unanswerable */
    public static function plan(RandomModel $made, Trial $trial, string $engine): Plan
    {
        return (new Planner(new Ground($made->model, $made->catalog($engine)), new \DateTimeImmutable('2025-06-01')))->plan($trial);
    }

    /**
     * The SQL of every trial of a model, '' where it is refused: nothing is asked.
     *
     * @return array<string, string>
     */
    public static function written(int $seed, string $engine): array
    {
        $made = new RandomModel($seed);
        $found = [];
        for ($n = 0; $n < self::EACH; ++$n) {
            try {
                $found["seed $seed, trial $n"] = self::all(self::plan($made, $made->trial(), $engine));
            } catch (Unanswerable) {
                continue;
            }
        }

        return $found;
    }

    /** All SQL of a plan. */
    private static function all(Plan $plan): string
    {
        $sql = [$plan->sql(), $plan->total?->sql() ?? ''];
        foreach ($plan->guards as $guard) {
            $sql[] = $guard->sql;
        }
        foreach ($plan->losses as $losses) {
            $sql[] = $losses->sql;
            foreach ($losses->steps as $step) {
                $sql[] = $step->rows;
            }
        }
        foreach ($plan->total->alone ?? [] as $reckoning) {
            $sql[] = $reckoning->alone;
        }

        return implode(";\n", array_filter($sql));
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
            Assert::fail($e->getMessage()."\n".$sql);
        }
        Assert::assertInstanceOf(\PDOStatement::class, $statement);

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
        $cut = [] === $trial->each && !$trial->others ? ($trial->limit ?? \PHP_INT_MAX) : \PHP_INT_MAX;
        Assert::assertCount(min(\count($wanted), $cut), $got, $say('other rows'));
        // A limit shows some of the rows; each must be one of the answer, and none twice.
        $left = $wanted;
        foreach ($got as $row) {
            $i = self::find($row, $left);
            Assert::assertNotNull($i, $say('no such row: '.json_encode($row).' among '.json_encode($left)));
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
                Assert::assertTrue(self::same(self::plain([$row[$reckoning->measure]])[0], self::plain([$alone])[0]), $say(
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
        $columns = [...$trial->by, ...$trial->shown()];
        $first = $trial->order[0] ?? null;
        $what = $first->what ?? $trial->by[0] ?? null;
        if (null === $what || str_starts_with($what, 'letter') || [] !== $trial->each || $trial->others) {
            return;
        }
        $at = (int) array_search($what, $columns, true);
        $down = null !== $first && $first->descending;
        $before = static fn (float|string|null $a, float|string|null $b): bool => null === $b || (null !== $a && ($down ? $a >= $b : $a <= $b));
        for ($i = 1, $n = \count($got); $i < $n; ++$i) {
            Assert::assertTrue($before($got[$i - 1][$at], $got[$i][$at]) || self::same($got[$i - 1][$at], $got[$i][$at]), $say('not in order'));
        }
        foreach ([] === $got ? [] : $left as $row) {
            Assert::assertTrue(
                $before($got[\count($got) - 1][$at], $row[$at]) || self::same($got[\count($got) - 1][$at], $row[$at]),
                $say('not the first rows'),
            );
        }
    }
}
