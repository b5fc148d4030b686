<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Join\End;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Average;
use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Model\Aggregate\Count;
use Fasti\Core\Model\Aggregate\Distinct;
use Fasti\Core\Model\Aggregate\Greatest;
use Fasti\Core\Model\Aggregate\Least;
use Fasti\Core\Model\Aggregate\Median;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Aggregate\StandardDeviation;
use Fasti\Core\Model\Aggregate\Sum;
use Fasti\Core\Model\Aggregate\Variance;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Shared;
use Fasti\Core\Model\Sharing;

/**
 * A small database and a model over it, made up: loops, roles, several facts, snowflakes, keys of two fields, one-to-one tables, joins of
 * some rows only, missing parents, empty references, keys that nothing keeps unique.
 *
 * Amounts are kept as whole hundredths, so that the slow computation is exact.
 *
 * @phpstan-type Row array<string, int|string|null>
 */
final class RandomModel
{
    use RandomTrials;

    /** Expressions of attributes, and what they give in PHP; hundredths are hundredths. */
    public const ATTRIBUTES = [
        'code' => ['code', 'text'], 'size' => ['num', 'number'], 'big' => ["CASE WHEN num >= 4 THEN 'big' WHEN num < 4 THEN 'small' END", 'text'],
        'double' => ['num * 2 + 1', 'number'], 'day' => ['day', 'date'], 'month' => ['EXTRACT(MONTH FROM day)', 'number'],
        'week' => ['EXTRACT(WEEK FROM day)', 'number'], 'week year' => ['EXTRACT(ISOYEAR FROM day)', 'number'],
        'quarter' => ['FISCAL_QUARTER(day, 3) + 10 * FISCAL_YEAR(day, 3) + FISCAL_MONTH(day, 3)', 'number'],
        'lag' => ["DAYS_BETWEEN(DATE '2025-02-20', day) - EXTRACT(ISODOW FROM day)", 'number'],
        'letter' => ['SUBSTRING(code FROM 1 FOR 1)', 'text'], 'rest' => ['MOD(COALESCE(num, 7), 3)', 'number'],
    ];

    /** How a measure reads %s, a field of another role; and whether it may, where one row of that role has several of the fact. */
    public const READS = [
        'parent' => ['%s', false], 'parent twice' => ['2 * %s - 1', false], 'where' => ["CASE WHEN kind = 'a' THEN %s END", false],
        'factor' => ['qty * %s', true], 'added' => ['qty + %s', false], 'either' => ['COALESCE(qty, %s)', false],
        'chosen' => ['CASE WHEN %s > 3 THEN qty END', true],
        'rate' => ['qty * (1 + %s + num)', true], 'taken off' => ['qty * 3 - %s * num', true],
    ];

    /** @var array<string, list<Row>> table → rows */
    public array $rows = [];
    /** @var array<string, Table> */
    public array $tables = [];
    public Model $model;
    /** @var array<string, array{string, string}> measure → how it reads another role (see READS), and which */
    public array $across = [];
    /** @var list<Role> */
    private array $roles = [];
    /** @var list<ModelJoin> */
    private array $joins = [];
    private int $seed;

    public function __construct(int $seed)
    {
        $this->seed = $seed * 7919 + 13;
        $this->make();
    }

    public function chance(int $of100): bool
    {
        return $this->number(1, 100) <= $of100;
    }

    public function number(int $from, int $to): int
    {
        // Park and Miller, “Random number generators: good ones are hard to find”, 1988.
        $this->seed = $this->seed * 48271 % 2147483647;

        return $from + $this->seed % ($to - $from + 1);
    }

    /**
     * @template T
     *
     * @param non-empty-list<T> $of
     *
     * @return T
     */
    public function one(array $of): mixed
    {
        return $of[$this->number(0, \count($of) - 1)];
    }

    private function make(): void
    {
        $dimensions = $this->number(2, 5);
        for ($i = 0; $i < $dimensions; ++$i) {
            $this->dimension("d$i", $i, $dimensions);
        }
        if ($this->chance(30)) {
            $this->extension('d0');
        }
        if ($this->chance(50)) {
            $this->calendar();
        }
        for ($i = 0, $n = $this->number(1, 3); $i < $n; ++$i) {
            $this->fact("f$i", $dimensions, $i);
        }
        $sharings = $this->link();
        $this->model = new Model('made up', '', $this->roles, $this->joins, $this->measures(), [], $this->choices(), $sharings);
    }

