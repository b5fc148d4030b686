<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Scripts;

/** Makes up scripts of a dialect: tables with all that belongs to them, and changes of them one after the other. */
final class RandomScript
{
    /** Types with a default each may have; null for none. */
    private const TYPES = [
        'mariadb' => [
            ['int', '5'], ['INT UNSIGNED', "'7'"], ['bigint', '0'], ['smallint(3)', '-1'], ['tinyint(1)', '1'], ['BOOLEAN', 'TRUE'], ['decimal(8,2)', '0'],
            ['DECIMAL(6)', "'1.4'"],
            ['double', '1.5'], ['float(7,3)', '2'], ['varchar(40)', "''"], [
                'VARCHAR(20)',
                "'it''s'",
            ], ['char(3)', "'ab'"], ['text', null], ['mediumtext', "'x'"], ['date', "'2001-02-03'"],
            [
                'datetime',
                'CURRENT_TIMESTAMP',
            ], ['datetime(3)', 'NOW(3)'], [
                'timestamp NULL',
                'NULL',
            ], ['time', "'10:00'"], ['year', '2001'], ["enum('a','b')", "'b'"], ["set('x','y')", "'x,y'"],
            ['varbinary(8)', "x'41'"], ['blob', null], ['bit(4)', "b'101'"], ['json', "'{}'"], ['uuid', null], ['inet6', null], [
                'varchar(9) COLLATE utf8mb4_bin',
                "'q'",
            ],
            [
                'varchar(9) CHARACTER SET latin1',
                "'z'",
            ], ['integer(6) zerofill', '3'], ['numeric(5,1) unsigned', '.5'], ['varchar(36)', '(UUID())'], ['int', '(1 + 2 * 3)'],
        ],
        'postgresql' => [
            ['int', '5'], ['integer', "'7'"], ['bigint', '0'], ['smallint', '-1'], ['boolean', 'true'], ['bool', "'f'"], ['numeric(8,2)', '0'],
            ['numeric', '1.50'], ['decimal(6)', "'1'"],
            ['double precision', '1.5'], ['real', '2'], ['varchar(40)', "''"], ['text', "'it''s'"], ['char(3)', "'ab'"], [
                'character varying',
                "'x'::varchar",
            ], ['date', "'2001-02-03'"],
            ['timestamp', 'now()'], ['timestamptz', 'CURRENT_TIMESTAMP'], [
                'timestamp(3) with time zone',
                null,
            ], ['time', "'10:00'"], ['interval', "'1 day 2 hours'"], ['uuid', 'gen_random_uuid()'],
            ['jsonb', "'{}'"], ['json', null], ['text[]', "'{}'"], ['int[]', 'ARRAY[1,2]'], ['bytea', "'\\x00'"], ['inet', "'10.0.0.1'"],
            ['varchar(8)[]', null], ['bit(3)', "B'101'"],
            ['text', "upper('x') || 'y'"], ['int', '1 + 2 * 3'], [
                'bigint',
                '(random() * 10)::bigint',
            ], ['mood', "'sad'"], ['positive', '3'], ['tsvector', null], ['int4range', null],
        ],
        'sqlite' => [
            ['INT', '5'], ['INTEGER', '-1'], ['TEXT', "'it''s'"], ['VARCHAR(20)', "''"], ['REAL', '1.5'], ['NUMERIC(8, 2)', '+3'], ['BLOB', "x'41'"], [
                'DATETIME',
                'CURRENT_TIMESTAMP',
            ], ['BOOLEAN', 'TRUE'],
            ['', 'NULL'], [
                'DOUBLE PRECISION',
                '(1 + 2)',
            ], ['TEXT COLLATE NOCASE', "'a'"], ['UNSIGNED BIG INT', '0'], ['DECIMAL(10,5)', "'1'"], ['JSON', "(json('{}'))"], ['text', '"q"'],
        ],
    ];
    private const NAMES = [
        'id_no', 'name', 'kind', 'Amount', 'created at', 'status', 'note', 'order', 'code', 'größe', 'valid_from', 'x', 'parent', 'value', 'key', 'Weight',
        'level', 'title', 'user', 'z9',
    ];
    private const CHECKS = [
        '%s IS NOT NULL', '%s IS NULL OR 1 = 1', 'NOT (%s IS NULL)', '%s = %s', 'coalesce(%s, %s) IS NOT NULL', '(%s IS NULL) = (%s IS NULL)',
    ];
    private const NUMBER = [
        '%s > 0', '%s BETWEEN 1 AND 10', '%s IN (1, 2, 3)', '%s + 1 > %s * 2', '%s <> -5', 'NOT %s < 3', '%s > 1 AND (%s < 9 OR %s = 20)', 'abs(%s) < 100',
        '%s NOT IN (4, 5)', '-%s < 5',
    ];
    private const TEXT = [
        "%s <> ''", "%s LIKE 'a%%'", "%s IN ('x', 'y')", 'length(%s) > 2', 'lower(%s) = %s', "%s NOT LIKE '%%z'", "replace(%s, 'a', 'b') <> 'c'",
        "%s IN ('one')", "trim(%s) <> ''", "%s || 'x' <> 'y'",
    ];

