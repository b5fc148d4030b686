<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Lineage\Graph;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Readings;

/** Measures reading queries and following lineage. */
final readonly class QueryBench
{
    /**
     * @param \Closure(string, string, string, float, float): void $say
     * @param \Closure(string): float                              $inOwnProcess peak memory of a job, in MiB
     */
    public function __construct(private \Closure $say, private \Closure $inOwnProcess)
    {
    }

    public function queries(): void
    {
        $catalog = self::views();
        $floor = self::seconds(static function () use ($catalog): void {
            $dialect = Dialects::ofCatalog($catalog)->grammar() ?? new Grammar();
            foreach ($catalog->tables as $table) {
                if (null !== $table->definition) {
                    new Lexer($table->definition, $dialect);
                }
            }
        });
        $time = self::seconds(static fn (): array => (new Readings($catalog))->all());
        ($this->say)('reading 1,000 views of 40 fields, s', \sprintf('%.2f s', $time), \sprintf('%.2f s', $floor), $time, 3);
        $peak = ($this->inOwnProcess)('read-views');
        ($this->say)('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 256);

        $chain = self::chain();
        $reached = 0;
        $time = self::seconds(static function () use ($chain, &$reached): void {
            $reached = \count(Graph::of($chain)->reach(["s\0v199\0f24"], false));
        });
        ($this->say)('lineage of 200 views in a chain, s', \sprintf('%.2f s', $time), $reached.' found', $time, 1);

        $slowest = 0.0;
        $lexed = 0.0;
        foreach (self::long() as $sql) {
            foreach (['postgresql', 'mariadb', 'sqlite'] as $engine) {
                $readings = new Readings(new Catalog($engine, '', \array_slice($catalog->tables, 0, 1)));
                $slowest = max($slowest, self::seconds(static fn () => $readings->query($sql, 's')));
                $dialect = Dialects::named($engine)?->grammar() ?? new Grammar();
                $lexed = max($lexed, self::seconds(static fn () => new Lexer($sql, $dialect)));
            }
        }
        ($this->say)('the slowest of 24 queries of 1 MB, s', \sprintf('%.2f s', $slowest), \sprintf('%.2f s', $lexed), $slowest, 2);
    }

    public static function job(): void
    {
        (new Readings(self::views()))->all();
    }

    private static function seconds(callable $work): float
    {
        $start = hrtime(true);
        $work();

        return (hrtime(true) - $start) / 1e9;
    }

    /** A hundred tables and a thousand views over them, a third of them over other views. */
    private static function views(): Catalog
    {
        $tables = $fields = [];
        for ($j = 0; $j < 40; ++$j) {
            $fields[] = new Column("f$j", 0 === $j % 3 ? 'character varying(20)' : 'integer');
        }
        for ($i = 0; $i < 100; ++$i) {
            $tables[] = new Table('s', "t$i", TableType::Table, '', $fields);
        }
        for ($v = 0; $v < 1000; ++$v) {
            $from = $v > 100 && 0 === $v % 3 ? 'v'.($v - 50) : 't'.($v % 100);
            $list = [];
            for ($j = 0; $j < 40; ++$j) {
                $list[] = [
                    "a.f$j AS f$j", "length(b.f0) + a.f1 AS f$j", "COALESCE(a.f$j, b.f$j) AS f$j", "CASE WHEN a.f1 > 3 THEN b.f$j ELSE a.f$j END AS f$j",
                    "sum(a.f2) OVER (PARTITION BY b.f0 ORDER BY a.f1) AS f$j",
                ][$j % 5];
            }
            $sql = 'SELECT '.implode(', ', $list)." FROM s.$from a LEFT JOIN s.t".($v * 7 % 100).' b ON b.f1 = a.f1 AND b.f2 > 3 WHERE a.f4 IS NOT NULL';
            $tables[] = new Table('s', "v$v", TableType::View, '', $fields, definition: $sql);
        }

        return new Catalog('postgresql', '', $tables);
    }

    private static function chain(): Catalog
    {
        $fields = array_map(static fn (int $j): Column => new Column("f$j", 'integer'), range(0, 24));
        $tables = [new Table('s', 'base', TableType::Table, '', $fields)];
        for ($v = 0; $v < 200; ++$v) {
            $list = implode(', ', array_map(static fn (int $j): string => \sprintf('a.f%d + a.f%d AS f%d', $j, ($j + 1) % 25, $j), range(0, 24)));
            $from = 0 === $v ? 'base' : 'v'.($v - 1);
            $tables[] = new Table('s', "v$v", TableType::View, '', $fields, definition: "SELECT $list FROM s.$from a");
        }

        return new Catalog('postgresql', '', $tables);
    }

    /** @return list<string> of about 1 MB each */
    private static function long(): array
    {
        return [
            'SELECT f1 FROM t0 WHERE '.implode(' AND ', array_fill(0, 50000, 'f1 > f2 AND f4=1')),
            'SELECT f1 FROM t0 WHERE f1 IN ('.implode(',', range(1, 150000)).')',
            'SELECT '.implode(', ', array_map(static fn (int $i): string => "f1 + $i AS g$i", range(1, 50000))).' FROM t0',
            implode(' UNION ALL ', array_fill(0, 9000, 'SELECT f1, f2, f4, f5, f7, f8, f10, f11, f13, f14, f16, f17, f19, f20, f22, f23, f25, f26 FROM t0')),
            'SELECT '.implode(' + ', array_fill(0, 200000, 'f1')).' FROM t0',
            'SELECT '.str_repeat('(', 1000000),
            str_repeat("SELECT ' ", 110000),
            'SELECT f1 FROM t0 WHERE '.implode(' OR ', array_map(static fn (int $i): string => "(f1 = $i AND f2 = 1)", range(1, 40000))),
        ];
    }
}