    /** @return Row */
    private function values(): array
    {
        return [
            'code' => $this->chance(90) ? $this->one(['ash', 'bay', 'cob', 'dun', 'elm', 'fen', 'ale', 'box']) : null,
            'num' => $this->chance(90) ? $this->number(-2, 9) : null,
            'day' => $this->chance(90) ? (new \DateTimeImmutable('2025-01-01'))->modify('+'.$this->number(0, 119).' days')->format('Y-m-d') : null,
        ];
    }

    private const COLUMNS = ['code' => 'varchar(12)', 'num' => 'integer', 'day' => 'date'];

    private function dimension(string $name, int $i, int $all): void
    {
        $two = $this->chance(20);
        $kept = $this->chance(70);
        $columns = ['id' => 'integer'] + ($two ? ['part' => 'integer'] : []) + self::COLUMNS;
        $leads = [];
        for ($j = $i + 1; $j < $all; ++$j) {
            if ($this->chance(35)) {
                $leads[] = "d$j";
                $columns["to_d$j"] = 'integer';
                $columns["part_d$j"] = 'integer';
            }
        }
        $rows = [];
        for ($id = 1, $n = $this->number(0, 9); $id <= $n; ++$id) {
            $row = ['id' => $id] + ($two ? ['part' => $this->number(1, 2)] : []) + $this->values();
            foreach ($leads as $to) {
                $row["to_$to"] = $this->reference();
                $row["part_$to"] = $this->number(1, 2);
            }
            $rows[] = $row;
            if (!$kept && $this->chance(12)) {
                $rows[] = $this->chance(60) ? $row : ['code' => 'yew'] + $row;
            }
        }
        $this->put($name, $columns, $rows, match (true) {
            !$kept => [],
            $two => ['id', 'part'],
            default => ['id'],
        });
        $this->role($name, RoleKind::Dimension, $name, '', $two ? ['id', 'part'] : ['id']);
        foreach ($leads as $to) {
            $this->later[] = [$name, $to, $to];
        }
    }

    /** @var list<array{string, string, string}> joins to be made once all tables are there: role, role, table */
    private array $later = [];

    private function reference(): ?int
    {
        return $this->chance(85) ? $this->number(1, 10) : null;
    }

    /** A row for nearly each day, which says its month and its year in fields of their own. */
    private function calendar(): void
    {
        $rows = [];
        for ($id = 1; $id <= 160; ++$id) {
            $day = (new \DateTimeImmutable('2025-01-01'))->modify("+$id days");
            if (!$this->chance(5)) {
                $rows[] = [
                    'id' => $id, 'code' => $this->one(['wet', 'dry']), 'num' => null, 'day' => $day->format('Y-m-d'), 'month_no' => (int) $day->format('n'),
                    'year_no' => 2025,
                ];
            }
        }
        $this->put('cal', ['id' => 'integer'] + self::COLUMNS + ['month_no' => 'integer', 'year_no' => 'integer'], $rows, ['id']);
        $this->roles[] = new Role('cal', RoleKind::Dimension, new Place('', 'cal'), '', '', '', ['id'], '', [
            new Attribute('code', 'code'), new Attribute('day', 'day'), new Attribute('in month', 'month_no'), new Attribute('in year', 'year_no'),
        ]);
        if ($this->chance(50)) {
            $this->tables['cal'] = $this->tables['cal']->with(uniqueKeys: [new Key('days', ['day'])]);
        }
    }

    /** @return list<Sharing> what a link says: which rows of one table belong to which of a further one */
    private function link(): array
    {
        $of = $this->chance(50) || [] !== array_diff($this->tables['d0']->primaryKey->columns ?? ['none'], ['id']) ? 'f0' : 'd0';
        $this->put('t0', ['id' => 'integer'] + self::COLUMNS, array_map(fn (int $id): array => ['id' => $id] + $this->values(), range(1, 5)), ['id']);
        $this->role('t0', RoleKind::Dimension, 't0', '', ['id']);
        $rows = [];
        $clean = $this->chance(85);
        for ($id = 1; $id <= 30; ++$id) {
            $row = ['a' => $this->number(1, 12), 'b' => $this->chance(92) ? $this->number(1, 6) : null, 'w' => $this->chance(90) ? $this->number(-1, 5) : null];
            if (!$clean || [] === array_filter($rows, static fn (array $one): bool => $one['a'] === $row['a'] && $one['b'] === $row['b'])) {
                $rows[] = $row;
            }
        }
        $this->put('l0', ['a' => 'integer', 'b' => 'integer', 'w' => 'integer'], $rows, []);
        $this->roles[] = new Role('l0', RoleKind::Link, new Place('', 'l0'), '', '', '', []);
        $this->joins[] = new ModelJoin('l0', $of, ['a'], ['id']);
        $this->joins[] = new ModelJoin('l0', 't0', ['b'], ['id']);

        return [new Sharing('l0', $of, $how = $this->one(Shared::cases()), Shared::ByWeight === $how ? 'w * 2' : '')];
    }

