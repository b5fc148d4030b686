<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * A made-up structure with rows, and what somebody has made of it since: the same for a seed. Tables lead to one another, have computed fields,
 * conditions, lists, keys, indexes, and views over tables and views, some of which go on saying the names of before.
 */
final class RandomStructure
{
    private const TYPES = [
        'small' => 'smallint', 'int' => 'integer', 'big' => 'bigint', 'dec62' => 'decimal(6,2)', 'dec103' => 'decimal(10,3)', 'v10' => 'varchar(10)',
        'v40' => 'varchar(40)', 'text' => 'text', 'date' => 'date', 'list' => 'varchar(10)', 'double' => 'double precision',
    ];
    private const LISTS = [['red', 'green', 'blue'], ['red', 'green'], ['red', 'green', 'blue', 'it\'s'], ['green', 'blue']];

    private readonly Randomizer $random;
    /** @var list<MadeTable> */
    private array $tables = [];
    /** @var array<string, string> name → query */
    private array $views = [];
    public readonly string $before;
    public readonly string $rows;
    public readonly string $after;
    /** @var array<string, string> table after → before */
    public array $taken = [];
    /** @var array<string, array<string, string>> table after → column after → before */
    public array $formerly = [];
    /** @var list<string> */
    public array $done = [];
    private int $made = 0;

    public function __construct(int $seed, private readonly string $engine)
    {
        $this->random = new Randomizer(new Mt19937($seed));
        $this->begun();
        $this->before = $this->script();
        $this->rows = $this->filled();
        for ($n = $this->int(1, 5); $n > 0; --$n) {
            $this->mutate($this->one($this->tables));
        }
        $this->after = $this->script();
        foreach (array_filter($this->tables, static fn (MadeTable $one): bool => '' !== $one->was) as $table) {
            if ($table->was !== $table->name) {
                $this->taken[$table->name] = $table->was;
            }
            foreach ($table->cols as $col) {
                if ('' !== $col->was && $col->was !== $col->name) {
                    $this->formerly[$table->name][$col->name] = $col->was;
                }
            }
        }
    }

