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

/**
 * Counts the rows at each end of a join: the referring rows are grouped by what they refer to, the groups held against the
 * other end, and counted by their size. One question a join, besides the number of rows of each table.
 */
final class Observing
{
    private const DENSEST = 3;
    private const EXAMPLES = 5;
    private const BARS = 12;

    private readonly ProfileSql $sql;
    /** @var array<string, int> */
    private array $counts = [];

    public function __construct(private readonly Rows $source, private readonly Dialect $dialect)
    {
        $this->sql = $dialect->profiling() ?? throw new \LogicException(\sprintf('%s cannot be asked about its data.', $dialect->label()));
    }

    /**
     * @param non-empty-list<array{string, string}> $pairs
     * @param array{string, string}|null            $where  only rows of `$from` with this value
     * @param bool                                  $masked values may not be kept
     *
     * @throws SourceError
     */
    public function of(Table $from, Table $to, array $pairs, ?array $where = null, bool $masked = false): JoinFigures
    {
        $unique = $this->isUnique($to, array_column($pairs, 1));
        $sizes = $densest = $examples = [];
        $referring = $orphans = $missing = 0;
        foreach ($this->source->rows($this->groups($from, $to, $pairs, $where, $unique)) as $row) {
            $n = (int) $row['n'];
            $m = (int) $row['m'];
            $referring += $n * $m;
            $least = implode(', ', array_map(static fn (int $i): string => (string) $row["l$i"], array_keys($pairs)));
            if ('1' === $row['f']) {
                $sizes[$n] = ($sizes[$n] ?? 0) + $m;
                if (\count($densest) < self::DENSEST) {
                    $densest[] = ['value' => $masked ? '' : $least, 'rows' => $n];
                }
            } else {
                $orphans += $n * $m;
                $missing += $m;
                if (!$masked && \count($examples) < self::EXAMPLES) {
                    $examples[] = $least;
                    $greatest = implode(', ', array_map(static fn (int $i): string => (string) $row["g$i"], array_keys($pairs)));
                    if ($greatest !== $least) {
                        $examples[] = $greatest;
                    }
                }
            }
        }
        $rows = null === $where ? $this->count($from)
            : $this->number('SELECT COUNT(*) AS n FROM '.$this->sql->from($from).' WHERE '.$this->sql->is($where[0], $where[1]));
        $parents = $this->count($to);
        $repeated = $unique ? 0 : $this->repeated($to, $pairs);
        ksort($sizes);
        $used = array_sum($sizes);

        return new JoinFigures(
            $rows,
            max(0, $rows - $referring),
            $orphans,
            $missing,
            \array_slice($examples, 0, self::EXAMPLES),
            $parents - $repeated,
            $used,
            self::at($sizes, $used, 0.5),
            self::at($sizes, $used, 0.95),
            self::at($sizes, $used, 0.99),
            [] === $sizes ? 0 : max(array_keys($sizes)),
            self::spread($sizes),
            $densest,
            $repeated,
        );
    }