    /** A table with at most one row for each of another. */
    private function extension(string $of): void
    {
        $rows = [];
        foreach ($this->rows[$of] as $row) {
            $rows[$row['id']] = ['of' => $row['id']] + $this->values();
        }
        $this->put('x0', ['of' => 'integer'] + self::COLUMNS, array_values($rows), $this->chance(70) ? ['of'] : []);
        $this->role('x0', RoleKind::Dimension, 'x0', '', ['of']);
        if (!isset($this->tables[$of]->columns[0]) || null !== $this->tables[$of]->column('part')) {
            return;
        }
        $this->joins[] = new ModelJoin('x0', $of, ['of'], ['id'], End::NoneOrOne, End::NoneOrOne);
    }

    private function fact(string $name, int $dimensions, int $i): void
    {
        $columns = ['id' => 'integer', 'qty' => 'integer', 'amt' => 'decimal(10,2)', 'kind' => 'varchar(3)'] + self::COLUMNS;
        $refs = ['r0' => 'd'.$this->number(0, $dimensions - 1)];
        for ($n = $this->number(0, 3); $n > 0; --$n) {
            $refs['r'.\count($refs)] = 'd'.$this->number(0, $dimensions - 1);
        }
        foreach (array_keys($refs) as $ref) {
            $columns[$ref] = $columns["{$ref}_part"] = 'integer';
        }
        $after = $i > 0 && $this->chance(30) ? 'f'.($i - 1) : null;
        if (null !== $after) {
            $columns['up'] = 'integer';
        }
        if (isset($this->tables['cal'])) {
            $columns['cal'] = 'integer';
        }
        $rows = [];
        for ($id = 1, $n = $this->chance(6) ? 0 : $this->number(1, 40); $id <= $n; ++$id) {
            $row = [
                'id' => $id, 'qty' => $this->chance(92) ? $this->number(-5, 50) : null, 'amt' => $this->chance(92) ? $this->number(-9999, 99999) : null,
                'kind' => $this->one(['a', 'b']),
            ] + $this->values();
            foreach (array_keys($refs) as $ref) {
                $row[$ref] = $this->reference();
                $row["{$ref}_part"] = $this->number(1, 2);
            }
            if (null !== $after) {
                $row['up'] = $this->reference();
            }
            if (isset($this->tables['cal'])) {
                $row['cal'] = $this->chance(90) ? $this->number(1, 120) : null;
            }
            $rows[] = $row;
        }
        $this->put($name, $columns, $rows, ['id']);
        $this->role($name, RoleKind::Fact, $name, '', ['id']);
        $this->leads($name, $refs);
        if (null !== $after) {
            $this->joins[] = new ModelJoin($name, $after, ['up'], ['id']);
        }
        if (isset($this->tables['cal'])) {
            $this->joins[] = new ModelJoin($name, 'cal', ['cal'], ['id']);
        }
        foreach ($this->later as [$from, $next, $table]) {
            if (!$this->joined($from, $next)) {
                $this->join($from, $next, $table, "to_$table", "part_$table");
            }
        }
    }

    /** @param array<string, string> $refs fields that refer to a dimension, and which */
    private function leads(string $name, array $refs): void
    {
        $used = [];
        foreach ($refs as $ref => $to) {
            $role = $to;
            if (isset($used[$to]) && $this->chance(75)) {
                $role = "$to $name";
                if (null === $this->roleOf($role)) {
                    $this->role($role, RoleKind::Dimension, $to, $to, $this->roleOf($to)->key ?? ['id']);
                }
            }
            $used[$to] = true;
            $this->join($name, $role, $to, $ref, "{$ref}_part", $this->chance(8));
            if ($role !== $to) {
                // A second role leads on to what the first does, by roads of its own.
                foreach ($this->later as [$from, $next, $table]) {
                    if ($from === $to && !$this->joined($role, $next)) {
                        $this->join($role, $next, $table, "to_$table", "part_$table");
                    }
                }
            }
        }
    }

    private function joined(string $from, string $to): bool
    {
        return [] !== array_filter($this->joins, static fn (ModelJoin $join): bool => $join->from === $from && $join->to === $to);
    }