    /** @var array<string, array<string, string>> table → column → type */
    private array $tables = [];
    /** @var array<string, list<string>> table → names of what can be dropped of it */
    private array $indexes = [];
    /** @var array<string, list<string>> */
    private array $constraints = [];
    private int $made = 0;

    public function __construct(private readonly string $engine, int $seed)
    {
        mt_srand($seed);
    }

    /** @return list<string> statements, of which a server may refuse some: it is asked about each */
    public function statements(int $tables, int $changes): array
    {
        $all = 'postgresql' === $this->engine
            ? ["CREATE TYPE mood AS ENUM ('sad', 'it''s ok')", 'CREATE DOMAIN positive AS integer CHECK (VALUE > 0)', 'CREATE SCHEMA other']
            : [];
        for ($i = 0; $i < $tables; ++$i) {
            $all[] = $this->table();
        }
        for ($i = 0; $i < $changes; ++$i) {
            $all[] = $this->change();
        }

        return $all;
    }

    /** @template T
     *
     * @param array<T> $list
     *
     * @return T
     */
    private static function one(array $list): mixed
    {
        return [] === $list ? throw new \LogicException('There is nothing to choose from.') : $list[array_rand($list)];
    }

    /** @phpstan-impure */
    private static function chance(int $percent): bool
    {
        return mt_rand(1, 100) <= $percent;
    }

    private function quoted(string $name): string
    {
        $plain = 1 === preg_match('/^[a-z_][a-z_0-9]*$/', $name) && !\in_array($name, ['order', 'key', 'user'], true);
        if ($plain && self::chance(60)) {
            return match (true) {
                !(self::chance(10) && 'sqlite' !== $this->engine) => $name,
                'postgresql' === $this->engine => strtoupper($name),
                default => $name,
            };
        }

        return 'mariadb' === $this->engine ? '`'.$name.'`' : '"'.$name.'"';
    }

    private function name(string $stem): string
    {
        return $stem.'_'.++$this->made;
    }

    private function definition(string $column, string &$type): string
    {
        [$type, $default] = self::one(self::TYPES[$this->engine]);
        $words = [];
        if (self::chance(35)) {
            $words[] = str_contains($type, 'NULL') ? '' : 'NOT NULL';
        }
        if (null !== $default && self::chance(50)) {
            $words[] = 'DEFAULT '.$default;
        }
        if (self::chance(8)) {
            $words[] = 'UNIQUE';
        }
        if ('mariadb' === $this->engine && self::chance(15)) {
            $words[] = "COMMENT 'says ".$column."'";
        }
        if (self::chance(12) && '' !== ($check = $this->condition([$column => $type]))) {
            $words[] = "CHECK ($check)";
        }

        return trim($this->quoted($column).' '.$type.' '.implode(' ', array_filter($words)));
    }

