<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\Core\Sql\Queries;

/**
 * The hard views of tests/queries, made on real servers: what is read of them, as they are written and as the server gives
 * them back, against what the server knows, or against what was written down by hand.
 */
final class HardQueriesTest extends AppTestCase
{
    private const FOLDER = __DIR__.'/../../queries/';

    public function testPostgreSqlAgreesOnEveryFieldNameAndType(): void
    {
        $target = Engines::made(self::FOLDER.'postgresql.schema.sql');
        $pdo = Engines::pdo($target);
        $pdo->exec('CREATE SCHEMA v');
        $queries = Queries::hard('postgresql');
        foreach (array_values($queries) as $i => [$sql]) {
            $pdo->exec("SET search_path = river, public; CREATE VIEW v.q$i AS $sql");
        }
        $catalog = self::survey($target);
        $truth = self::dependences($pdo);
        $faults = [];
        foreach (array_keys($queries) as $i => $title) {
            $view = $catalog->table('v', "q$i");
            self::assertNotNull($view);
            // What a composite type is made of is not in the catalog.
            $columns = 'members of a composite value' === $title ? [] : $view->columns;
            foreach (self::both($catalog, "q$i", $queries[$title][0], 'v', 'river') as $which => $reading) {
                array_push($faults, ...self::compared("$title, $which", $reading, $truth["q$i"] ?? [], $columns));
            }
        }
        Engines::drop($target);

        self::assertGreaterThanOrEqual(70, \count($queries));
        self::assertSame([], $faults);
    }