    private function join(string $from, string $role, string $table, string $field, string $part, bool $some = false): void
    {
        $two = null !== $this->tables[$table]->column('part');
        $this->joins[] = new ModelJoin($from, $role, $two ? [$field, $part] : [$field], $two ? ['id', 'part'] : ['id'], where: $some ? ['kind', 'a'] : []);
    }

    private function roleOf(string $name): ?Role
    {
        foreach ($this->roles as $role) {
            if ($role->name === $name) {
                return $role;
            }
        }

        return null;
    }

    /** @param list<string> $key */
    private function role(string $name, RoleKind $kind, string $table, string $like, array $key): void
    {
        $attributes = [];
        foreach ('' === $like ? self::ATTRIBUTES : [] as $attribute => [$expression]) {
            $attributes[] = new Attribute($attribute, $expression, sorted: 'letter' === $attribute ? 'code' : '');
        }
        if ('' === $like && RoleKind::Fact === $kind) {
            $attributes[] = new Attribute('number', 'id');
        }
        $label = '' === $like ? $this->one(['code', 'size', 'big', '']) : '';
        $this->roles[] = new Role($name, $kind, new Place('', $table), $like, '', '', $key, $label, $attributes);
    }

    /**
     * @param array<string, string> $columns
     * @param list<Row>             $rows
     * @param list<string>          $key
     */
    private function put(string $name, array $columns, array $rows, array $key): void
    {
        $this->rows[$name] = $rows;
        $this->tables[$name] = new Table('', $name, TableType::Table, '', array_map(
            static fn (string $column, string $type): Column => new Column($column, $type, !\in_array($column, $key, true)),
            array_keys($columns),
            array_values($columns),
        ), [] === $key ? null : new Key(null, $key), rowEstimate: $this->chance(50) ? 1000000 : 10);
    }

    /** @return list<Measure> */
    private function measures(): array
    {
        $measures = [];
        foreach ($this->roles as $role) {
            if (RoleKind::Fact !== $role->kind) {
                continue;
            }
            $f = $role->name;
            $filter = $this->chance(30) ? "kind = 'a'" : '';
            $measures[] = new Measure("rows $f", new Count(), $f);
            $measures[] = new Measure("count $f", new Count(), $f, 'qty', $filter);
            $measures[] = new Measure("sum $f", new Sum(), $f, 'qty', $this->chance(30) ? 'qty > 10 AND num IS NOT NULL' : '');
            $measures[] = new Measure("amount $f", new Sum(), $f, 'amt * 2 - qty', $filter);
            $measures[] = new Measure("mean $f", new Average(), $f, 'amt', $filter);
            $measures[] = new Measure("different $f", new Distinct(), $f, 'code', $this->chance(30) ? "kind = 'b'" : '');
            $measures[] = new Measure("least $f", new Least(), $f, 'day');
            $measures[] = new Measure("most $f", new Greatest(), $f, 'amt');
            $measures[] = new Measure("middle $f", new Median(), $f, 'amt', $filter);
            $measures[] = new Measure("spread $f", $this->chance(50) ? new StandardDeviation() : new Variance(), $f, 'amt', $filter);
            $measures[] = new Measure("share $f", new Ratio(), of: "sum $f", by: "rows $f");
            $measures[] = new Measure(
                "stock $f", new Sum(), $f, 'qty', adds: Additivity::SemiAdditive, notOver: [$f], instant: new Level($f, 'day'),
                instead: $this->one(Instead::cases()),
            );
        }
        $facts = array_values(array_filter($this->roles, static fn (Role $role): bool => RoleKind::Fact === $role->kind));
        foreach ($facts as $fact) {
            array_push($measures, ...$this->across($fact->name));
        }
        foreach ($facts as $fact) {
            $measures[] = new Measure("reckoned $fact->name", new Computed(), expression: \sprintf($this->one(array_values(self::RECKONED)), $fact->name));
        }
        if (\count($facts) > 1) {
            $measures[] = new Measure('both', new Computed(), expression: "\"amount {$facts[0]->name}\" - 2 * \"share {$facts[1]->name}\"");
            $measures[] = new Measure('across', new Ratio(), of: 'amount '.$facts[0]->name, by: 'rows '.$facts[1]->name);
        }

        return $measures;
    }

    /** Expressions over measures of a fact %1$s. */
    private const RECKONED = [
        'less' => '"sum %1$s" - 3 * "rows %1$s"', 'either' => 'COALESCE("sum %1$s", 0) + COALESCE("amount %1$s", 1)',
        'chosen' => 'CASE WHEN "rows %1$s" > 3 THEN "sum %1$s" / "rows %1$s" ELSE -1 END', 'nested' => '"SUM %1$s" - ("share %1$s" - "rows %1$s")',
    ];

