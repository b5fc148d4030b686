<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Companion\Companion;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Span;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;

/** Measures how long a trial takes to plan, and what its plan takes on a big fact beside the best query written by hand. */
final readonly class ModelBench
{
    private const ROWS = 5000000;
    private const DATABASE = 'fasti_bench_model';
    private const TABLES = [
        'reach' => ['reach_id' => 'integer', 'reach_name' => 'varchar(40)'],
        'station' => ['station_id' => 'integer', 'station_name' => 'varchar(40)', 'reach_id' => 'integer'],
        'day' => ['day_id' => 'integer', 'day_date' => 'date', 'year' => 'integer', 'month' => 'integer'],
        'species' => ['species_id' => 'integer', 'species_name' => 'varchar(40)', 'kind' => 'varchar(20)'],
        'method' => ['method_id' => 'integer', 'method_name' => 'varchar(40)'],
        'fact' => [
            'id' => 'integer', 'station_id' => 'integer', 'day_id' => 'integer', 'species_id' => 'integer', 'method_id' => 'integer',
            'individuals' => 'integer',
            'weight' => 'numeric(10,2)',
        ],
    ];
    private const JOINS = 'JOIN station st ON st.station_id = f.station_id JOIN day d ON d.day_id = f.day_id JOIN species s ON s.species_id = f.species_id';
    /** What somebody would write who knows the tables: plainly, with outer joins, and by keys first. */
    private const BY_HAND = [
        'SELECT r.reach_name, d.year, s.kind, m.method_name, COUNT(*), SUM(f.individuals), AVG(f.weight) FROM fact f '.self::JOINS
            .' JOIN reach r ON r.reach_id = st.reach_id JOIN method m ON m.method_id = f.method_id GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4',
        'SELECT r.reach_name, d.year, s.kind, m.method_name, COUNT(*), SUM(f.individuals), AVG(f.weight) FROM fact f LEFT JOIN station st USING (station_id)
            LEFT JOIN day d USING (day_id) LEFT JOIN species s USING (species_id) LEFT JOIN reach r USING (reach_id) LEFT JOIN method m USING (method_id)
            GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4',
        'SELECT r.reach_name, x.year, x.kind, m.method_name, SUM(n), SUM(i), SUM(w) / SUM(c) FROM (SELECT st.reach_id, d.year, s.kind, f.method_id, COUNT(*) n,
            SUM(f.individuals) i, SUM(f.weight) w, COUNT(f.weight) c FROM fact f '.self::JOINS.' GROUP BY 1, 2, 3, 4) x JOIN reach r ON r.reach_id = x.reach_id
            JOIN method m ON m.method_id = x.method_id GROUP BY 1, 2, 3, 4 ORDER BY 1, 2, 3, 4',
    ];

    /** The share within the reach, and the year before: by a window over the groups, or by joining them to themselves. */
    private const BESIDE_BY_HAND = [
        'WITH x AS (SELECT r.reach_name, d.year, s.kind, m.method_name, SUM(f.individuals) i FROM fact f '.self::JOINS
            .' JOIN reach r ON r.reach_id = st.reach_id JOIN method m ON m.method_id = f.method_id GROUP BY 1, 2, 3, 4)
            SELECT reach_name, year, kind, method_name, i, CAST(i AS numeric) / SUM(i) OVER (PARTITION BY reach_name),
            LAG(i) OVER (PARTITION BY reach_name, kind, method_name ORDER BY year) FROM x ORDER BY 1, 2, 3, 4',
        'WITH x AS (SELECT st.reach_id, d.year, s.kind, f.method_id, SUM(f.individuals) i FROM fact f '.self::JOINS.' GROUP BY 1, 2, 3, 4)
            SELECT r.reach_name, x.year, x.kind, m.method_name, x.i, CAST(x.i AS numeric) / SUM(x.i) OVER (PARTITION BY r.reach_name), y.i FROM x
            JOIN reach r ON r.reach_id = x.reach_id JOIN method m ON m.method_id = x.method_id
            LEFT JOIN x y ON y.reach_id = x.reach_id AND y.kind = x.kind AND y.method_id = x.method_id AND y.year = x.year - 1 ORDER BY 1, 2, 3, 4',
    ];

    /** @param \Closure(string, string, string, float, float): void $say */
    public function __construct(private \Closure $say)
    {
    }

    public function models(): void
    {
        $this->planning();
        $this->answering();
    }

    private function planning(): void
    {
        [$model, $catalog] = self::wide();
        $trial = new Trial(
            ['m0', 'm1', 'r'],
            ['a3 of d7', 'a1 of d19'],
            [new Condition('a2 of d11', Test::Is, ['3', '4']), new Condition('a0 of d30', Test::Given)],
        );
        $worst = self::planned($model, $catalog, $trial);
        ($this->say)('planning a trial, 50 entries, 500 fields, ms', \sprintf('%.2f ms', $worst), '', $worst, 5);
        $known = Companion::known();
        $beside = self::planned($model, $catalog, $trial->with(
            figures: [new Figure('m0', $known['share']), new Figure('m0', $known['before'], [], 'a9 of d7', 1, Span::Year)],
            by: [...$trial->by, 'a9 of d7'],
            subtotals: true,
        ));
        ($this->say)('  with a share, last year and subtotals', \sprintf('%.2f ms', $beside), \sprintf('%.2f ms', $worst), $beside / $worst, 2);
    }

    /** @return float milliseconds that 95 of 100 take at the most */
    private static function planned(Model $model, Catalog $catalog, Trial $trial): float
    {
        $times = [];
        for ($i = 0; $i < 80; ++$i) {
            $begun = hrtime(true);
            (new Planner(new Ground($model, $catalog), new \DateTimeImmutable('2026-01-01')))->plan($trial);
            // What is compiled while it runs first is no part of planning.
            if ($i >= 40) {
                $times[] = (hrtime(true) - $begun) / 1e6;
            }
        }
        sort($times);

        return $times[(int) (0.95 * \count($times))];
    }

    /** @return array{Model, Catalog} two facts and 48 dimensions, of which most lead on to others, with ten fields each */
    private static function wide(): array
    {
        $tables = $roles = $joins = [];
        for ($i = 0; $i < 50; ++$i) {
            $name = $i < 48 ? "d$i" : 'f'.($i - 48);
            $attributes = [];
            $columns = [new Column('id', 'integer', false)];
            for ($k = 0; $k < 10; ++$k) {
                $columns[] = new Column("c$k", 9 === $k ? 'date' : 'integer');
                $attributes[] = new Attribute("a$k", 0 === $k % 3 ? "c$k" : "CASE WHEN c$k > 3 THEN c$k * 2 ELSE COALESCE(c$k, 0) END");
            }
            $tables[] = new Table('', $name, TableType::Table, '', $columns, new Key(null, ['id']), rowEstimate: 1000000);
            $roles[] = new Role(
                $name,
                $i < 48 ? RoleKind::Dimension : RoleKind::Fact,
                new Place('', $name),
                '',
                '',
                '',
                ['id'],
                'a0',
                $i < 48 ? $attributes : [],
            );
            // A tree below each fact: every dimension is led to by one.
            if (0 < $i && $i < 48) {
                $joins[] = new ModelJoin('d'.intdiv($i - 1, 3), $name, ['c'.$i % 10], ['id']);
            }
        }
        $joins[] = new ModelJoin('f0', 'd0', ['c0'], ['id']);
        $joins[] = new ModelJoin('f1', 'd0', ['c1'], ['id']);
        $measures = [new Measure('r', new Ratio(), of: 'm0', by: 'm1')];
        for ($i = 0; $i < 20; ++$i) {
            $measures[] = new Measure("m$i", new Sum(), 'f'.$i % 2, 'c2 * 2 + c'.$i % 10, 'c5 > 1');
        }

        return [new Model('wide', '', $roles, $joins, $measures), new Catalog('postgresql', '', $tables)];
    }

    private function answering(): void
    {
        $database = self::made();
        $role = static fn (string $name, string $key, string $label, string ...$attributes): Role => new Role(
            $name, 'fact' === $name ? RoleKind::Fact : RoleKind::Dimension, new Place('', $name), '', '', '', [$key], $label,
            array_values(array_map(static fn (string $one): Attribute => new Attribute($one, $one), $attributes)),
        );
        $model = new Model('big', '', [
            $role('fact', 'id', ''), $role('station', 'station_id', 'station_name', 'station_name'), $role('reach', 'reach_id', 'reach_name', 'reach_name'),
            $role('day', 'day_id', 'day_date', 'day_date', 'year', 'month'), $role('species', 'species_id', 'species_name', 'species_name', 'kind'),
            $role('method', 'method_id', 'method_name', 'method_name'),
        ], [
            new ModelJoin('fact', 'station', ['station_id'], ['station_id']), new ModelJoin('station', 'reach', ['reach_id'], ['reach_id']),
            new ModelJoin('fact', 'day', ['day_id'], ['day_id']), new ModelJoin('fact', 'species', ['species_id'], ['species_id']),
            new ModelJoin('fact', 'method', ['method_id'], ['method_id']),
        ], [
            new Measure('rows', new Count(), 'fact'), new Measure('individuals', new Sum(), 'fact', 'individuals'),
            new Measure('mean weight', new Average(), 'fact', 'weight'),
        ]);
        $planner = new Planner(new Ground($model, self::catalog()), new \DateTimeImmutable());
        $by = ['reach_name', 'year', 'kind', 'method_name'];
        $plan = $planner->plan(new Trial(['rows', 'individuals', 'mean weight'], $by));
        $this->held($database, 'a trial over 5,000,000 rows, to the best by hand', ['ours' => $plan->sql()] + self::BY_HAND, 1.2);
        $known = Companion::known();
        $plan = $planner->plan(new Trial(['individuals'], $by, figures: [
            new Figure('individuals', $known['share'], ['reach_name']), new Figure('individuals', $known['before'], [], 'day_date', 1, Span::Year),
        ]));
        $this->held($database, '  with a share and last year, to the best by hand', ['ours' => $plan->sql()] + self::BESIDE_BY_HAND, 1.3);
    }

    /** @param array<int|string, string> $queries ours, and those by hand */
    private function held(\PDO $database, string $what, array $queries, float $limit): void
    {
        $taken = array_fill_keys(array_keys($queries), []);
        $answers = [];
        for ($i = 0; $i < 4; ++$i) {
            foreach ($queries as $key => $sql) {
                $begun = hrtime(true);
                $statement = $database->query($sql);
                $rows = false === $statement ? [] : $statement->fetchAll(\PDO::FETCH_NUM);
                $taken[$key][] = (hrtime(true) - $begun) / 1e9;
                $answers[$key] = hash('xxh128', (string) json_encode(array_map(static fn (mixed $row): array => array_map(
                    static fn (mixed $value): string => match (true) {
                        is_numeric($value) => \sprintf('%.10e', $value),
                        \is_scalar($value) => (string) $value,
                        default => '',
                    },
                    (array) $row,
                ), $rows)));
            }
        }
        if (1 !== \count(array_unique($answers))) {
            throw new \LogicException('The answers differ.');
        }
        $best = array_map(static fn (array $times): float => [] === $times ? \INF : min($times), $taken);
        $ours = $best['ours'];
        unset($best['ours']);
        $hand = min([\INF, ...array_values($best)]);
        ($this->say)($what, \sprintf('%.2f s', $ours), \sprintf('%.2f s', $hand), $ours / $hand, $limit);
    }

    private static function catalog(): Catalog
    {
        $tables = [];
        foreach (self::TABLES as $name => $columns) {
            $tables[] = new Table('', $name, TableType::Table, '', array_map(
                static fn (string $column, string $type): Column => new Column($column, $type, 'fact' === $name),
                array_keys($columns),
                array_values($columns),
            ), new Key(null, [array_key_first($columns)]), 'day' === $name ? [new Key('days', ['day_date'])] : [], rowEstimate: 'fact' === $name ? self::ROWS : 1000);
        }

        return new Catalog('postgresql', '', $tables);
    }

    private static function made(): \PDO
    {
        $port = (int) trim((string) file_get_contents(__DIR__.'/../var/run/postgres.port'));
        $connect = static fn (string $name): \PDO => new \PDO(
            "pgsql:host=127.0.0.1;port=$port;dbname=$name",
            'fasti',
            '',
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
        $server = $connect('postgres');
        $there = $server->query("SELECT 1 FROM pg_database WHERE datname = '".self::DATABASE."'");
        if (false === $there || false === $there->fetchColumn()) {
            $server->exec('CREATE DATABASE '.self::DATABASE);
        }
        $database = $connect(self::DATABASE);
        $made = $database->query("SELECT to_regclass('fact')");
        $count = false !== $made && null !== $made->fetchColumn() ? $database->query('SELECT COUNT(*) FROM fact') : false;
        if (false === $count || self::ROWS !== (int) $count->fetchColumn()) {
            fwrite(\STDERR, "Making a fact of 5,000,000 rows …\n");
            foreach (array_reverse(self::TABLES) as $name => $columns) {
                $database->exec("DROP TABLE IF EXISTS $name");
                $all = array_map(static fn (string $column, string $type): string => "$column $type", array_keys($columns), array_values($columns));
                $all[0] .= ' PRIMARY KEY';
                $database->exec("CREATE TABLE $name (".implode(', ', $all).')');
            }
            $database->exec("SELECT setseed(0.5);
                INSERT INTO reach SELECT i, 'reach ' || i FROM generate_series(1, 40) i;
                INSERT INTO station SELECT i, 'station ' || i, 1 + i % 40 FROM generate_series(1, 500) i;
                INSERT INTO day SELECT i, DATE '2021-01-01' + i, extract(year FROM DATE '2021-01-01' + i),
                extract(month FROM DATE '2021-01-01' + i) FROM generate_series(1, 2600) i;
                INSERT INTO species SELECT i, 'species ' || i, 'kind ' || i % 6 FROM generate_series(1, 200) i;
                INSERT INTO method SELECT i, 'method ' || i FROM generate_series(1, 8) i;
                INSERT INTO fact SELECT i, 1 + floor(random() * 500), 1 + floor(random() * 1500), 1 + floor(random() * 200), 1 + floor(random() * 8),
                    1 + floor(random() * 30), round((random() * 1000)::numeric, 2) FROM generate_series(1, ".self::ROWS.') i');
            $database->exec('ALTER TABLE day ADD CONSTRAINT days UNIQUE (day_date), ALTER COLUMN day_date SET NOT NULL, ALTER COLUMN year SET NOT NULL');
            $database->exec('VACUUM ANALYZE');
        }

        return $database;
    }
}