    /** Nobody made these for a test: some of them have a hundred lines. */
    public function testThePostgreSqlServersOwnViewsHaveTheirNamesAndTypes(): void
    {
        $pdo = Engines::pdo(Engines::postgreSql());
        $pdo->exec("SET search_path = ''");
        $rows = new PlainRows($pdo);
        $columns = $tables = $routines = [];
        foreach ($rows->rows("SELECT n.nspname AS s, c.relname AS t, a.attname AS n, pg_catalog.format_type(a.atttypid, a.atttypmod) AS type,
                CASE WHEN y.typtype = 'd' THEN pg_catalog.format_type(y.typbasetype, y.typtypmod) END AS base
            FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_class c ON c.oid = a.attrelid JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
                JOIN pg_catalog.pg_type y ON y.oid = a.atttypid
            WHERE a.attnum > 0 AND NOT a.attisdropped AND n.nspname IN ('pg_catalog', 'information_schema') ORDER BY a.attrelid, a.attnum") as $row) {
            $columns[$row['s'].'.'.$row['t']][] = new Column((string) $row['n'], (string) $row['type'], base: $row['base']);
        }
        foreach ($rows->rows("SELECT n.nspname AS s, c.relname AS t, CASE WHEN c.relkind = 'v' THEN pg_catalog.pg_get_viewdef(c.oid) END AS d
            FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            WHERE n.nspname IN ('pg_catalog', 'information_schema') AND c.relkind IN ('r', 'v')") as $row) {
            $kind = null === $row['d'] ? TableType::Table : TableType::View;
            $tables[] = new Table((string) $row['s'], (string) $row['t'], $kind, '', $columns[$row['s'].'.'.$row['t']] ?? [], definition: $row['d']);
        }
        foreach ($rows->rows("SELECT p.proname AS n, pg_catalog.pg_get_function_result(p.oid) AS r FROM pg_catalog.pg_proc p
            JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace WHERE n.nspname = 'information_schema'") as $row) {
            $routines[] = new Routine('information_schema', (string) $row['n'], 'function', $row['r'], null);
        }
        $faults = [];
        $all = (new Readings(new Catalog('postgresql', '', $tables, $routines)))->all();
        foreach ($tables as $view) {
            if ($view->kind->isView()) {
                $reading = $all[$view->place()->key()];
                $names = array_map(static fn (FieldPlace $field): string => "$field->schema.$field->table.$field->column", $reading->references);
                array_push($faults, ...self::compared((string) $view->place(), $reading, $names, $view->columns));
            }
        }

        self::assertGreaterThan(120, \count($all));
        self::assertSame([], $faults);
    }

    public function testMariaDbAgreesOnEveryFieldAndName(): void
    {
        $server = OddSchema::server();
        $server->exec('DROP DATABASE IF EXISTS fasti_queries');
        $server->exec('CREATE DATABASE fasti_queries');
        $server->exec('USE fasti_queries');
        foreach (preg_split(
            '/;\n/',
            (string) preg_replace('/^--.*\n/m', '', (string) file_get_contents(self::FOLDER.'mariadb.schema.sql')),
        ) ?: [] as $statement) {
            if ('' !== trim($statement)) {
                $server->exec($statement);
            }
        }
        $queries = Queries::hard('mariadb');
        foreach (array_values($queries) as $i => [$sql]) {
            $server->exec("CREATE VIEW q$i AS $sql");
        }
        $rows = new PlainRows($server);
        $reader = Dialects::named('mariadb')?->reader($rows, 'fasti_queries');
        self::assertNotNull($reader);
        $catalog = $reader->read(new Choice(), new SilentProgress());
        $server->exec('DROP DATABASE fasti_queries');
        [$faults, $types, $right] = self::byHand($catalog, $queries, 'fasti_queries');

        self::assertGreaterThanOrEqual(45, \count($queries));
        self::assertSame([], $faults);
        // Lengths of texts follow many rules; nine types in ten are those of the server to the last figure.
        self::assertGreaterThan(0.9, $right / $types);
    }

    public function testSqliteAgreesOnEveryFieldAndName(): void
    {
        $target = Engines::sqlite(self::FOLDER.'sqlite.schema.sql');
        $pdo = new \PDO('sqlite:'.$target->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $queries = Queries::hard('sqlite');
        foreach (array_values($queries) as $i => [$sql]) {
            $pdo->exec("CREATE VIEW q$i AS $sql");
            $pdo->query("SELECT * FROM q$i");
        }
        $catalog = self::survey($target);
        unlink($target->path);
        [$faults] = self::byHand($catalog, $queries, 'main');

        self::assertGreaterThanOrEqual(30, \count($queries));
        self::assertSame([], $faults);
    }

    /**
     * @param array<string, array{string, list<string>}> $queries
     *
     * @return array{list<string>, int, int} what differs, how many types there are, and how many of them are right
     */
    private static function byHand(Catalog $catalog, array $queries, string $schema): array
    {
        $faults = [];
        $types = $right = 0;
        foreach (array_keys($queries) as $i => $title) {
            $view = $catalog->table($schema, "q$i");
            self::assertNotNull($view);
            foreach (self::both($catalog, "q$i", $queries[$title][0], $schema, $schema) as $which => $reading) {
                array_push(
                    $faults,
                    ...self::compared("$title, $which", $reading, array_map(static fn (string $name): string => "$schema.$name", $queries[$title][1]), null),
                );
                $names = array_map(static fn (ReadField $field): string => $field->name, $reading->fields);
                if ($names !== array_map(static fn (Column $column): string => $column->name, $view->columns)) {
                    $faults[] = "$title, $which: names ".implode(', ', $names);
                }
                foreach ($view->columns as $k => $column) {
                    ++$types;
                    $right += (int) (($reading->fields[$k]->type ?? null) === $column->type || str_contains($column->type, '/*'));
                }
            }
        }

        return [$faults, $types, $right];
    }

    /** @return array{'as the server has it': Reading, 'as it is written': Reading} */
    private static function both(Catalog $catalog, string $view, string $sql, string $of, string $schema): array
    {
        $readings = new Readings($catalog);
        $table = $catalog->table($of, $view);
        self::assertNotNull($table);

        return ['as the server has it' => $readings->of($table), 'as it is written' => $readings->query($sql, $schema)];
    }

    /**
     * @param list<string>      $references that there must be
     * @param list<Column>|null $columns    whose names and types there must be; null where that is held otherwise
     *
     * @return list<string> what differs
     */
    public static function compared(string $title, Reading $reading, array $references, ?array $columns): array
    {
        $faults = array_map(static fn (string $unknown): string => "$title: $unknown", Queries::unknown($reading));
        $found = array_map(static fn (FieldPlace $field): string => "$field->schema.$field->table.$field->column", $reading->references);
        foreach (array_diff($references, $found) as $missing) {
            $faults[] = "$title: $missing is missing";
        }
        foreach (array_diff($found, $references) as $more) {
            $faults[] = "$title: $more is too much";
        }
        foreach ($columns ?? [] as $i => $column) {
            $field = $reading->fields[$i] ?? null;
            if (null === $field || $field->name !== $column->name || $field->type !== $column->type) {
                $faults[] = \sprintf('%s: %s %s, but %s %s', $title, $column->name, $column->type, $field->name ?? 'nothing', $field->type ?? '');
            }
        }

        return $faults;
    }

    public static function survey(Target $target): Catalog
    {
        return self::get(Sources::class)->reader($target)->read(new Choice(), new SilentProgress());
    }

    /** @return array<string, list<string>> name of a view → fields that it depends on, as the server keeps it */
    public static function dependences(\PDO $pdo): array
    {
        $rows = $pdo->query("SELECT v.relname AS v, n.nspname || '.' || c.relname || '.' || a.attname AS f
            FROM pg_depend d JOIN pg_rewrite r ON r.oid = d.objid AND d.classid = 'pg_rewrite'::regclass JOIN pg_class v ON v.oid = r.ev_class
            JOIN pg_class c ON c.oid = d.refobjid AND d.refclassid = 'pg_class'::regclass JOIN pg_namespace n ON n.oid = c.relnamespace
            JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = d.refobjsubid
            WHERE d.refobjsubid > 0 AND v.oid <> c.oid AND c.relkind IN ('r', 'v', 'm', 'p', 'f')");
        $found = [];
        foreach (false === $rows ? [] : $rows as $row) {
            if (\is_array($row) && \is_string($row['v']) && \is_string($row['f'])) {
                $found[$row['v']][] = $row['f'];
            }
        }

        return $found;
    }
}
