<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** A made schema with rows, in SQLite: most references are drawn from what they lead to, some are empty, a few lead nowhere. */
final class Filled implements Rows
{
    private const WORDS = [
        'alder',
        'birch',
        'cedar',
        'dale',
        'elm',
        'fern',
        'glen',
        'hazel',
        'iris',
        'juniper',
        'knoll',
        'linden',
        'maple',
        'north',
        'oak',
        'pine',
        'quarry',
        'rowan',
        'sedge',
        'thorn',
    ];

    private \PDO $pdo;
    private \Random\Randomizer $chance;
    /** @var array<string, list<list<string|int|null>>> keys of the rows of each table, by its place */
    private array $keys = [];
    /** @var array<string, true> keys of rows that are there, with their table */
    private array $seen = [];

    public function __construct(private readonly Catalog $catalog, int $seed)
    {
        $this->chance = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
        $this->pdo = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $done = $open = [];
        foreach ($catalog->tables as $table) {
            $open[$table->place()->key()] = $table;
        }
        while ([] !== $open) {
            $before = \count($open);
            foreach ($open as $place => $table) {
                $waits = array_filter($table->foreignKeys, static fn (ForeignKey $key): bool => isset($open[$key->references->place()->key()])
                    && $key->references->place()->key() !== $place
                    && !($table->column($key->columns[0])->nullable ?? true));
                if ([] === $waits) {
                    $this->fill($table);
                    unset($open[$place]);
                }
            }
            if (\count($open) === $before) {
                $this->fill(array_shift($open));
            }
        }
        // What leads to a table that was filled later gets its values now.
        foreach ($catalog->tables as $table) {
            $this->mend($table);
        }
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        try {
            $statement = $this->pdo->prepare($sql);
            $statement->execute($parameters);
        } catch (\PDOException $e) {
            throw new SourceError($e->getMessage(), $sql, $e);
        }
        while (\is_array($row = $statement->fetch(\PDO::FETCH_ASSOC))) {
            yield array_map(static fn (mixed $value): ?string => match (true) {
                null === $value => null,
                \is_scalar($value) => (string) $value,
                default => '',
            }, $row);
        }
    }

    private function int(int $from, int $to): int
    {
        return $this->chance->getInt($from, max($from, $to));
    }

    private function fill(Table $table): void
    {
        $quoted = self::quoted(...);
        $primary = $table->primaryKey->columns ?? [];
        $columns = array_map(static fn (Column $column): string => $quoted($column->name).' '.$column->type, $table->columns);
        if ([] !== $primary) {
            $columns[] = 'PRIMARY KEY ('.implode(', ', array_map($quoted, $primary)).')';
        }
        $this->pdo->exec('CREATE TABLE '.$quoted($table->name).' ('.implode(', ', $columns).')');
        $leading = [];
        foreach ($table->foreignKeys as $key) {
            $leading += array_fill_keys($key->columns, true);
        }
        $n = 1 === \count($primary) && !isset($leading[$primary[0]]) ? [12, 40, 90, 160, 400, 900][$this->int(0, 5)] : $this->int(200, 900);
        if (1 === \count($primary) && str_starts_with((string) $table->column($primary[0])?->type, 'varchar')) {
            $n = $this->int(4, 30);
        }
        $start = [1, 1, 1, 100, 1001, 50000][$this->int(0, 5)];
        $ways = [];
        foreach ($table->foreignKeys as $i => $key) {
            $ways[$i] = [
                'empty' => $this->int(0, 2) * 15,
                'spread' => $this->int(0, 2),
                'orphans' => 0 === $this->int(0, 9) ? 3 : 0,
                'part' => $this->int(4, 10) / 10,
            ];
        }
        $kinds = [];
        foreach ($table->columns as $column) {
            $kinds[$column->name] = [5, 30, 100, 400, 3000, 90000][$this->int(0, 5)];
        }
        $this->pdo->beginTransaction();
        for ($row = 0; $row < $n; ++$row) {
            $values = [];
            foreach ($table->columns as $column) {
                if (!isset($leading[$column->name])) {
                    $values[$column->name] = [$column->name] === $primary ? $this->key($column, $start + $row) : $this->plain($column, $kinds[$column->name]);
                }
            }
            foreach ($table->foreignKeys as $i => $key) {
                $drawn = $this->draw($table, $key, $ways[$i]);
                foreach ($key->columns as $k => $column) {
                    $values[$column] = $drawn[$k] ?? $values[$column] ?? null;
                }
            }
            $this->put($table, $primary, $values);
        }
        $this->pdo->commit();
    }

