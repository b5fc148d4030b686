<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Makes up schemas and queries over them, always the same ones of a seed. Not all of them are good: the server says which. */
final class RandomQuery
{
    private const TYPES = [
        'num' => ['integer', 'bigint', 'smallint', 'numeric(8,2)', 'numeric', 'real', 'double precision', 'q.amount'],
        'text' => ['text', 'character varying(20)', 'character varying', 'character(5)', 'name'],
        'bool' => ['boolean'],
        'time' => ['date', 'timestamp without time zone', 'timestamp(3) without time zone', 'timestamp with time zone', 'time without time zone', 'interval'],
        'list' => ['integer[]', 'text[]', 'character varying(8)[]', 'numeric(6,1)[]'],
        'json' => ['jsonb', 'json'],
        'odd' => ['uuid', 'bytea', 'inet', 'q.mood', 'int4range', 'bit(4)', 'money', '"char"'],
    ];
    private const WORDS = ['station', 'value', 'taken', 'order', 'Select', 'kind of', 'x', 'y', 'z', 'id', 'code', 'name', 'höhe', 'a"b', 'count', 'date'];

    private Randomizer $random;
    /** @var array<string, list<array{string, string, string}>> table → columns: name, family, type */
    public array $tables = [];
    private int $aliases = 0;
    /** @var list<list<array{string, list<array{string, string, string}>}>> sources in scope, the innermost last */
    private array $scopes = [];

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public function schema(): string
    {
        $sql = "CREATE TYPE q.mood AS ENUM ('fine', 'low', 'high');\nCREATE DOMAIN q.amount AS numeric(10,3);\n";
        for ($i = 0; $i < 7; ++$i) {
            $columns = [];
            foreach ($this->some(self::WORDS, 4, 9) as $name) {
                $family = $this->one(['num', 'num', 'text', 'text', 'bool', 'time', 'list', 'json', 'odd']);
                $columns[] = [$name, $family, $this->one(self::TYPES[$family])];
            }
            $table = $this->one(['T', 't ', 'group', 'log']).$i;
            $this->tables[$table] = $columns;
            $sql .= 'CREATE TABLE q.'.self::q($table).' ('.implode(', ', array_map(static fn (array $c): string => self::q($c[0]).' '.$c[2], $columns)).");\n";
        }

        return $sql;
    }

    public function query(int $depth = 2): string
    {
        $this->scopes[] = [];
        $with = '';
        $named = null;
        if ($depth > 0 && $this->chance(15)) {
            $named = 'w'.++$this->aliases;
            [$inner, $columns] = $this->select($depth - 1, true);
            $with = "WITH $named AS ($inner) ";
            $named = [$named, $columns];
        }
        [$sql, $columns] = $this->select($depth, false, $named);
        if ($this->chance(10)) {
            [$other] = $this->select($depth - 1, true, null, array_map(static fn (array $c): string => $c[1], $columns));
            $sql = "($sql) ".$this->one(['UNION', 'UNION ALL', 'INTERSECT', 'EXCEPT ALL'])." ($other)";
        }
        array_pop($this->scopes);

        return $with.$sql;
    }

    /**
     * @param array{string, list<array{string, string, string}>}|null $named
     * @param list<string>|null                                       $families that its columns must have
     *
     * @return array{string, list<array{string, string, string}>} and its columns
     */
    private function select(int $depth, bool $inner, ?array $named = null, ?array $families = null): array
    {
        $this->scopes[] = [];
        $from = $this->from($depth, $named);
        $where = $this->chance(40) ? ' WHERE '.$this->value('bool', $depth) : '';
        $grouped = null === $families && $this->chance(20);
        $items = $columns = [];
        $group = $used = [];
        foreach ($families ?? array_map(
            fn (): string => $this->one(['num', 'num', 'text', 'text', 'bool', 'time', 'list', 'json', 'odd']),
            range(1, $this->number(1, 4)),
        ) as $family) {
            $value = $grouped && $this->chance(60) ? $this->aggregate($family, $depth) : $this->value($family, $depth);
            if ($grouped && !str_contains($value, '/*agg*/')) {
                $group[] = $value;
            }
            $name = $inner || $this->chance(50) || isset($used[$value]) ? 'c'.++$this->aliases : '';
            $used[$value] = true;
            $items[] = $value.('' === $name ? '' : ($this->chance(70) ? ' AS ' : ' ').$name);
            $columns[] = [$name, $family, ''];
        }
        $star = null === $families && !$grouped && !$inner && $this->chance(12);
        $list = $star ? $this->one(['*', self::q($this->sources()[0][0] ?? 's').'.*']) : implode(', ', $items);
        $sql = 'SELECT '.($this->chance(10) && !$star ? 'DISTINCT ' : '').$list.$from.$where;
        if ($grouped && [] !== $group) {
            $sql .= ' GROUP BY '.implode(', ', $group);
        }
        if ($this->chance(10) && !$star) {
            $sql .= ' ORDER BY 1'.($this->chance(50) ? ' DESC NULLS LAST' : '');
        }
        if ($this->chance(10)) {
            $sql .= ' LIMIT 5';
        }
        array_pop($this->scopes);

        return [$sql, $columns];
    }

