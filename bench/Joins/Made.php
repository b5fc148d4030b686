<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;

/**
 * Made-up schemas whose joins are known: what they are about stands in a text beside this class, how their names are written is
 * a style. A line is a table: its name, its key where that is no number of its own, its fields and, after `>`, the tables it
 * leads to; `as =role` is called after the role alone, `as role` after the role and the table.
 */
final class Made
{
    private const SHORT = [
        'quantity' => 'qty',
        'number' => 'no',
        'amount' => 'amt',
        'department' => 'dept',
        'customer' => 'cust',
        'employee' => 'emp',
        'location' => 'loc',
        'address' => 'addr',
        'organisation' => 'org',
        'warehouse' => 'whs',
        'manager' => 'mgr',
        'product' => 'prod',
        'supplier' => 'supp',
        'station' => 'stn',
        'account' => 'acct',
        'category' => 'cat',
    ];

    /** Of which the large ones consist. */
    public const LARGE = ['school', 'library', 'coop', 'clinic', 'railway', 'hospital'];

    private \Random\Randomizer $chance;
    /** @var array<string, string> */
    private array $shortened = [];
    /** @var array<string, string> */
    private array $aliases = [];
    /** @var array<string, array{words: list<string>, key: list<array{words: list<string>, type: string}>, surrogate: bool}> */
    private array $known = [];

    /** @param array<string, string> $style */
    private function __construct(private readonly array $style, int $seed)
    {
        $this->chance = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
    }

    /** @return list<string> */
    public static function names(): array
    {
        return array_map(static fn (string $file): string => basename($file, '.txt'), glob(__DIR__.'/*.txt') ?: []);
    }