    /**
     * How many values have how many rows each, with and without a key: n rows, f found, m times, and the least and greatest of them.
     *
     * @param non-empty-list<array{string, string}> $pairs
     * @param array{string, string}|null            $where
     */
    private function groups(Table $from, Table $to, array $pairs, ?array $where, bool $unique): string
    {
        $loose = $this->loose($from, $to, $pairs);
        $select = $on = $filled = [];
        foreach ($pairs as $i => [$near, $far]) {
            $name = $this->sql->quoted($near);
            $key = 'k.'.$this->sql->quoted($far);
            if ($loose) {
                $name = $this->sql->key($from->column($near) ?? new Column($near, ''), $name);
                $key = $this->sql->key($to->column($far) ?? new Column($far, ''), $key);
            }
            $select[] = "$name AS v$i";
            $on[] = "$key = c.v$i";
            $filled[] = $this->sql->quoted($near).' IS NOT NULL';
        }
        if (null !== $where) {
            $filled[] = $this->sql->is($where[0], $where[1]);
        }
        $first = $this->sql->quoted($pairs[0][1]);
        $keys = implode(', ', array_map(fn (array $pair): string => $this->sql->quoted($pair[1]), $pairs));
        // A key that is unique adds no rows to a group; any other end is made so first.
        $other = $unique && !$loose ? $this->sql->from($to).' k' : "(SELECT DISTINCT $keys FROM ".$this->sql->from($to).') k';
        $values = implode(', ', array_map(static fn (int $i): string => "MIN(c.v$i) AS l$i, MAX(c.v$i) AS g$i", array_keys($pairs)));
        $groupBy = implode(', ', range(1, \count($pairs)));

        return "SELECT c.n AS n, CASE WHEN k.$first IS NULL THEN 0 ELSE 1 END AS f, COUNT(*) AS m, $values
            FROM (SELECT ".implode(', ', $select).', COUNT(*) AS n FROM '.$this->sql->from($from).' WHERE '.implode(' AND ', $filled)." GROUP BY $groupBy) c
            LEFT JOIN $other ON ".implode(' AND ', $on).' GROUP BY 1, 2 ORDER BY 1 DESC';
    }

    /** @param list<array{string, string}> $pairs */
    private function loose(Table $from, Table $to, array $pairs): bool
    {
        foreach ($pairs as [$near, $far]) {
            $a = TypeFit::family($this->dialect->typeOf($from->column($near) ?? new Column($near, '')));
            $b = TypeFit::family($this->dialect->typeOf($to->column($far) ?? new Column($far, '')));
            if ($a !== $b && (TypeFamily::Text === $a || TypeFamily::Text === $b || TypeFamily::Other === $a || TypeFamily::Other === $b)) {
                return true;
            }
        }

        return false;
    }

    /** @param list<string> $columns */
    private function isUnique(Table $table, array $columns): bool
    {
        foreach (JoinKey::of($table) as $key) {
            if (JoinKey::LIKELY !== $key->standing && [] === array_diff($key->columns, $columns)) {
                return true;
            }
        }

        return false;
    }

    /** @param list<array{string, string}> $pairs */
    private function repeated(Table $to, array $pairs): int
    {
        $columns = implode(', ', array_map(fn (array $pair): string => $this->sql->quoted($pair[1]), $pairs));

        return $this->number(
            "SELECT COALESCE(SUM(n - 1), 0) AS n FROM (SELECT COUNT(*) AS n FROM {$this->sql->from($to)}
                GROUP BY $columns HAVING COUNT(*) > 1) g",
        );
    }

    private function count(Table $table): int
    {
        return $this->counts[$table->place()->key()] ??= $this->number('SELECT COUNT(*) AS n FROM '.$this->sql->from($table));
    }

    private function number(string $sql): int
    {
        foreach ($this->source->rows($sql) as $row) {
            return (int) $row['n'];
        }

        return 0;
    }

    /** @param array<int, int> $sizes in order: rows of a parent → parents */
    private static function at(array $sizes, int $all, float $share): int
    {
        $seen = 0;
        foreach ($sizes as $size => $count) {
            $seen += $count;
            if ($seen >= $share * $all) {
                return $size;
            }
        }

        return 0;
    }

    /**
     * @param array<int, int> $sizes in order
     *
     * @return list<array{from: int, to: int, count: int}>
     */
    private static function spread(array $sizes): array
    {
        if ([] === $sizes) {
            return [];
        }
        $keys = array_keys($sizes);
        $least = min($keys);
        $most = max($keys);
        $width = (int) max(1, ceil(($most - $least + 1) / self::BARS));
        $bars = [];
        for ($from = $least; $from <= $most; $from += $width) {
            $bars[] = ['from' => $from, 'to' => min($most, $from + $width - 1), 'count' => 0];
        }
        foreach ($bars as $i => $bar) {
            foreach ($sizes as $size => $count) {
                $bars[$i]['count'] += $size >= $bar['from'] && $size <= $bar['to'] ? $count : 0;
            }
        }

        return $bars;
    }
}