    /** @param array{string, list<array{string, string, string}>}|null $named */
    private function from(int $depth, ?array $named): string
    {
        $sql = ' FROM '.(null !== $named ? $this->aliased($named[0], $named[1]) : $this->source($depth));
        for ($i = $this->number(0, 2); $i > 0; --$i) {
            $how = $this->one(['JOIN', 'LEFT JOIN', 'RIGHT JOIN', 'FULL JOIN', 'CROSS JOIN', ',', 'LEFT JOIN LATERAL']);
            if ('LEFT JOIN LATERAL' === $how && $depth > 0) {
                [$inner, $columns] = $this->select($depth - 1, true);
                $alias = 'l'.++$this->aliases;
                $this->scopes[\count($this->scopes) - 1][] = [$alias, $columns];
                $sql .= " LEFT JOIN LATERAL ($inner) $alias ON true";
                continue;
            }
            $how = 'LEFT JOIN LATERAL' === $how ? 'JOIN' : $how;
            $sql .= (',' === $how ? ', ' : " $how ").$this->source($depth);
            if (',' !== $how && 'CROSS JOIN' !== $how) {
                $sql .= 'FULL JOIN' === $how ? ' ON true' : ' ON '.$this->value('bool', 0);
            }
        }

        return $sql;
    }

    private function source(int $depth): string
    {
        if ($depth > 0 && $this->chance(20)) {
            [$inner, $columns] = $this->select($depth - 1, true);

            return $this->aliased("($inner)", $columns);
        }
        if ($this->chance(8)) {
            return $this->aliased('generate_series(1, 3)', [['g', 'num', 'integer']], true);
        }
        $table = array_keys($this->tables)[$this->number(0, \count($this->tables) - 1)];

        return $this->aliased('q.'.self::q($table), $this->tables[$table]);
    }

    /** @param list<array{string, string, string}> $columns */
    private function aliased(string $sql, array $columns, bool $listed = false): string
    {
        $alias = 's'.++$this->aliases;
        $this->scopes[\count($this->scopes) - 1][] = [$alias, $columns];

        return "$sql $alias".($listed ? '('.implode(', ', array_map(static fn (array $c): string => self::q($c[0]), $columns)).')' : '');
    }

    /** @return list<array{string, list<array{string, string, string}>}> */
    private function sources(): array
    {
        return $this->scopes[\count($this->scopes) - 1] ?? [];
    }

    private function value(string $family, int $depth): string
    {
        $depth = max(0, $depth);
        if ($depth > 0 && $this->chance(55)) {
            return $this->computed($family, $depth - 1);
        }

        return $this->chance(80) ? $this->field($family) ?? $this->literal($family) : $this->literal($family);
    }

    private function field(string $family): ?string
    {
        $found = [];
        foreach ($this->sources() as [$alias, $columns]) {
            foreach ($columns as [$name, $of]) {
                if ($of === $family && '' !== $name) {
                    $found[] = self::q($alias).'.'.self::q($name);
                }
            }
        }

        return [] === $found ? null : $this->one($found);
    }

    private function literal(string $family): string
    {
        return $this->one([
            'num' => ['1', '2.5', '30000000000', "'7'::smallint", '1e3', '-4'],
            'text' => ["'a'", "'it''s'", "E'x\\ty'", '$$d$$', "'q'::character varying(3)", "'k'::character(2)"],
            'bool' => ['true', 'false', "'t'::boolean"],
            'time' => ["date '2026-01-01'", "'2026-01-01'::timestamp", 'now()', "interval '1 day'", 'current_date', "'12:00'::time", 'localtimestamp(2)'],
            'list' => ["'{1,2}'::integer[]", "ARRAY['a', 'b']", 'ARRAY[1, 2.5]'],
            'json' => ["'{\"a\": 1}'::jsonb", "'[1]'::json"],
            'odd' => ["'fine'::q.mood", "'\\x01'::bytea", "B'1010'", "'10.0.0.1'::inet", "'[1,3)'::int4range", "'1'::money"],
        ][$family]);
    }

