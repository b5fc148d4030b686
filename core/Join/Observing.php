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
 * other end, and counted by their size. One question a join, so that all its figures are of one moment.
 */
final class Observing
{
    private const DENSEST = 3;
    private const EXAMPLES = 5;
    private const BARS = 12;

    private readonly ProfileSql $sql;

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
        $rows = $empty = $orphans = $missing = $repeated = 0;
        $parents = null;
        foreach ($this->source->rows($this->groups($from, $to, $pairs, $where, $unique)) as $row) {
            $n = (int) $row['n'];
            $m = (int) $row['m'];
            $rows += $n * $m;
            $parents = (int) $row['p'];
            $repeated = $parents - (int) $row['d'];
            $least = implode(', ', array_map(static fn (int $i): string => (string) $row["l$i"], array_keys($pairs)));
            if ('1' === $row['e']) {
                $empty += $n * $m;
            } elseif ('1' === $row['f']) {
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
        // Where there is no row at this end, nothing came of the other either.
        $parents ??= $this->number('SELECT COUNT(*) AS n FROM '.$this->sql->from($to));
        ksort($sizes);
        $used = array_sum($sizes);

        return new JoinFigures(
            $rows,
            $empty,
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
     * How many values have how many rows each: n rows, e nothing referred to, f found, m times, and the least and greatest of them; beside each row of
     * the answer the other end, p rows of d different keys. One statement, so that both ends are of one moment.
     *
     * @param non-empty-list<array{string, string}> $pairs
     * @param array{string, string}|null            $where
     */
    private function groups(Table $from, Table $to, array $pairs, ?array $where, bool $unique): string
    {
        $loose = $this->loose($from, $to, $pairs);
        $select = $on = $keys = $empty = $values = [];
        foreach ($pairs as $i => [$near, $far]) {
            $of = $from->column($near) ?? new Column($near, '');
            $other = $to->column($far) ?? new Column($far, '');
            $name = $this->sql->quoted($near);
            $key = $this->sql->quoted($far);
            $select["v$i"] = $loose ? $this->sql->key($of, $name) : $name;
            $keys["w$i"] = $loose ? $this->sql->key($other, $key) : $key;
            if (!$loose && $of->collation !== $other->collation && $this->sql->takesAlike($of)) {
                // What one end takes for the same may be told apart by the other.
                $select["x$i"] = $this->sql->apart($of, $name);
            }
            $on[] = "k.w$i = c.v$i";
            $empty[] = "c.v$i IS NULL";
            $shown = $loose || $this->isOrdered($of) ? "c.v$i" : $this->sql->key($of, "c.v$i");
            $values[] = "MIN($shown) AS l$i, MAX($shown) AS g$i";
        }
        $rows = $this->sql->from($to);
        $far = self::named($keys);
        $by = implode(', ', range(1, \count($keys)));
        // A key that is unique adds no rows to a group; any other end is grouped first.
        [$other, $all] = $unique && !$loose
            ? ["(SELECT $far FROM $rows)", "(SELECT COUNT(*) AS p, COUNT(*) AS d FROM $rows)"]
            : ["(SELECT DISTINCT $far FROM $rows)",
                "(SELECT SUM(o.n) AS p, COUNT(*) AS d FROM (SELECT $far, COUNT(*) AS n FROM $rows GROUP BY $by) o)"];
        $only = null === $where ? '' : ' WHERE '.$this->sql->is($where[0], $where[1]);

        return 'SELECT c.n AS n, CASE WHEN '.implode(' OR ', $empty).' THEN 1 ELSE 0 END AS e, CASE WHEN k.w0 IS NULL THEN 0 ELSE 1 END AS f,
                COUNT(*) AS m, '.implode(', ', $values).', MAX(t.p) AS p, MAX(t.d) AS d
            FROM (SELECT '.self::named($select).", COUNT(*) AS n FROM {$this->sql->from($from)}$only GROUP BY ".implode(', ', range(1, \count($select))).") c
            CROSS JOIN $all t LEFT JOIN $other k ON ".implode(' AND ', $on).' GROUP BY 1, 2, 3 ORDER BY 1 DESC';
    }

    /** @param array<string, string> $expressions by the name that each is given */
    private static function named(array $expressions): string
    {
        return implode(', ', array_map(static fn (string $as, string $of): string => "$of AS $as", array_keys($expressions), $expressions));
    }

    /** Whether the engine knows the least and the greatest of its values, which are texts as they stand. */
    private function isOrdered(Column $column): bool
    {
        return \in_array($this->dialect->typeOf($column)->family, [TypeFamily::Whole, TypeFamily::Number, TypeFamily::Text, TypeFamily::Time], true);
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