    private function int(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    private function maybe(int $of = 2): bool
    {
        return 0 === $this->int(0, $of - 1);
    }

    /**
     * @template T
     *
     * @param array<T> $of
     *
     * @return T
     */
    private function one(array $of): mixed
    {
        return [] === $of ? throw new \LogicException('Nothing to choose from.') : array_values($of)[$this->int(0, \count($of) - 1)];
    }

    private function named(string $name): ?MadeTable
    {
        foreach ($this->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }

        return null;
    }

    private function begun(): void
    {
        for ($n = 1, $most = $this->int(2, 4); $n <= $most; ++$n) {
            $this->tables[] = $this->table('t'.$n, $n > 1 && !$this->maybe(3) ? 't'.$this->int(1, $n - 1) : null);
        }
        foreach ($this->tables as $i => $table) {
            if (!$this->maybe(3)) {
                $some = array_map(static fn (MadeColumn $col): string => $col->name, \array_slice($table->cols, 0, 3));
                $this->views['v'.$i] = 'SELECT s.'.implode(', s.', $some)." FROM $table->name s"
                    .($this->maybe() ? ' WHERE s.'.$some[\count($some) - 1].' IS NOT NULL' : '');
                if ($this->maybe()) {
                    $this->views['a'.$i] = "SELECT $some[0] FROM v$i";
                }
            }
        }
    }

    private function table(string $name, ?string $parent): MadeTable
    {
        $table = new MadeTable($name, $parent);
        $table->cols[] = new MadeColumn('id', $this->one(['int', 'small', 'big']), false);
        for ($n = 1, $most = $this->int(3, 6); $n < $most; ++$n) {
            $table->cols[] = $this->column('c'.$n);
        }
        if (null !== $parent) {
            $table->cols[] = new MadeColumn('parent_id', $this->named($parent)?->col('id')->type ?? 'int', $this->maybe());
        }
        $numbers = array_filter($table->cols, static fn (MadeColumn $col): bool => $col->isNumber() && !\in_array($col->name, ['id', 'parent_id'], true));
        if ([] !== $numbers && $this->maybe()) {
            $this->compute($table, $this->one($numbers), 'g1');
        }
        if ([] !== $numbers && $this->maybe()) {
            $table->checks['k_'.$name] = $this->one($numbers)->name.' > -100';
        }
        $table->index = $this->maybe() ? $this->one(\array_slice($table->cols, 0, 3))->name : null;

        return $table;
    }

    private function column(string $name): MadeColumn
    {
        $col = new MadeColumn($name, $this->one(array_keys(self::TYPES)), $this->maybe());
        $col->list = 'list' === $col->type ? $this->one(self::LISTS) : [];

        return $col;
    }

    private function compute(MadeTable $table, MadeColumn $of, string $name): MadeColumn
    {
        $col = new MadeColumn($name, 'double', true);
        $col->of = $of->name;
        $col->computed = $of->name.' * 1.5';
        $table->cols[] = $col;

        return $col;
    }

    // ---- as SQL ----

    private function script(): string
    {
        $sql = '';
        foreach ($this->tables as $table) {
            $steady = $table->steady();
            $lines = [...array_map($this->said(...), $table->cols), 'PRIMARY KEY (id)'];
            foreach ($table->uniques as $i => $unique) {
                $lines[] = "CONSTRAINT u{$i}_$steady UNIQUE (".implode(', ', $unique).')';
            }
            foreach ($table->checks as $name => $check) {
                $lines[] = "CONSTRAINT $name CHECK ($check)";
            }
            foreach ('mariadb' === $this->engine ? [] : $table->cols as $col) {
                if ('list' === $col->type) {
                    $lines[] = "CONSTRAINT l_{$steady}_{$col->steady()} CHECK ($col->name IN (".self::listed($col->list).'))';
                }
            }
            if (null !== $table->parent) {
                $lines[] = "CONSTRAINT f_$steady FOREIGN KEY (parent_id) REFERENCES $table->parent (id)";
            }
            $sql .= "CREATE TABLE $table->name (".implode(', ', $lines).");\n";
            if (null !== $table->index) {
                $long = 'mariadb' === $this->engine && 'text' === $table->col($table->index)?->type;
                $sql .= "CREATE INDEX i_$steady ON $table->name ($table->index".($long ? '(20)' : '').");\n";
            }
        }
        foreach ($this->views as $name => $query) {
            $sql .= "CREATE VIEW $name AS $query;\n";
        }

        return $sql;
    }

    /** @param list<string> $list */
    private static function listed(array $list): string
    {
        return implode(', ', array_map(static fn (string $one): string => "'".str_replace("'", "''", $one)."'", $list));
    }

    private function said(MadeColumn $col): string
    {
        $type = 'list' === $col->type && 'mariadb' === $this->engine ? 'enum('.self::listed($col->list).')' : self::TYPES[$col->type];
        if ('' !== $col->computed) {
            return "$col->name $type GENERATED ALWAYS AS ($col->computed) STORED";
        }

        return "$col->name $type".($col->null ? '' : ' NOT NULL').(null === $col->default ? '' : " DEFAULT $col->default");
    }

    private function filled(): string
    {
        $sql = '';
        $count = [];
        foreach ($this->tables as $table) {
            $count[$table->name] = 0;
            $parents = null === $table->parent ? 0 : $count[$table->parent];
            for ($id = 1, $most = $this->int(0, 6); $id <= $most; ++$id) {
                $row = $this->row($table, $id, $parents);
                if (null !== $row) {
                    $count[$table->name] = $id;
                    $sql .= "INSERT INTO $table->name (".implode(', ', array_keys($row)).') VALUES ('.implode(', ', $row).");\n";
                }
            }
        }

        return $sql;
    }

    /** @return array<string, string>|null null where there is no parent for it */
    private function row(MadeTable $table, int $id, int $parents): ?array
    {
        $row = [];
        foreach ($table->cols as $col) {
            if ('parent_id' === $col->name && 0 === $parents && !$col->null) {
                return null;
            }
            if ('' === $col->computed) {
                $row[$col->name] = match (true) {
                    'id' === $col->name => (string) $id,
                    'parent_id' === $col->name && 0 === $parents, $col->null && $this->maybe(4) => 'NULL',
                    'parent_id' === $col->name => (string) $this->int(1, $parents),
                    default => $this->value($col),
                };
            }
        }

        return $row;
    }

    private function value(MadeColumn $col): string
    {
        return match ($col->type) {
            'small' => (string) $this->int(-90, 32000),
            'int' => $this->one(['3', '17', '40000', '2000000000']),
            'big' => $this->one(['5', '3000000000', '9000000000000']),
            'dec62' => $this->one(['1.25', '9999.99', '0.5', '-3']),
            'dec103' => $this->one(['1.125', '1234567.5', '2', '70000.001']),
            'double' => $this->one(['0.5', '1e5', '-2', '123456.75']),
            'date' => "'".$this->one(['2024-02-29', '1999-12-31', '2026-07-01'])."'",
            'list' => self::listed([$this->one([] === $col->list ? ['red'] : $col->list)]),
            'v10' => $this->one(["'abc'", "'7'", "'3.75'", "'ten letter'", "''", "'red'", "'2023-02-30'"]),
            default => $this->one(["'abc'", "'41'", "'99999999999'", "'more than ten letters'", "'2024-05-06'", "'red'", "'-12.5'", "'2024-05-06 10:30'"]),
        };
    }

    // ---- what somebody makes of it ----

    private function mutate(MadeTable $table): void
    {
        $what = $this->int(0, 14);
        $this->done[] = "$what on $table->name";
        $plain = $this->plain($table);
        match ($what) {
            0 => $this->renameTable($table),
            1, 2 => $this->renameColumn($table, $this->free($table)),
            3, 4, 5 => $this->retype($table, $this->free($table)),
            6 => $this->require($this->free($table)),
            7 => $this->addColumn($table),
            8 => $this->dropColumn($table, $plain),
            9 => $this->widen($table),
            10 => $table->uniques[] = [$plain->name ?? 'id'],
            11 => $this->check($table, $plain),
            12 => $this->lead($table),
            13 => $this->tables[] = $this->fresh(),
            default => null === $plain || !$plain->isNumber() ? null : $this->compute($table, $plain, 'h'.++$this->made)->was = '',
        };
    }

    private function fresh(): MadeTable
    {
        $table = $this->table('n'.++$this->made, null);
        $table->was = '';
        foreach ($table->cols as $col) {
            $col->was = '';
        }

        return $table;
    }

    /** One that is neither a key nor computed. */
    private function free(MadeTable $table): MadeColumn
    {
        return $this->one(array_filter(
            $table->cols,
            static fn (MadeColumn $col): bool => !\in_array($col->name, ['id', 'parent_id'], true) && '' === $col->of,
        ));
    }

    /** One of which nothing is computed either, and that can be a key. */
    private function plain(MadeTable $table): ?MadeColumn
    {
        $used = array_map(static fn (MadeColumn $col): string => $col->of, $table->cols);
        $free = array_filter($table->cols, static fn (MadeColumn $col): bool => !\in_array($col->name, ['id', 'parent_id', ...$used], true)
            && '' === $col->of && 'text' !== $col->type);

        return [] === $free ? null : $this->one($free);
    }

    private function renameTable(MadeTable $table): void
    {
        $old = $table->name;
        $table->name .= 'r';
        foreach ($this->tables as $other) {
            $other->parent = $other->parent === $old ? $table->name : $other->parent;
        }
    }

    private function renameColumn(MadeTable $table, MadeColumn $col): void
    {
        $old = $col->name;
        $col->name .= 'n';
        $table->renamed($old, $col->name);
    }

    private function retype(MadeTable $table, MadeColumn $col): void
    {
        if ('list' === $col->type && $this->maybe()) {
            $col->list = $this->one(self::LISTS);

            return;
        }
        $new = $this->column('x');
        $col->type = $new->type;
        $col->list = $new->list;
        $col->default = null;
        if (!$col->isNumber()) {
            // Nobody computes with, or compares, what is no number any more.
            $table->checks = array_filter($table->checks, static fn (string $check): bool => 1 !== preg_match('/\b'.$col->name.'\b/', $check));
            foreach (array_filter($table->cols, static fn (MadeColumn $one): bool => $one->of === $col->name) as $computed) {
                $table->without($computed);
            }
        }
        if ('text' === $col->type) {
            $table->forget($col->name);
        }
    }

    private function require(MadeColumn $col): void
    {
        $col->null = !$col->null;
    }

    private function addColumn(MadeTable $table): void
    {
        $col = $this->column('x'.++$this->made);
        $col->was = '';
        $col->default = \in_array($col->type, ['small', 'int', 'dec62'], true) && $this->maybe() ? '7' : null;
        array_splice($table->cols, $this->int(1, \count($table->cols)), 0, [$col]);
    }

    private function dropColumn(MadeTable $table, ?MadeColumn $col): void
    {
        if (null !== $col && 1 !== preg_match('/\b'.$col->steady().'\b/', implode(' ', $this->views)) && \count($table->cols) > 3) {
            $table->without($col);
        }
    }

    /** The key of a table; those that lead to it follow, or nobody thought of them. */
    private function widen(MadeTable $table): void
    {
        $table->cols[0]->type = 'big';
        foreach ($this->maybe(3) ? [] : $this->tables as $other) {
            $lead = $other->parent === $table->name ? $other->col('parent_id') : null;
            if (null !== $lead) {
                $lead->type = 'big';
            }
        }
    }

    private function check(MadeTable $table, ?MadeColumn $col): void
    {
        if (null !== $col && $col->isNumber()) {
            $table->checks['m'.++$this->made] = $col->name.' < '.$this->one(['4', '1000', '100000']);
        }
    }

    private function lead(MadeTable $table): void
    {
        $others = array_filter($this->tables, static fn (MadeTable $one): bool => $one->name < $table->name && '' !== $one->was);
        if (null !== $table->parent) {
            $table->parent = null;
        } elseif ([] !== $others && null === $table->col('parent_id') && '' !== $table->was) {
            $to = $this->one($others);
            $col = new MadeColumn('parent_id', $to->cols[0]->type, true);
            $col->was = '';
            $table->parent = $to->name;
            $table->cols[] = $col;
        }
    }
}