    private function computed(string $family, int $depth): string
    {
        $n = fn (): string => $this->value('num', $depth);
        $t = fn (): string => $this->value('text', $depth);
        $b = fn (): string => $this->value('bool', $depth);
        $d = fn (): string => $this->value('time', $depth);
        $l = fn (): string => $this->value('list', $depth);
        $j = fn (): string => $this->value('json', $depth);
        $same = fn (): string => $this->value($family, $depth);
        $shared = [
            static fn (): string => 'CASE WHEN '.$b().' THEN '.$same().' ELSE '.$same().' END',
            static fn (): string => 'coalesce('.$same().', '.$same().')',
            static fn (): string => '('.$same().')',
            static fn (): string => 'nullif('.$same().', '.$same().')',
            static fn (): string => '(SELECT '.$same().' LIMIT 1)',
            static fn (): string => 'first_value('.$same().') OVER (ORDER BY '.$n().')',
        ];
        $of = [$n, $t, $b, $d, $l, $j, $same];
        $own = match ($family) {
            'num' => $this->numbers($of),
            'text' => $this->texts($of),
            'bool' => $this->conditions($of, $depth),
            'time' => self::times($of),
            'list' => self::lists($of),
            'json' => self::documents($of),
            default => self::oddities($of),
        };

        return $this->one($this->chance(25) ? $shared : $own)();
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private function numbers(array $of): array
    {
        [$n, $t, , $d, $l] = $of;

        return [
            fn (): string => $n().' '.$this->one(['+', '-', '*', '/', '%']).' '.$n(), static fn (): string => '- '.$n(),
            static fn (): string => 'abs('.$n().')',
            static fn (): string => 'round('.$n().', 1)', static fn (): string => 'length('.$t().')', static fn (): string => 'extract(year from '.$d().')',
            fn (): string => 'CAST('.$n().' AS '.$this->one(self::TYPES['num']).')', static fn (): string => 'array_length('.$l().', 1)',
            static fn (): string => 'sum('.$n().') OVER ()',
            static fn (): string => 'row_number() OVER (PARTITION BY '.$t().')', static fn (): string => 'greatest('.$n().', '.$n().')',
            static fn (): string => 'power('.$n().', 2)',
            static fn (): string => 'position('.$t().' in '.$t().')', static fn (): string => 'floor('.$n().')', fn (): string => $n().'::'.$this->one([
                'int',
                'float8',
                'decimal(5)',
                'int8',
            ]),
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private function texts(array $of): array
    {
        [$n, $t, , $d, $l, $j] = $of;

        return [
            static fn (): string => $t().' || '.$t(), static fn (): string => $t().' || '.$n(), static fn (): string => 'upper('.$t().')',
            static fn (): string => 'substring('.$t().' from 1 for 2)',
            static fn (): string => $n().'::text', fn (): string => $t().'::character varying('.$this->number(1, 30).')',
            static fn (): string => 'trim('.$t().')',
            static fn (): string => 'to_char('.$d().", 'YYYY')", static fn (): string => $j()." ->> 'a'",
            static fn (): string => 'concat('.$t().', '.$n().')',
            static fn (): string => 'array_to_string('.$l().", ',')", static fn (): string => 'left('.$t().', 2)',
            static fn (): string => 'max('.$t().') OVER ()', static fn (): string => $t().'::char(4)',
            static fn (): string => 'replace('.$t().", 'a', 'b')", static fn (): string => 'lpad('.$t().', 3)',
            static fn (): string => 'least('.$t().', '.$t().')',
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private function conditions(array $of, int $depth): array
    {
        [$n, $t, $b, $d, $l, $j] = $of;

        return [
            fn (): string => $n().' '.$this->one([
                '=',
                '<',
                '>=',
                '<>',
                '!=',
            ]).' '.$n(), static fn (): string => $t()." LIKE 'a%'", static fn (): string => $b().' AND NOT '.$b(),
            static fn (): string => $t().' IN ('.$t().', '.$t().')', static fn (): string => $n().' BETWEEN '.$n().' AND '.$n(),
            static fn (): string => $t().' IS NOT NULL',
            static fn (): string => $b().' OR '.$b(), fn (): string => 'EXISTS ('.$this->select($depth, true)[0].')',
            static fn (): string => $n().' IS DISTINCT FROM '.$n(),
            static fn (): string => $n().' = ANY ('.$l().')', static fn (): string => $t().' ~* '.$t(), static fn (): string => $d().' < '.$d(),
            static fn (): string => $j()." ? 'a'",
            fn (): string => $n().' IN ('.$this->select($depth, true, null, ['num'])[0].')',
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private static function times(array $of): array
    {
        [, , , $d] = $of;

        return [
            static fn (): string => $d()." + interval '1 hour'", static fn (): string => $d().' - '.$d(),
            static fn (): string => "date_trunc('day', ".$d().')', static fn (): string => $d().'::date',
            static fn (): string => $d()." AT TIME ZONE 'UTC'", static fn (): string => $d().' + 1',
            static fn (): string => 'CAST('.$d().' AS timestamp(2))', static fn (): string => 'max('.$d().') OVER ()',
            static fn (): string => 'age('.$d().')', static fn (): string => 'greatest('.$d().', '.$d().')',
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private static function lists(array $of): array
    {
        [$n, $t, , , $l] = $of;

        return [
            static fn (): string => 'ARRAY['.$n().', '.$n().']', static fn (): string => $l().' || '.$l(),
            static fn (): string => 'ARRAY(SELECT '.$t().')', static fn (): string => 'array_append('.$l().', '.$n().')',
            static fn (): string => 'string_to_array('.$t().", ',')", static fn (): string => $l().'::text[]',
            static fn (): string => '('.$l().')[1:2]', static fn (): string => 'array_agg('.$n().') OVER ()',
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private static function documents(array $of): array
    {
        [$n, $t, , , , $j] = $of;

        return [
            static fn (): string => $j()." -> 'a'", static fn (): string => 'to_jsonb('.$t().')',
            static fn (): string => "jsonb_build_object('k', ".$n().')', static fn (): string => $j().'::jsonb',
            static fn (): string => 'json_agg('.$t().') OVER ()', static fn (): string => $j()." #> '{a,0}'",
        ];
    }

    /**
     * @param list<\Closure(): string> $of
     *
     * @return non-empty-list<\Closure(): string>
     */
    private static function oddities(array $of): array
    {
        [$n, $t, , , , , $same] = $of;

        return [
            static fn (): string => $t().'::q.mood', static fn (): string => 'int4range(1, 5) * int4range(2, 9)',
            static fn (): string => 'decode('.$t().", 'hex')", static fn (): string => 'md5('.$t().')::uuid',
            static fn (): string => $n().'::money', static fn (): string => "B'01' || B'1'",
            static fn (): string => 'lag('.$same().') OVER (ORDER BY '.$n().')',
        ];
    }

    private function aggregate(string $family, int $depth): string
    {
        $inner = fn (string $of): string => $this->value($of, max(0, $depth - 1));

        return '/*agg*/'.match ($family) {
            'num' => $this->one(
                [
                    'count(*)',
                    'sum('.$inner('num').')',
                    'avg('.$inner('num').')',
                    'count(DISTINCT '.$inner('text').')',
                    'max('.$inner('num').')',
                    'stddev('.$inner('num').') FILTER (WHERE '.$inner('bool').')',
                    'percentile_cont(0.5) WITHIN GROUP (ORDER BY '.$inner('num').')',
                ],
            ),
            'text' => $this->one(
                [
                    'min('.$inner('text').')',
                    'string_agg('.$inner('text').", ',' ORDER BY ".$inner('num').')',
                    'mode() WITHIN GROUP (ORDER BY '.$inner('text').')',
                ],
            ),
            'bool' => $this->one(['bool_and('.$inner('bool').')', 'every('.$inner('bool').')', 'count(*) > 1']),
            'time' => 'max('.$inner('time').')',
            'list' => $this->one(['array_agg('.$inner('text').')', 'array_agg(DISTINCT '.$inner('num').')']),
            'json' => $this->one(['json_agg('.$inner('text').')', 'jsonb_object_agg('.$inner('text').', '.$inner('num').')']),
            default => $this->one(['bit_and('.$inner('num').'::int)', 'array_agg('.$inner('odd').')', 'min('.$inner('odd').')']),
        };
    }

    private static function q(string $name): string
    {
        return 1 === preg_match('/^[a-z][a-z0-9]*$/', $name) && !\in_array(
            $name,
            ['order', 'group', 'select', 'count', 'date'],
            true,
        ) ? $name : '"'.str_replace('"', '""', $name).'"';
    }

    private function chance(int $percent): bool
    {
        return $this->random->getInt(1, 100) <= $percent;
    }

    private function number(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    /**
     * @template T
     *
     * @param non-empty-array<T> $of
     *
     * @return T
     */
    private function one(array $of): mixed
    {
        $of = array_values($of);

        return $of[$this->random->getInt(0, \count($of) - 1)];
    }

    /**
     * @param list<string> $of
     *
     * @return list<string>
     */
    private function some(array $of, int $least, int $most): array
    {
        return \array_slice($this->random->shuffleArray($of), 0, $this->number($least, $most));
    }
}