    /** @param array<string, string> $columns */
    private function condition(array $columns): string
    {
        if ([] === $columns) {
            return '';
        }
        $of = static fn (string $pattern): array => array_keys(array_filter($columns, static fn (string $type): bool => 1 === preg_match($pattern, $type)));
        $numbers = $of('/^(?:int|bigint|smallint|decimal|numeric|double|real|INT|REAL)/');
        $texts = $of('/^(?:varchar|text|char|TEXT|VARCHAR|character)(?!.*\[)/');
        [$patterns, $names] = match (true) {
            [] !== $numbers && self::chance(50) => [self::NUMBER, $numbers],
            [] !== $texts && self::chance(70) => [self::TEXT, $texts],
            default => [self::CHECKS, array_keys($columns)],
        };
        $pattern = self::one($patterns);
        if ('mariadb' === $this->engine) {
            $pattern = str_replace('||', 'REGEXP', $pattern);
        }
        $filled = [];
        // Texts of two character sets are brought together by the server in ways of its own.
        $same = 'mariadb' === $this->engine ? (string) self::one($names) : null;
        for ($i = 0; $i < 3; ++$i) {
            $filled[] = $this->quoted($same ?? (string) self::one($names));
        }

        return \sprintf($pattern, ...$filled);
    }

    private function table(): string
    {
        $name = self::chance(15) ? 'Table '.++$this->made : $this->name('t');
        $names = self::NAMES;
        shuffle($names);
        $columns = ['id' => 'int'];
        $parts = [match ($this->engine) {
            'mariadb' => self::one(['id int NOT NULL AUTO_INCREMENT', 'id int unsigned NOT NULL AUTO_INCREMENT', 'id bigint NOT NULL AUTO_INCREMENT']),
            'postgresql' => self::one(['id serial NOT NULL', 'id bigserial', 'id int GENERATED ALWAYS AS IDENTITY', 'id integer NOT NULL']),
            default => self::one(['id INTEGER', 'id INT NOT NULL', 'id INTEGER NOT NULL']),
        }];
        foreach (\array_slice($names, 0, mt_rand(2, 9)) as $column) {
            $type = '';
            $parts[] = $this->definition($column, $type);
            $columns[$column] = $type;
        }
        $parts[] = (self::chance(30) && 'sqlite' !== $this->engine ? 'CONSTRAINT '.$this->name('pk').' ' : '').'PRIMARY KEY (id)';
        $this->indexes[$name] = $this->constraints[$name] = [];
        if (self::chance(40)) {
            $parts[] = $this->unique($name, $columns);
        }
        if (self::chance(50)) {
            $check = $this->condition($columns);
            $label = self::chance(50) ? $this->name('ck') : '';
            $this->constraints[$name][] = $label;
            $parts[] = ('' === $label ? '' : "CONSTRAINT $label ")."CHECK ($check)";
        }
        if (\count($this->tables) > 0 && self::chance(60)) {
            $parts[] = $this->foreign($name, $columns);
        }
        if ('mariadb' === $this->engine && self::chance(60)) {
            $parts[] = 'KEY '.($this->indexes[$name][] = $this->name('k')).' ('.$this->quoted((string) self::one(array_keys($columns))).')';
        }
        $this->tables[$name] = $columns;
        $options = 'mariadb' === $this->engine
            ? self::one(['', ' ENGINE=InnoDB', ' ENGINE=MyISAM DEFAULT CHARSET=utf8mb4', " COMMENT='a table' COLLATE=utf8mb4_unicode_ci", ' CHARSET latin1'])
            : '';

        return 'CREATE TABLE '.$this->quoted($name)." (\n  ".implode(",\n  ", array_filter($parts)).')'.$options;
    }

    /** @param array<string, string> $columns */
    private function unique(string $table, array $columns): string
    {
        $names = array_keys($columns);
        shuffle($names);
        $list = implode(', ', array_map(fn (int|string $name): string => $this->quoted((string) $name), \array_slice($names, 0, mt_rand(1, 3))));
        $named = self::chance(50) ? ($this->constraints[$table][] = $this->name('uq')) : '';

        return ('' === $named ? '' : "CONSTRAINT $named ")."UNIQUE ($list)";
    }

