<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Bench\Session;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;

/** PostgreSQL's own catalog, copied into plain tables with its keys; the server itself says which joins are right. */
final class PostgreSqlCatalog
{
    private const DATABASE = 'fasti_bench_catalog';
    /** Types of which no plain table can be. */
    private const CLOSED = ['anyarray', 'pg_node_tree', 'pg_ndistinct', 'pg_dependencies', 'pg_mcv_list', 'aclitem[]', 'pg_statistic[]'];

    /** @return array{Known, Rows} */
    public static function copied(): array
    {
        $port = (int) trim((string) file_get_contents(__DIR__.'/../../var/run/postgres.port'));
        $server = self::session($port, 'postgres');
        $server->exec('DROP DATABASE IF EXISTS '.self::DATABASE);
        $server->exec('CREATE DATABASE '.self::DATABASE);
        $copy = self::session($port, self::DATABASE);
        $copy->exec('CREATE SCHEMA copy');
        foreach (self::all($copy, "SELECT relname, oid FROM pg_class WHERE relkind = 'r' AND relnamespace = 'pg_catalog'::regnamespace ORDER BY 1") as $table) {
            $columns = array_filter(
                self::all(
                    $copy,
                    "SELECT attname, format_type(atttypid, atttypmod) AS type FROM pg_attribute WHERE attrelid = {$table['oid']}
                    AND attnum > 0 AND NOT attisdropped",
                ),
                static fn (array $column): bool => !\in_array($column['type'], self::CLOSED, true),
            );
            $copy->exec("CREATE TABLE copy.{$table['relname']} AS SELECT ".implode(
                ', ',
                array_column($columns, 'attname'),
            )." FROM pg_catalog.{$table['relname']}");
            $keys = "SELECT pg_get_constraintdef(oid) AS def FROM pg_constraint WHERE conrelid = {$table['oid']} AND contype IN ('p', 'u') ORDER BY contype";
            foreach (self::all($copy, $keys) as $key) {
                $copy->exec("ALTER TABLE copy.{$table['relname']} ADD {$key['def']}");
            }
        }
        $rows = Session::$sources->rows(
            new Target('postgresql', '127.0.0.1', $port, self::DATABASE, 'fasti'),
            60,
        ) ?? throw new \LogicException('It has a session.');
        $reader = Dialects::of('postgresql')->reader($rows, self::DATABASE) ?? throw new \LogicException('It is read.');
        $read = $reader->read(new Choice(), new SilentProgress());
        $catalog = $read->with(tables: array_values(array_filter($read->tables, static fn ($table): bool => 'copy' === $table->schema)));

        return [new Known('catalog', $catalog, self::truth($copy, $catalog)), $rows];
    }

    /** @return array<string, true> */
    private static function truth(\PDO $copy, Catalog $catalog): array
    {
        $truth = [];
        foreach (self::all(
            $copy,
            'SELECT fktable, array_to_string(fkcols, \',\') AS near, pktable, array_to_string(pkcols, \',\') AS far FROM pg_get_catalog_foreign_keys()',
        ) as $key) {
            $table = $catalog->table('copy', $key['fktable']);
            $near = explode(',', $key['near']);
            if (null !== $table && [] === array_filter($near, static fn (string $column): bool => null === $table->column($column))) {
                $truth[Fit::join("copy\0{$key['fktable']}", $near, "copy\0{$key['pktable']}", explode(',', $key['far']))] = true;
            }
        }

        return $truth;
    }

    private static function session(int $port, string $database): \PDO
    {
        return new \PDO("pgsql:host=127.0.0.1;port=$port;dbname=$database;user=fasti", options: [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
    }

    /** @return list<array<string, string>> */
    private static function all(\PDO $session, string $sql): array
    {
        $statement = $session->query($sql);
        $rows = [];
        foreach (false === $statement ? [] : $statement->fetchAll(\PDO::FETCH_ASSOC) as $row) {
            $rows[] = array_map(
                static fn (mixed $value): string => \is_scalar($value) ? (string) $value : '',
                \is_array($row) ? array_combine(array_map(strval(...), array_keys($row)), $row) : [],
            );
        }

        return $rows;
    }
}
