<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** Asks a source for values of fields and keys, each as its canonical text. Parts of a composite value are joined by a unit separator. */
final class KeyValues
{
    public const BETWEEN = "\x1F";
    private const AT_ONCE = 400;
    /** Tables beyond so many rows are looked at by chance. */
    private const WHOLE = 4000;

    private readonly ProfileSql $sql;
    /** @var array<string, int> */
    private array $counts = [];

    public function __construct(private readonly Rows $source, private readonly Dialect $dialect)
    {
        $this->sql = $dialect->profiling() ?? throw new \LogicException(\sprintf('%s cannot be asked about its data.', $dialect->label()));
    }

    /** @throws SourceError */
    public function count(Table $table): int
    {
        return $this->counts[$table->place()->key()] ??= (int) ($this->one('SELECT COUNT(*) AS n FROM '.$this->sql->from($table))['n'] ?? 0);
    }

    /**
     * Whether no two rows have the same values: all rows are counted.
     *
     * @param list<string> $columns
     *
     * @throws SourceError
     */
    public function isUnique(Table $table, array $columns): bool
    {
        $names = implode(', ', array_map($this->sql->quoted(...), $columns));
        $known = implode(' AND ', array_map(fn (string $column): string => $this->sql->quoted($column).' IS NOT NULL', $columns));
        $twice = $this->one(\sprintf(
            'SELECT COUNT(*) AS n FROM (SELECT %s FROM %s WHERE %s GROUP BY %s HAVING COUNT(*) > 1) AS twice',
            $names, $this->sql->from($table), $known, $names,
        ));

        return 0 === (int) ($twice['n'] ?? 0);
    }

    /**
     * Some rows' values of several fields, or of several rows of fields.
     *
     * @param array<string, list<string>> $wanted fields by a name of the asker's
     *
     * @return array{int, array<string, array<array-key, int>>} rows looked at; by that name: value → how often
     *
     * @throws SourceError
     */
    public function sample(Table $table, array $wanted, int $rows): array
    {
        $columns = $lists = [];
        foreach ($wanted as $name => $fields) {
            if ([] !== array_filter($fields, fn (string $field): bool => $this->type($table, $field)->array)) {
                $lists[$name] = $fields;
            } else {
                foreach ($fields as $field) {
                    $columns[$field] ??= 'c'.\count($columns);
                }
            }
        }
        $count = $this->count($table);
        $from = $count > self::WHOLE ? $this->sql->sampled($table, min(1.0, 1.2 * $rows / $count), $count) : $this->sql->from($table);
        $values = array_fill_keys(array_keys($wanted), []);
        $looked = 0;
        if ([] !== $columns) {
            $select = [];
            foreach ($columns as $field => $alias) {
                $select[] = $this->key($table, (string) $field).' AS '.$alias;
            }
            foreach ($this->source->rows(
                'SELECT '.implode(', ', $select).' FROM '.$from.' LIMIT '.max($rows, $count <= self::WHOLE ? self::WHOLE : 0),
            ) as $row) {
                ++$looked;
                foreach ($wanted as $name => $fields) {
                    if (isset($lists[$name])) {
                        continue;
                    }
                    $parts = array_map(static fn (string $field): ?string => $row[$columns[$field]], $fields);
                    if (!\in_array(null, $parts, true)) {
                        $value = implode(self::BETWEEN, array_map(self::canonical(...), $parts));
                        $values[$name][$value] = ($values[$name][$value] ?? 0) + 1;
                    }
                }
            }
        }
        foreach ($lists as $name => $fields) {
            $select = [];
            foreach ($fields as $i => $field) {
                $select[] = $this->key($table, $field).' AS c'.$i;
            }
            foreach ($this->source->rows('SELECT '.implode(', ', $select).' FROM '.$from.' LIMIT '.(2 * $rows)) as $row) {
                if (!\in_array(null, $row, true)) {
                    $value = implode(self::BETWEEN, array_map(self::canonical(...), array_map(strval(...), array_values($row))));
                    $values[$name][$value] = ($values[$name][$value] ?? 0) + 1;
                }
            }
            $looked = max($looked, array_sum($values[$name]));
        }

        return [$looked, $values];
    }