    /** As its text has it, or in another style of writing by chance. */
    public static function of(string $name, int $seed = 0): Catalog
    {
        $lines = file(__DIR__."/$name.txt", \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [];
        $style = $seed > 0 ? self::anyStyle($seed) : self::style($lines);

        return (new self($style, 100 + $seed))->catalog($lines, $name);
    }

    /** The texts of several, again and again under other words before their names, until there are so many tables. */
    public static function large(int $tables): Catalog
    {
        $before = ['north', 'field', 'retail', 'guest', 'spare', 'night', 'junior', 'river', 'state', 'winter', 'mobile', 'partner'];
        $found = [];
        foreach ($before as $round => $word) {
            foreach (self::LARGE as $name) {
                if (\count($found) >= $tables) {
                    break 2;
                }
                $lines = array_values(
                    array_filter(
                        file(__DIR__."/$name.txt", \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [],
                        static fn (string $line): bool => !str_starts_with($line, '#') && !str_starts_with($line, 'style'),
                    ),
                );
                if (0 !== $round || 'school' !== $name) {
                    $lines = array_map(
                        static fn (string $line): string => (string) preg_replace(['/^/', '/([>=] )/'], ["$word $name ", "\$1$word $name "], $line),
                        $lines,
                    );
                }
                $style = ['case' => 'snake', 'key' => 'id', 'ending' => 'id', 'index' => '0.3', 'noise' => 'created', 'user' => 'user'];
                $catalog = (new self($style, 500 + \count($found)))->catalog($lines, 'large');
                array_push($found, ...$catalog->tables);
            }
        }

        return new Catalog('sqlite', 'made', \array_slice($found, 0, $tables));
    }

    /**
     * @param list<string> $lines
     *
     * @return array<string, string>
     */
    private static function style(array $lines): array
    {
        $style = [];
        foreach ($lines as $line) {
            if (str_starts_with($line, 'style ')) {
                foreach (explode(' ', substr($line, 6)) as $pair) {
                    [$name, $value] = explode('=', $pair) + [1 => ''];
                    $style[$name] = $value;
                }
            }
        }

        return $style;
    }

    /** @return array<string, string> */
    private static function anyStyle(int $seed): array
    {
        $chance = new \Random\Randomizer(new \Random\Engine\Mt19937($seed * 7919));
        $pick = static fn (string ...$of): string => $of[$chance->getInt(0, \count($of) - 1)];
        $key = $pick('id', 'id', 'table', 'no', 'key', 'before', 'abbrid');
        $style = [
            'case' => $pick('snake', 'snake', 'camel', 'pascal', 'upper', 'run', 'prefixed', 'alias'), 'plural' => $pick('', '1'), 'key' => $key,
            'ending' => match ($key) {
                'no' => 'no', 'key' => 'key', default => $pick('id', 'id', 'id', 'ref', 'id'),
            },
            'index' => $pick('0', '0.2', '0.6', '1'), 'short' => $pick('0', '0', '0.3'), 'drop' => $pick('0', '0', '0.25'), 'noise' => $pick(
                'created',
                'modified',
                'both',
                '',
            ),
        ];
        if ('1' === $pick('', '', '1')) {
            $style['tbl'] = '1';
        }
        if ('alias' === $style['case']) {
            $style = ['key' => 'oid', 'ending' => 'id', 'short' => '0'] + $style;
        }

        return $style;
    }

    /** @param list<string> $lines */
    private function catalog(array $lines, string $name): Catalog
    {
        $tables = [];
        foreach ($lines as $line) {
            if (!str_starts_with($line, '#') && !str_starts_with($line, 'style') && 1 === preg_match('/^(.+?)(?:\s*\(([^)]*)\))?(?::\s*(.*))?$/', $line, $m)) {
                $tables[$m[1]] = [$m[2] ?? '', $m[3] ?? ''];
            }
        }
        foreach ($tables as $table => [$key]) {
            $this->know($table, $key, $tables);
        }
        $made = [];
        foreach ($tables as $table => [$key, $fields]) {
            $made[] = $this->table($table, $key, $fields, $tables);
        }

        return new Catalog('sqlite', 'made', $made);
    }

    /** @param array<string, array{string, string}> $tables */
    private function know(string $table, string $key, array $tables): void
    {
        if (isset($this->known[$table])) {
            return;
        }
        $words = explode(' ', $table);
        $base = isset($this->style['modules']) && \count($words) > 1 ? \array_slice($words, 1) : $words;
        $number = isset($this->style['uuid']) && '' === $key && 0 === $this->chance->getInt(0, 2) ? 'char(36)' : 'integer';
        $parts = [];
        if ('' === $key || 'noid' === $key) {
            $parts[] = ['words' => $this->ownKey($base), 'type' => $number];
        }
        foreach ('' === $key || 'noid' === $key ? [] : array_map(trim(...), explode(',', $key)) as $part) {
            if (1 === preg_match('/^(?:>|=) (.+)$/', $part, $m)) {
                $this->know($m[1], $tables[$m[1]][0] ?? throw new \LogicException("No table $m[1]"), $tables);
                foreach ($this->leading($m[1], [], false, false) as $column) {
                    $parts[] = str_starts_with($part, '=') && 'id' === $this->style['key'] ? ['words' => ['id'], 'type' => $column['type']] : $column;
                }
            } elseif (1 === preg_match('/^(.+):(\d+)$/', $part, $m)) {
                $own = explode(' ', $m[1]);
                $parts[] = ['words' => \in_array($this->style['key'], ['table', 'no', 'key'], true) ? [...$base, ...$own] : $own, 'type' => "varchar($m[2])"];
            } else {
                $parts[] = ['words' => explode(' ', $part), 'type' => str_ends_with($part, 'on') ? 'date' : 'integer'];
            }
        }
        $this->known[$table] = ['words' => $words, 'key' => $parts, 'surrogate' => '' === $key];
    }

    /**
     * @param list<string> $base
     *
     * @return list<string>
     */
    private function ownKey(array $base): array
    {
        return match ($this->style['key']) {
            'id' => ['id'], 'table' => [...$base, 'id'], 'no' => [...$base, 'no'], 'key' => [...$base, 'key'], 'oid' => ['oid'],
            'abbrid' => [...$base, 'id'], 'before' => ['id', ...$base], default => ['id'],
        };
    }

    /**
     * The fields that lead to a table, pair by pair with its key.
     *
     * @param list<string> $role
     *
     * @return list<array{words: list<string>, type: string}>
     */
    private function leading(string $table, array $role, bool $alone, bool $drop): array
    {
        $known = $this->known[$table];
        $base = isset($this->style['modules']) && \count($known['words']) > 1 ? \array_slice($known['words'], 1) : $known['words'];
        $found = [];
        $single = 1 === \count($known['key']);
        foreach ($known['key'] as $part) {
            $last = $part['words'][\count($part['words']) - 1];
            if (!$single) {
                $words = [...$role, ...$part['words']];
            } elseif ('before' === $this->style['key'] && $known['surrogate']) {
                $words = ['id', ...($alone ? $role : [...$role, ...$base])];
            } else {
                $ending = match (true) {
                    $known['surrogate'] => $this->style['ending'],
                    ['id'] === $part['words'] => $this->style['ending'],
                    default => $last,
                };
                $words = [...($alone ? $role : [...$role, ...$base]), ...($drop && \count([...$role, ...$base]) > 0 ? [] : [$ending])];
            }
            if ('alias' === $this->style['case'] && $single) {
                // Called by its signs and an ending, or by its name alone.
                $named = 0 === $this->chance->getInt(0, 1) ? [$this->alias($table), 'id'] : [implode('', $base)];
                $words = match (true) {
                    !$alone => [
                        ...array_map(static fn (string $word): string => substr($word, 0, 4), $role),
                        ...$named,
                    ],
                    0 === $this->chance->getInt(0, 2) => [...$role, 'id'],
                    default => $role,
                };
            }
            $found[] = ['words' => $words, 'type' => $part['type']];
        }

        return $found;
    }

    /** @param array<string, array{string, string}> $tables */
    private function table(string $name, string $key, string $fields, array $tables): Table
    {
        $known = $this->known[$name];
        $columns = $foreign = $indexes = [];
        $put = function (array $words, string $type, bool $nullable, bool $auto = false) use (&$columns, $name): string {
            $column = $this->column(array_values(array_filter($words, is_string(...))), $name);
            $columns[$column] ??= new Column($column, $type, $nullable, null, '', $auto);

            return $column;
        };
        $primary = [];
        foreach ($known['key'] as $part) {
            $primary[] = $put($part['words'], $part['type'], false, $known['surrogate'] && 'integer' === $part['type']);
        }
        $offset = 0;
        foreach ('' === $key || 'noid' === $key ? [] : array_map(trim(...), explode(',', $key)) as $part) {
            $n = 1;
            if (1 === preg_match('/^(?:>|=) (.+)$/', $part, $m)) {
                $n = \count($this->known[$m[1]]['key']);
                $foreign[] = $this->reference(\array_slice($primary, $offset, $n), $m[1]);
            }
            $offset += $n;
        }
        foreach ('' === $fields ? [] : array_map(trim(...), explode(',', $fields)) as $field) {
            $nullable = str_ends_with($field, '?');
            $field = rtrim($field, '?');
            if (1 === preg_match('/^> (.+?)(?: as (=?)(.+))?$/', $field, $m)) {
                $drop = $this->chance->getInt(0, 999) / 1000 < (float) ($this->style['drop'] ?? 0);
                $names = [];
                foreach ($this->leading($m[1], explode(' ', $m[3] ?? '') === [''] ? [] : explode(' ', $m[3] ?? ''), '=' === ($m[2] ?? ''), $drop) as $part) {
                    $loose = 'integer' === $part['type'] && $this->chance->getInt(0, 19) < 3 ? 'bigint' : $part['type'];
                    $names[] = $put($part['words'], $loose, $nullable);
                }
                $foreign[] = $this->reference($names, $m[1]);
                if ($this->chance->getInt(0, 999) / 1000 < (float) ($this->style['index'] ?? 0)) {
                    $indexes[] = new Index('ix_'.implode('_', $names), array_map(static fn (string $column): IndexPart => new IndexPart($column), $names));
                }
            } else {
                [$words, $type] = self::attribute(explode(' ', $field));
                $put($words, $type, $nullable);
            }
        }
        $this->noise($put);

        return new Table(
            '',
            $this->tableName($known['words']),
            TableType::Table,
            '',
            array_values($columns),
            'noid' === $key || [] === $primary ? null : new Key(null, $primary),
            [],
            $foreign,
            $indexes,
        );
    }

    /**
     * Fields that every table has.
     *
     * @param \Closure(list<string>, string, bool): string $put
     */
    private function noise(\Closure $put): void
    {
        foreach ([
            'created' => ['created at', 'status'],
            'modified' => ['modified on', 'notes'],
            'changed' => ['changed at', 'changed by'],
            'both' => ['created at', 'updated at', 'type'],
            '' => [],
        ][$this->style['noise'] ?? ''] ?? [] as $field) {
            if (0 !== $this->chance->getInt(0, 2)) {
                $put(explode(' ', $field), 'changed by' === $field ? 'varchar(30)' : self::attribute(explode(' ', $field))[1], true);
            }
        }
    }

    /** @param list<string> $names */
    private function reference(array $names, string $to): ForeignKey
    {
        $key = array_map(fn (array $part): string => $this->column($part['words'], $to), $this->known[$to]['key']);

        return new ForeignKey(
            null,
            $names ?: throw new \LogicException($to),
            new Reference('', $this->tableName($this->known[$to]['words']), $key ?: throw new \LogicException($to)),
        );
    }

    /**
     * @param list<string> $words
     *
     * @return array{list<string>, string}
     */
    private static function attribute(array $words): array
    {
        $last = $words[\count($words) - 1];
        if (\count($words) > 1 && \in_array($last, ['text', 'on', 'count'], true) && ('text' === $last || \in_array(
            $words[\count($words) - 2],
            ['date', 'id', 'no', 'startdate', 'enddate', 'from', 'before', 'until'],
            true,
        ))) {
            array_pop($words);
        }

        return [$words, match (true) {
            'text' === $last => 'varchar(40)',
            'on' === $last || 'date' === $last || 'until' === $last => 'date',
            'at' === $last => 'datetime',
            \in_array($last, ['count', 'days', 'minutes', 'seats', 'floor', 'rank', 'position', 'score', 'level', 'id', 'days', 'decimals'], true) => 'integer',
            \in_array($last, ['no', 'number'], true) => 'integer',
            'code' === $last => 'varchar(8)',
            \in_array(
                $last,
                ['amount', 'price', 'value', 'weight', 'cost', 'low', 'high', 'length', 'area', 'balance', 'rate', 'quantity', 'fee'],
                true,
            ) => 'decimal(10,2)',
            default => 'varchar(60)',
        }];
    }

    /** @param list<string> $words */
    private function tableName(array $words): string
    {
        if (isset($this->style['plural']) && '' !== $this->style['plural']) {
            $words = [...\array_slice($words, 0, -1), \Fasti\Core\Wording\Noun::plural($words[\count($words) - 1] ?? '')];
        }
        $prefix = $this->style['prefix'] ?? (isset($this->style['tbl']) ? 'tbl' : '');
        if ('' !== $prefix) {
            array_unshift($words, strtolower($prefix));
        }

        return $this->written($words);
    }

    /** @param list<string> $words */
    private function column(array $words, string $table): string
    {
        if ((float) ($this->style['short'] ?? 0) > 0) {
            $words = array_map($this->short(...), $words);
        }
        if ('alias' === $this->style['case']) {
            return ['oid'] === $words ? 'oid' : $this->alias($table).implode('', $words);
        }
        if ('prefixed' === $this->style['case']) {
            $initials = implode('', array_map(static fn (string $word): string => $word[0], $this->known[$table]['words']));

            return $initials.'_'.implode('', $words);
        }

        return $this->written($words);
    }

    /** Three or four signs, of each table its own. */
    private function alias(string $table): string
    {
        if (!isset($this->aliases[$table])) {
            $words = explode(' ', $table);
            $plain = \count($words) > 1 ? $words[0][0].substr($words[1], 0, 2) : substr($table, 0, 1).substr(
                (string) preg_replace('/[aeiou]/', '', substr($table, 1)),
                0,
                2,
            );
            for ($n = 0, $alias = $plain; \in_array($alias, $this->aliases, true); ++$n) {
                $alias = substr($table, 0, 3 + $n);
            }
            $this->aliases[$table] = $alias;
        }

        return $this->aliases[$table];
    }

    private function short(string $word): string
    {
        return $this->shortened[$word] ??= \strlen($word) < 6 || $this->chance->getInt(0, 999) / 1000 > (float) $this->style['short'] ? $word
            : (self::SHORT[$word] ?? (0 === $this->chance->getInt(0, 1) ? substr($word, 0, 4) : $word[0].substr(
                (string) preg_replace('/[aeiou]/', '', substr($word, 1)),
                0,
                3,
            )));
    }

    /** @param list<string> $words */
    private function written(array $words): string
    {
        return match ($this->style['case']) {
            'camel' => lcfirst(implode('', array_map(ucfirst(...), $words))),
            'pascal' => implode('', array_map(static fn (string $word): string => 'id' === $word ? 'ID' : ucfirst($word), $words)),
            'upper' => strtoupper(implode('_', $words)),
            'run' => implode('', $words),
            default => implode('_', $words),
        };
    }
}