    /** @param array<string, string> $columns */
    private function foreign(string $table, array $columns): string
    {
        $others = array_keys($this->tables);
        $far = [] === $others ? $table : (string) self::one($others);
        $short = array_keys(array_filter($columns, static fn (string $type): bool => 1 !== preg_match('/text|blob|json/i', $type)));
        $own = [] === $short ? 'id' : (string) self::one($short);
        $named = self::chance(50) ? 'CONSTRAINT '.($this->constraints[$table][] = $this->name('fk')).' ' : '';

        return $named.'FOREIGN KEY ('.$this->quoted($own).') REFERENCES '.$this->quoted($far).self::one([
            ' (id)',
            ' (id)',
            'sqlite' === $this->engine ? '' : ' (id)',
        ])
            .self::one(['', ' ON DELETE CASCADE', ' ON DELETE RESTRICT ON UPDATE CASCADE', ' ON DELETE NO ACTION']);
    }

    private function change(): string
    {
        if ([] === $this->tables) {
            return $this->table();
        }
        $known = array_keys($this->tables);
        $table = (string) self::one($known);
        $columns = $this->tables[$table];
        $column = (string) self::one(array_keys($columns));
        $fresh = self::one(self::NAMES).'_'.++$this->made;
        $kinds = match ($this->engine) {
            'mariadb' => [
                'add', 'drop', 'table', 'modify', 'change', 'default', 'nodefault', 'unique', 'check', 'foreign', 'index', 'unindex', 'unconstraint', 'gone',
                'convert', 'several', 'renameindex',
            ],
            'postgresql' => [
                'add', 'drop', 'rename', 'table', 'type', 'default', 'nodefault', 'null', 'notnull', 'unique', 'check', 'foreign', 'index', 'unindex',
                'unconstraint', 'gone', 'comment', 'schema', 'several', 'dropcascade',
            ],
            default => ['add', 'drop', 'rename', 'table', 'index', 'unindex', 'gone'],
        };
        $kind = (string) self::one($kinds);

        return $this->ofColumn($kind, $table, $columns, $column, $fresh) ?? $this->ofKey($kind, $table, $columns, $column)
            ?? $this->ofTable($kind, $table, $columns, $column) ?? throw new \LogicException($kind);
    }

    /**
     * A change of a column.
     *
     * @param array<string, string> $columns
     */
    private function ofColumn(string $kind, string $table, array $columns, string $column, string $fresh): ?string
    {
        $alter = 'ALTER TABLE '.$this->quoted($table).' ';
        $type = '';
        switch ($kind) {
            case 'add':
                $definition = $this->definition($fresh, $type);
                $this->tables[$table][$fresh] = $type;

                return $alter.'ADD '.(self::chance(60) ? 'COLUMN ' : '').$definition
                    .('mariadb' === $this->engine ? self::one(['', ' FIRST', ' AFTER '.$this->quoted($column)]) : '');
            case 'drop':
            case 'dropcascade':
                return $alter.'DROP COLUMN '.$this->quoted($column).('postgresql' === $this->engine ? self::one(['', ' CASCADE']) : '');
            case 'rename':
                $this->tables[$table][$fresh] = $columns[$column];

                return $alter.'RENAME COLUMN '.$this->quoted($column).' TO '.$this->quoted($fresh);
            case 'modify':
                $definition = $this->definition($column, $type);

                return $alter.'MODIFY '.$definition.self::one(['', '', ' FIRST', ' AFTER id']);
            case 'change':
                $definition = $this->definition($fresh, $type);
                $this->tables[$table][$fresh] = $type;

                return $alter.'CHANGE '.$this->quoted($column).' '.$definition;
            case 'type':
                [$type] = self::one(self::TYPES['postgresql']);

                return $alter.'ALTER COLUMN '.$this->quoted($column).' TYPE '.$type.' USING NULL';
            case 'default':
                $column = 'id' === $column ? $fresh : $column;
                $same = array_values(array_filter(self::TYPES[$this->engine], static fn (array $each): bool => $each[0] === ($columns[$column] ?? '')));
                $default = $same[0][1] ?? null;

                return $alter.'ALTER COLUMN '.$this->quoted($column).' SET DEFAULT '.($default ?? "''");
            case 'nodefault':
                return $alter.'ALTER '.$this->quoted($column).' DROP DEFAULT';
            case 'null':
                return $alter.'ALTER '.$this->quoted($column).' DROP NOT NULL';
            case 'notnull':
                return $alter.'ALTER COLUMN '.$this->quoted($column).' SET NOT NULL';
            case 'several':
                $definition = $this->definition($fresh, $type);
                $this->tables[$table][$fresh] = $type;

                return $alter.'ADD COLUMN '.$definition.', DROP COLUMN '.$this->quoted($column).', ADD '.$this->unique($table, [$fresh => $type]);

            default:
                return null;
        }
    }

