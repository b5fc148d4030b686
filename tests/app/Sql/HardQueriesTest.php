<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use Fasti\Tests\Core\Golden\Golden;
use Fasti\Tests\Core\Golden\Recording;
use Fasti\Tests\Core\Sql\Held;
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
        self::record('postgresql', 'hard', $pdo, '', ['truth' => $truth]);
        Engines::drop($target);

        self::assertGreaterThanOrEqual(70, \count($queries));
        self::assertSame([], Held::hard($catalog, array_keys($queries), $truth));
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
        $catalog = new Catalog('postgresql', '', $tables, $routines);
        if (Golden::records()) {
            Golden::of('queries.postgresql')->keep('own', '', [], '', ['catalog' => OpenForm::of($catalog)]);
        }

        self::assertGreaterThan(120, \count((new Readings($catalog))->all()));
        self::assertSame([], Held::own($catalog));
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
        self::record('mariadb', 'hard', $server, 'fasti_queries');
        $server->exec('DROP DATABASE fasti_queries');
        [$faults, $types, $right] = Held::byHand($catalog, $queries, 'fasti_queries');

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
        self::record('sqlite', 'hard', $pdo);
        unlink($target->path);
        [$faults] = Held::byHand($catalog, $queries, 'main');

        self::assertGreaterThanOrEqual(30, \count($queries));
        self::assertSame([], $faults);
    }

    /** @param array<string, mixed> $more */
    public static function record(string $engine, string $case, \PDO $pdo, string $database = '', array $more = []): void
    {
        if (Golden::records()) {
            if ('postgresql' === $engine) {
                $pdo->exec("SET search_path = ''");
            }
            $rows = new Recording(new PlainRows($pdo), 'mariadb' === $engine ? [$database] : []);
            Dialects::of($engine)->reader($rows, $database)?->read(new Choice(), new SilentProgress());
            $written = (string) file_get_contents(self::FOLDER."$engine.sql").file_get_contents(self::FOLDER."$engine.schema.sql");
            Golden::of("queries.$engine")->keep($case, md5($written), $rows->answers, '', $more);
        }
    }

    public static function tearDownAfterClass(): void
    {
        parent::tearDownAfterClass();
        foreach (Golden::records() ? ['mariadb', 'postgresql', 'sqlite'] : [] as $engine) {
            Golden::of("queries.$engine")->save();
        }
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