    /**
     * Which values are among those of a key.
     *
     * @param list<string> $columns
     * @param list<string> $values
     *
     * @return array<array-key, true>
     *
     * @throws SourceError
     */
    public function among(Table $table, array $columns, array $values): array
    {
        $found = [];
        $fitting = array_values(array_filter($values, fn (string $value): bool => $this->fits($table, $columns, $value)));
        $select = [];
        foreach ($columns as $i => $column) {
            $select[] = $this->key($table, $column).' AS c'.$i;
        }
        $names = array_map($this->sql->quoted(...), $columns);
        foreach (array_chunk($fitting, max(1, intdiv(self::AT_ONCE, max(1, \count($columns))))) as $chunk) {
            $parameters = $tuples = [];
            foreach ($chunk as $value) {
                $marks = [];
                foreach (explode(self::BETWEEN, $value) as $part) {
                    $name = 'p'.\count($parameters);
                    $parameters[$name] = $part;
                    $marks[] = ':'.$name;
                }
                $tuples[] = 1 === \count($marks) ? $marks[0] : '('.implode(', ', $marks).')';
            }
            $where = (1 === \count($names) ? $names[0] : '('.implode(', ', $names).')').' IN ('.implode(', ', $tuples).')';
            foreach ($this->source->rows('SELECT '.implode(', ', $select).' FROM '.$this->sql->from($table).' WHERE '.$where, $parameters) as $row) {
                $found[implode(self::BETWEEN, array_map(self::canonical(...), array_map(strval(...), array_values($row))))] = true;
            }
        }

        // What the engine takes for equal, capitals or blanks aside, is compared once more.
        return array_intersect_key(array_fill_keys($values, true), $found);
    }

    /**
     * @return array{int, ?string, ?string} rows, least and greatest of a key of one field
     *
     * @throws SourceError
     */
    public function range(Table $table, string $column): array
    {
        $name = $this->sql->quoted($column);
        $type = $this->type($table, $column);
        $ordered = \in_array($type->family, [TypeFamily::Whole, TypeFamily::Number, TypeFamily::Time], true) || 'oid' === $type->name;
        if (!$ordered) {
            return [$this->count($table), null, null];
        }
        $row = $this->one("SELECT MIN($name) AS l, MAX($name) AS g FROM ".$this->sql->from($table));

        return [$this->count($table), $row['l'] ?? null, $row['g'] ?? null];
    }

    /** What counts all rows of the same source. */
    public function observing(): Observing
    {
        return new Observing($this->source, $this->dialect);
    }

    /** Numbers of the same worth have one text: `7.00` is `7`. */
    public static function canonical(string $value): string
    {
        $value = rtrim($value);

        return 1 === preg_match('/^(-?\d+)\.0+$/', $value, $m) ? $m[1] : $value;
    }

    /** @param list<string> $columns */
    private function fits(Table $table, array $columns, string $value): bool
    {
        $parts = explode(self::BETWEEN, $value);
        foreach ($columns as $i => $column) {
            $part = $parts[$i] ?? '';
            $type = $this->type($table, $column);
            $fits = match (true) {
                TypeFamily::Whole === $type->family, 'oid' === $type->name => 1 === preg_match('/^(?:0|-?[1-9]\d{0,17})$/', $part) && self::inRange(
                    $part,
                    $type->bits,
                    'oid' === $type->name,
                ),
                TypeFamily::Number === $type->family => 1 === preg_match('/^-?\d+(?:\.\d+)?$/', $part),
                'uuid' === $type->name => 1 === preg_match('/^[0-9a-f]{8}-?(?:[0-9a-f]{4}-?){3}[0-9a-f]{12}$/i', $part),
                TypeFamily::Time === $type->family => 1 === preg_match('/^\d{4}-\d\d-\d\d/', $part),
                TypeFamily::Text === $type->family => [] === $type->members || \in_array($part, $type->members, true),
                default => false,
            };
            if (!$fits) {
                return false;
            }
        }

        return true;
    }

    private static function inRange(string $number, ?int $bits, bool $row): bool
    {
        $value = (int) $number;

        return $row ? $value >= 0 && $value < 2 ** 32 : null === $bits || $bits >= 64 || abs($value) < 2 ** $bits;
    }

    private function key(Table $table, string $column): string
    {
        return $this->sql->key($table->column($column) ?? new Column($column, ''), $this->sql->quoted($column));
    }

    private function type(Table $table, string $column): \Fasti\Core\Catalog\Type
    {
        return $this->dialect->typeOf($table->column($column) ?? new Column($column, ''));
    }

    /** @return array<string, string|null> */
    private function one(string $sql): array
    {
        foreach ($this->source->rows($sql) as $row) {
            return $row;
        }

        return [];
    }
}