    /**
     * A change of a key, a condition or an index.
     *
     * @param array<string, string> $columns
     */
    private function ofKey(string $kind, string $table, array $columns, string $column): ?string
    {
        $alter = 'ALTER TABLE '.$this->quoted($table).' ';
        switch ($kind) {
            case 'unique':
                return $alter.'ADD '.$this->unique($table, $columns);
            case 'check':
                return $alter.'ADD '.(self::chance(50) ? 'CONSTRAINT '.($this->constraints[$table][] = $this->name('ck')).' ' : '')
                    .'CHECK ('.$this->condition($columns).')';
            case 'foreign':
                return $alter.'ADD '.$this->foreign($table, $columns);
            case 'index':
                $index = $this->indexes[$table][] = $this->name('ix');
                $part = $this->quoted($column).('mariadb' === $this->engine && 1 === preg_match(
                    '/char|text|blob/i',
                    $columns[$column],
                ) ? self::one(['(3)', '']) : '').('mariadb' === $this->engine ? '' : self::one(['', ' DESC', '']));
                $part = 'mariadb' !== $this->engine && self::chance(25) ? self::one(['lower(%s)', 'coalesce(%s, %s)', '(%s IS NULL)']) : $part;
                $where = 'mariadb' !== $this->engine && self::chance(30) ? ' WHERE '.$this->condition($columns) : '';

                return 'CREATE '.self::one(['', 'UNIQUE ', '']).'INDEX '.('postgresql' === $this->engine && self::chance(30) ? '' : $index)
                    .' ON '.$this->quoted($table).' ('.str_replace('%s', $this->quoted($column), $part)
                    .self::one(['', ', '.$this->quoted((string) self::one(array_keys($columns)))]).')'.$where;
            case 'unindex':
                $known = $this->indexes[$table] ?? [];
                $index = [] === $known ? 'nothing_there' : self::one($known);

                return 'DROP INDEX '.$index.('mariadb' === $this->engine ? ' ON '.$this->quoted($table) : '');
            case 'renameindex':
                $known = $this->indexes[$table] ?? [];
                $index = [] === $known ? 'nothing_there' : self::one($known);

                return $alter.'RENAME INDEX '.$index.' TO '.($this->indexes[$table][] = $this->name('ri'));
            case 'unconstraint':
                $known = $this->constraints[$table] ?? [];
                $constraint = [] === $known ? 'nothing_there' : self::one($known);

                return $alter.'DROP CONSTRAINT '.$constraint.('postgresql' === $this->engine ? self::one(['', ' CASCADE']) : '');

            default:
                return null;
        }
    }

    /**
     * A change of a whole table.
     *
     * @param array<string, string> $columns
     */
    private function ofTable(string $kind, string $table, array $columns, string $column): ?string
    {
        $alter = 'ALTER TABLE '.$this->quoted($table).' ';
        switch ($kind) {
            case 'table':
                $to = $this->name('r');
                $this->tables[$to] = $columns;
                $this->indexes[$to] = $this->indexes[$table] ?? [];
                $this->constraints[$to] = $this->constraints[$table] ?? [];
                unset($this->tables[$table]);

                return $alter.'RENAME TO '.$this->quoted($to);
            case 'gone':
                if (\count($this->tables) < 4) {
                    return $this->table();
                }

                return 'DROP TABLE '.$this->quoted($table).('postgresql' === $this->engine ? self::one(['', ' CASCADE']) : '');
            case 'convert':
                return $alter.self::one([
                    'CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci', 'CONVERT TO CHARACTER SET latin1', "COMMENT='changed'", 'ENGINE=InnoDB',
                    'DEFAULT CHARACTER SET utf8mb4',
                ]);
            case 'comment':
                return 'COMMENT ON COLUMN '.$this->quoted($table).'.'.$this->quoted($column).self::one([" IS 'it''s said'", ' IS NULL']);
            case 'schema':
                return $alter.'SET SCHEMA '.self::one(['other', 'public']);

            default:
                return null;
        }
    }
}