    /** @param array<string, float|null> $v figures by measure */
    public static function reckoned(Measure $measure, string $f, array $v): ?float
    {
        $sum = $v["sum $f"];
        $rows = $v["rows $f"] ?? 0.0;
        $amount = $v["amount $f"] ?? null;

        return match (array_search($measure->expression, array_map(static fn (string $one): string => \sprintf($one, $f), self::RECKONED), true)) {
            'less' => null === $sum ? null : $sum - 3 * $rows,
            'either' => ($sum ?? 0.0) + ($amount ?? 1.0),
            'chosen' => self::quotient($sum, $rows),
            default => null === $sum || 0.0 === $rows ? null : $sum - ($sum / $rows - $rows),
        };
    }

    private static function quotient(?float $sum, float $rows): ?float
    {
        if ($rows <= 3) {
            return -1.0;
        }

        return null === $sum ? null : $sum / $rows;
    }

    /** @return list<Measure> that read what a fact leads to, at any distance */
    private function across(string $fact): array
    {
        $near = array_values(array_filter($this->roles, fn (Role $role): bool => $role->name !== $fact
            && 1 === \count(SlowAnswer::routes($this->joins, [], $fact, $role->name))));
        $measures = [];
        for ($n = [] === $near ? 0 : $this->number(1, 3); $n > 0; --$n) {
            $role = $this->one($near ?: throw new \LogicException())->name;
            $how = $this->one(array_keys(self::READS));
            $aggregate = $this->one([new Sum(), new Sum(), new Average(), new Median(), new Greatest(), new Distinct()]);
            $name = $aggregate->name()." $how $role of $fact";
            $this->across[$name] = [$how, $role];
            $expression = \sprintf(self::READS[$how][0], "\"$role\".num");
            $measures[$name] = new Measure($name, $aggregate, $fact, $expression, $this->chance(20) ? "kind = 'a'" : '');
        }

        return array_values($measures);
    }

    /** @return list<Choice> */
    private function choices(): array
    {
        $choices = [];
        foreach ($this->roles as $from) {
            foreach ($this->roles as $to) {
                $routes = SlowAnswer::routes($this->joins, [], $from->name, $to->name);
                if (RoleKind::Fact === $from->kind && \count($routes) > 1 && $this->chance(40)) {
                    $route = $this->one($routes);
                    $choices[] = new Choice($from->name, $to->name, array_map(static fn (array $step): string => $step[0]->key(), $route));
                }
            }
        }

        return $choices;
    }

    public function catalog(string $engine): Catalog
    {
        $written = [
            'postgresql' => ['decimal' => 'numeric', 'varchar' => 'character varying'],
            'mariadb' => ['integer' => 'int(11)'],
            'sqlite' => [],
        ][$engine] ?? [];

        return new Catalog($engine, '', array_map(static fn (Table $table): Table => $table->with(columns: array_map(
            static fn (Column $column): Column => $column->with(type: strtr($column->type, $written)),
            $table->columns,
        )), array_values($this->tables)));
    }

    /** @return list<string> statements that make the tables and their rows */
    public function statements(string $engine): array
    {
        $all = [];
        foreach ($this->tables as $name => $table) {
            $columns = array_map(static fn (Column $column): string => "$column->name $column->type", $table->columns);
            if (null !== $table->primaryKey) {
                $columns[] = 'PRIMARY KEY ('.implode(', ', $table->primaryKey->columns).')';
            }
            $all[] = "CREATE TEMPORARY TABLE $name (".implode(', ', $columns).')'.('mariadb' === $engine ? ' ENGINE=MEMORY' : '');
            $rows = array_map(static fn (array $row): string => '('.implode(', ', array_map(
                static fn (string $column, int|string|null $value): string => match (true) {
                    null === $value => 'NULL',
                    'amt' === $column => \sprintf('%s%d.%02d', $value < 0 ? '-' : '', intdiv(abs((int) $value), 100), abs((int) $value) % 100),
                    default => \is_int($value) ? (string) $value : "'$value'",
                },
                array_keys($row),
                array_values($row),
            )).')', array_map(static fn (array $row): array => array_merge(array_fill_keys(array_map(
                static fn (Column $column): string => $column->name, $table->columns), null), $row), $this->rows[$name]));
            if ([] !== $rows) {
                $all[] = "INSERT INTO $name VALUES ".implode(', ', $rows);
            }
        }

        return $all;
    }
}
