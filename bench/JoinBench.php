<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Bench\Joins\Filled;
use Fasti\Bench\Joins\Fit;
use Fasti\Bench\Joins\Known;
use Fasti\Bench\Joins\Made;
use Fasti\Bench\Joins\PostgreSqlCatalog;
use Fasti\Bench\Joins\Training;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Candidates;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\DataLook;
use Fasti\Core\Join\End;
use Fasti\Core\Join\KeyValues;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Observing;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Join\Routes;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Demo\Fieldwork;

/** Measures how well joins are found, and how fast. */
final readonly class JoinBench
{
    private const DATA = 'fasti_bench_joins';
    private const DEMO = ['fasti_bench_fieldwork', 'fasti_bench_archive'];
    /** Schemas that are measured: styles of writing, one whose names mislead, and the largest. */
    private const MEASURED = ['library', 'hospital', 'warehouse', 'school', 'railway', 'coop', 'museum'];

    /**
     * @param \Closure(string, string, string, float, float, bool=): void $say
     * @param \Closure(string): float                                     $inOwnProcess peak memory of a job, in MiB
     */
    public function __construct(private \Closure $say, private \PDO $mariaDb, private \Closure $inOwnProcess)
    {
    }

    public function joins(): void
    {
        ini_set('memory_limit', '3G');
        $this->found();
        $this->speed();
    }

    public static function job(): void
    {
        (new Proposals())->of(self::large());
    }

    private function found(): void
    {
        $training = new Training();
        $cells = ['names' => [], 'data' => []];
        $seed = 1000;
        foreach (self::MEASURED as $name) {
            $weights = $training->weights($name);
            $catalog = Made::of($name);
            $this->measure($name, new Known($name, $catalog, Fit::truth($catalog)), new Filled($catalog, ++$seed), $weights, 0.92, 0.96, $cells);
        }
        $catalog = Made::large(300);
        $apart = $training->weights(...Made::LARGE);
        $this->measure('300 tables', new Known('large', $catalog, Fit::truth($catalog)), new Filled($catalog, ++$seed), $apart, 0.92, 0.96, $cells);
        // These are nobody's to learn from, and judged as users have it.
        $weights = Chooser::shipped();
        [$demo, $rows] = $this->demo();
        $this->measure('the demo', $demo, $rows, $weights, 0.92, 0.96, $cells);
        [$postgres, $rows] = PostgreSqlCatalog::copied();
        $this->measure('the catalog of PostgreSQL', $postgres, $rows, $weights, 0.80, 0.85, $cells);
        foreach ($cells as $which => $tenths) {
            ksort($tenths);
            foreach ($tenths as $tenth => [$said, $right]) {
                if ($said >= 20) {
                    $share = $right / $said;
                    $off = max(0.0, $tenth / 10 - $share, $share - ($tenth + 1) / 10);
                    ($this->say)(\sprintf(
                        '  right of %.1f to %.1f, by %s',
                        $tenth / 10,
                        ($tenth + 1) / 10,
                        $which,
                    ), \sprintf('%.2f', $share), "$right of $said", $off, 0.1);
                }
            }
        }
    }

    /**
     * @param array{names: array<string, float>, data: array<string, float>} $weights
     * @param array<string, array<int, array{int, int}>>                     $cells
     */
    private function measure(string $name, Known $known, Rows $rows, array $weights, float $names, float $data, array &$cells): void
    {
        $chooser = new Chooser($weights['names']);
        $said = Fit::measure($known, $chooser);
        self::add($cells['names'], $said['cells']);
        ($this->say)("joins of $name, by names, F1", \sprintf('%.3f', $said['f1']), \sprintf(
            '%d of %d',
            $said['right'],
            $said['true'],
        ), $said['f1'], $names, true);
        $both = new Chooser($weights['data'], $chooser);
        $known->look($rows, $both);
        $said = Fit::measure($known, $both);
        self::add($cells['data'], $said['cells']);
        ($this->say)('  with data', \sprintf('%.3f', $said['f1']), \sprintf('%d of %d', $said['right'], $said['true']), $said['f1'], $data, true);
        if ('' !== (string) getenv('JOINS_TOLD')) {
            foreach ([
                ...array_map(static fn (string $one): string => "wrong $one", $said['wrong']),
                ...array_map(static fn (string $one): string => "missed $one", $said['missed']),
            ] as $line) {
                echo "      $line\n";
            }
        }
    }

    /**
     * @param array<int, array{int, int}> $sums
     * @param array<int, array{int, int}> $cells
     */
    private static function add(array &$sums, array $cells): void
    {
        foreach ($cells as $tenth => [$said, $right]) {
            $sums[$tenth] = [($sums[$tenth][0] ?? 0) + $said, ($sums[$tenth][1] ?? 0) + $right];
        }
    }

    /** @return array{Known, Rows} */
    public function demo(): array
    {
        [$fieldwork, $archive] = self::DEMO;
        (new Fieldwork($this->mariaDb, $fieldwork, $archive))->make();
        $rows = Session::rows(Session::target(''));
        $tables = [];
        foreach (self::DEMO as $schema) {
            array_push(
                $tables,
                ...(Dialects::of('mariadb')->reader(
                    Session::rows(Session::target($schema)),
                    $schema,
                ) ?? throw new \LogicException())->read(new Choice(), new SilentProgress())->tables,
            );
        }
        $catalog = new Catalog('mariadb', '', $tables);
        $truth = Fit::truth($catalog);
        foreach ([
            'calibration done_by person id', 'visit team_id team id', 'reading flag quality_flag code', 'sighting speciesCode species code',
            'access_permit landowner_no landowner LandownerNo', 'sample stn_ref station code', 'incident stn_ref station id',
            'reading deployment_ref deployment id',
            'alert_rule site station id', 'lab_result lab_code,method_code method lab_code,method_code',
        ] as $join) {
            [$from, $near, $to, $far] = explode(' ', $join);
            $truth[Fit::join("$fieldwork\0$from", explode(',', $near), "$fieldwork\0$to", explode(',', $far))] = true;
        }
        foreach (['reading_2023', 'reading_2024'] as $from) {
            foreach (['station station id', 'parameter parameter code', 'flag quality_flag code'] as $join) {
                [$near, $to, $far] = explode(' ', $join);
                $truth[Fit::join("$archive\0$from", [$near], "$fieldwork\0$to", [$far])] = true;
            }
        }
        $known = new Known('demo', $catalog, $truth);
        // What leads to one of two tables is no single join; its cases are proposed apart from these.
        $known->units = array_filter($known->units, static fn (string $unit): bool => !str_contains($unit, 'subject_id'), \ARRAY_FILTER_USE_KEY);

        return [$known, $rows];
    }

    private function speed(): void
    {
        $large = self::large();
        $time = self::seconds(static fn (): array => (new Proposals())->of($large));
        ($this->say)('proposals for 2,000 tables by names, s', \sprintf('%.2f s', $time), \count($large->tables).' tables', $time, 5);
        $peak = ($this->inOwnProcess)('joins');
        ($this->say)('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 512);
        $this->data();
        $this->routes();
    }

    public static function large(): Catalog
    {
        $catalog = Made::large(2000);

        return $catalog->with(tables: array_map(static fn (Table $table): Table => $table->with(foreignKeys: []), $catalog->tables));
    }

    /** Ten tables that refer by five fields each, any of which may lead to any of ten others: 500 candidates, 100,000 rows a table. */
    private function data(): void
    {
        $tables = $this->filled();
        $catalog = new Catalog('mariadb', '', $tables);
        $rows = Session::rows(Session::target(self::DATA));
        $dialect = Dialects::of('mariadb');
        $candidates = new Candidates($catalog);
        $units = $asked = [];
        foreach (range(10, 19) as $from) {
            foreach (range(1, 5) as $field) {
                foreach (range(0, 9) as $to) {
                    $candidate = $candidates->unnamed($from, "f$field", $to, $candidates->keys[$to][0]) ?? throw new \LogicException('The types fit.');
                    $candidate->confidence = 0.1;
                    $units[Candidates::unit($from, ["f$field"])][] = $candidate;
                    $asked[] = [$from, "f$field", $to];
                }
            }
        }
        $ours = self::seconds(static function () use ($units, $candidates, $rows, $dialect): void {
            (new DataLook(new KeyValues($rows, $dialect), $candidates))->look($units, Chooser::fitted(true), new SilentProgress());
        });
        mt_srand(7);
        shuffle($asked);
        $floor = self::seconds(static function () use ($asked, $rows): void {
            foreach (\array_slice($asked, 0, 50) as [$from, $field, $to]) {
                foreach ($rows->rows("SELECT COUNT(*) AS n, COUNT(k.id) AS m FROM t$from c LEFT JOIN t$to k ON k.id = c.$field") as $row) {
                    continue;
                }
            }
        }) * \count($asked) / 50;
        ($this->say)('500 candidates against the data, to counts', \sprintf('%.1f s', $ours), \sprintf('%.1f s', $floor), $ours / $floor, 0.3);
        $joins = array_map(
            static fn (int $from, int $field): array => [$from, "f$field", ($from + $field) % 10],
            array_merge(...array_fill(0, 5, range(10, 19))),
            array_merge(...array_map(static fn (int $f): array => array_fill(0, 10, $f), range(1, 5))),
        );
        $ours = $plain = [];
        for ($i = 0; $i < 3; ++$i) {
            $ours[] = self::seconds(static function () use ($joins, $rows, $dialect, $tables): void {
                $observing = new Observing($rows, $dialect);
                foreach ($joins as [$from, $field, $to]) {
                    $observing->of($tables[$from], $tables[$to], [[$field, 'id']]);
                }
            });
            $plain[] = self::seconds(static function () use ($joins, $rows): void {
                foreach ($joins as [$from, $field, $to]) {
                    foreach ($rows->rows(
                        "SELECT COUNT(*) AS v, SUM(c.n) AS n, COUNT(k.id) AS m FROM (SELECT $field AS v, COUNT(*) AS n FROM t$from GROUP BY $field) c
                            LEFT JOIN t$to k ON k.id = c.v",
                    ) as $row) {
                        continue;
                    }
                }
            });
        }
        ($this->say)('observed figures of 50 joins, to counts', \sprintf('%.1f s', min($ours)), \sprintf('%.1f s', min($plain)), min($ours) / min($plain), 1.5);
    }

    /** @return list<Table> */
    private function filled(): array
    {
        $tables = [];
        $has = $this->mariaDb->query("SELECT COUNT(*) FROM information_schema.TABLES WHERE TABLE_SCHEMA = '".self::DATA."'");
        $made = false !== $has && 20 === (int) $has->fetchColumn();
        if (!$made) {
            $this->mariaDb->exec('DROP DATABASE IF EXISTS '.self::DATA);
            $this->mariaDb->exec('CREATE DATABASE '.self::DATA);
        }
        for ($i = 0; $i < 20; ++$i) {
            $columns = [new Column('id', 'int(10) unsigned', false)];
            for ($f = 1; $f <= 5; ++$f) {
                $columns[] = new Column("f$f", 'int(10) unsigned');
            }
            $tables[] = new Table(self::DATA, "t$i", TableType::Table, '', $columns, new Key('PRIMARY', ['id']), rowEstimate: 100000);
            if (!$made) {
                $this->mariaDb->exec(
                    'CREATE TABLE '.self::DATA.".t$i (id int unsigned NOT NULL PRIMARY KEY, f1 int unsigned, f2 int unsigned, f3 int unsigned,
                        f4 int unsigned, f5 int unsigned)",
                );
                $drawn = implode(
                    ', ',
                    array_map(static fn (int $f): string => (1 + 100000 * (($i + $f) % 10)).' + FLOOR(RAND('.($i * 10 + $f).') * 100000)', range(1, 5)),
                );
                $this->mariaDb->exec('INSERT INTO '.self::DATA.".t$i SELECT seq + ".(100000 * ($i % 10)).", $drawn FROM seq_1_to_100000");
            }
        }
        $this->mariaDb->exec('ANALYZE TABLE '.implode(', ', array_map(static fn (int $i): string => self::DATA.".t$i", range(0, 19))));

        return $tables;
    }

    private function routes(): void
    {
        mt_srand(5);
        $links = [];
        $cardinality = static fn (): Cardinality => new Cardinality(
            0 === mt_rand(0, 1) ? End::NoneOrMore : End::One,
            0 === mt_rand(0, 1) ? End::One : End::NoneOrOne,
        );
        for ($i = 0; $i < 2500; ++$i) {
            $links[] = new Link($i, mt_rand(0, 1999), mt_rand(0, 1999), [['a', 'b']], $cardinality());
        }
        for ($i = 0; $i < 1500; ++$i) {
            $links[] = new Link(2500 + $i, mt_rand(5, 1999), $i % 5, [['a', 'b']], $cardinality());
        }
        $routes = new Routes($links);
        $times = [];
        $found = 0;
        for ($i = 0; $i < 400; ++$i) {
            $start = hrtime(true);
            $found += \count($routes->between(mt_rand(0, 1999), mt_rand(0, 1999)));
            $times[] = (hrtime(true) - $start) / 1e6;
        }
        sort($times);
        ($this->say)('routes among 2,000 entries, 95 of 100, ms', \sprintf('%.1f ms', $times[379]), \sprintf('%.1f found', $found / 400), $times[379], 50);
    }

    private static function seconds(callable $work): float
    {
        $start = hrtime(true);
        $work();

        return (hrtime(true) - $start) / 1e9;
    }
}