    /**
     * A row, unless its key is empty or there already.
     *
     * @param list<string>                         $primary
     * @param array<string, string|int|float|null> $values
     */
    private function put(Table $table, array $primary, array $values): void
    {
        $key = array_map(static fn (string $column): string|int|float|null => $values[$column] ?? null, $primary);
        $id = $table->place()->key()."\1".implode("\0", array_map(strval(...), $key));
        if (\in_array(null, $key, true) || ([] !== $primary && isset($this->seen[$id]))) {
            return;
        }
        $this->seen[$id] = true;
        if ([] !== $primary) {
            $this->keys[$table->place()->key()][] = array_map(
                static fn (string|int|float|null $one): string|int|null => \is_float($one) ? (int) $one : $one,
                $key,
            );
        }
        $ordered = array_map(static fn (Column $column): string|int|float|null => $values[$column->name] ?? null, $table->columns);
        $places = implode(',', array_fill(0, \count($ordered), '?'));
        $this->pdo->prepare('INSERT INTO '.self::quoted($table->name)." VALUES ($places)")->execute($ordered);
    }

    private static function quoted(string $name): string
    {
        return '"'.str_replace('"', '""', $name).'"';
    }

    private function mend(Table $table): void
    {
        foreach ($table->foreignKeys as $key) {
            $first = '"'.$key->columns[0].'"';
            $has = $this->column("SELECT COUNT($first) FROM \"$table->name\"")[0] ?? 0;
            if ($has > 0 || !($table->column($key->columns[0])->nullable ?? true) || 1 !== \count($key->columns)) {
                continue;
            }
            $way = ['empty' => $this->int(0, 50), 'spread' => 1, 'orphans' => 0, 'part' => 0.9];
            foreach ($this->column("SELECT rowid FROM \"$table->name\"") as $row) {
                $this->pdo->prepare("UPDATE \"$table->name\" SET $first = ? WHERE rowid = ?")->execute([$this->draw($table, $key, $way)[0] ?? null, $row]);
            }
        }
    }

    /** @return list<mixed> */
    private function column(string $sql): array
    {
        $statement = $this->pdo->query($sql);

        return false === $statement ? [] : array_values($statement->fetchAll(\PDO::FETCH_COLUMN));
    }

    private function key(Column $column, int $number): string|int
    {
        return match (true) {
            'char(36)' === $column->type => \sprintf(
                '%08x-%04x-4%03x-8%03x-%012x',
                $number * 2654435761 % 2 ** 32,
                $number % 65536,
                $number * 7 % 4096,
                $number * 13 % 4096,
                $number * 99991,
            ),
            str_starts_with($column->type, 'varchar') => substr(strtoupper(self::WORDS[$number % 20]), 0, 2).base_convert((string) ($number * 37), 10, 36),
            default => $number,
        };
    }

    private function plain(Column $column, int $most): string|int|float|null
    {
        if ($column->nullable && 0 === $this->int(0, 9)) {
            return null;
        }
        $day = gmdate('Y-m-d', 1_600_000_000 + 86400 * $this->int(0, 1500));

        return match (true) {
            'integer' === $column->type, 'bigint' === $column->type => $this->int(0, $most),
            'date' === $column->type => $day,
            'datetime' === $column->type => $day.' '.\sprintf('%02d:%02d:00', $this->int(0, 23), $this->int(0, 59)),
            str_starts_with($column->type, 'decimal') => $this->int(1, 100 * $most) / 100,
            'varchar(8)' === $column->type => strtoupper(substr(self::WORDS[$this->int(0, 19)], 0, 3)),
            'varchar(40)' === $column->type => 0 === $this->int(0, 3) ? self::WORDS[$this->int(0, 19)] : (string) $this->int(1, $most),
            default => self::WORDS[$this->int(0, 19)].' '.self::WORDS[$this->int(0, 19)].($most > 400 ? ' '.$this->int(1, $most) : ''),
        };
    }

    /**
     * @param array{empty: int, spread: int, orphans: int, part: float} $way
     *
     * @return list<string|int|null>
     */
    private function draw(Table $table, ForeignKey $key, array $way): array
    {
        $keys = $this->keys[$key->references->place()->key()] ?? [];
        $nullable = $table->column($key->columns[0])->nullable ?? true;
        if ([] === $keys || $nullable && $this->int(0, 99) < $way['empty']) {
            return array_fill(0, \count($key->columns), null);
        }
        $n = max(1, (int) (\count($keys) * $way['part']));
        $at = match ($way['spread']) {
            0 => $this->int(0, \count($keys) - 1), 1 => $this->int(0, $n - 1), default => (int) floor($n * ($this->int(0, 9999) / 10000) ** 2),
        };
        $target = $keys[$at];
        if ($this->int(0, 99) < $way['orphans'] && \is_int($target[0]) && 1 === \count($target)) {
            return [$target[0] + 90000];
        }
        $order = $this->catalog->table($key->references->schema, $key->references->table)?->primaryKey->columns ?? [];

        return array_map(static fn (string $column): string|int|null => $target[(int) array_search($column, $order, true)] ?? null, $key->references->columns);
    }
}
