<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Fasti\Core\Design\Outline;
use Fasti\Core\Design\Physical;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Stopped;
use Fasti\Design\DesignJob;
use Fasti\Design\Designs;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Design\Trying;
use Fasti\Tests\App\AppTestCase;
use Fasti\Work\CurrentJob;
use Fasti\Work\Jobs;
use Fasti\Work\OneAtATime;
use Fasti\Work\Running;
use Fasti\Work\State;
use Fasti\Work\WorkerProcess;
use PHPUnit\Framework\Attributes\DataProvider;

/** Whoever writes a script that is tried out reaches nothing with it. */
final class ScratchTest extends AppTestCase
{
    /** @param list<string> $statements each of which is refused */
    #[DataProvider('attacks')]
    public function testNoStatementReachesBeyondItsOwnDatabase(string $engine, array $statements): void
    {
        $server = self::get(ScratchServers::class)->of($engine) ?? throw new \LogicException();
        $through = $server->with(static function (Scratch $scratch) use ($statements): array {
            $through = [];
            foreach ($statements as $sql) {
                try {
                    foreach ($scratch->rows()->rows($sql) as $row) {
                        if (null !== current($row)) {
                            $through[] = $sql;
                        }
                    }
                    if (1 !== preg_match('/^\s*SELECT/i', $sql)) {
                        $through[] = $sql;
                    }
                } catch (SourceError $e) {
                    self::assertNotSame(SourceError::LOST, $e->what, "$sql: ".$e->getMessage());
                }
            }

            return $through;
        });

        self::assertSame([], $through);
    }

    /** @return iterable<string, array{string, list<string>}> */
    public static function attacks(): iterable
    {
        yield 'MariaDB' => ['mariadb', [
            "SELECT 'x' INTO DUMPFILE '/work/page.php'", "SELECT 'x' INTO OUTFILE '/nothing/x'", "SELECT LOAD_FILE('/etc/passwd')", 'SHUTDOWN',
            'SET GLOBAL general_log = 1',
            "SET GLOBAL general_log_file = '/work/x.php'", "INSTALL SONAME 'ha_federatedx'", "INSTALL PLUGIN x SONAME 'auth_ed25519.so'",
            "CREATE FUNCTION sys_exec RETURNS int SONAME 'udf.so'",
            "LOAD DATA INFILE '/etc/passwd' INTO TABLE t", "CREATE USER evil@localhost IDENTIFIED BY 'x'", 'GRANT ALL ON *.* TO scratch@localhost',
            'SELECT User FROM mysql.user', 'CREATE DATABASE other',
            "SET PASSWORD FOR root@localhost = PASSWORD('x')", "UPDATE mysql.user SET Super_priv = 'Y'", 'CREATE SERVER s FOREIGN DATA WRAPPER mysql '
                ."OPTIONS (HOST '127.0.0.1')",
            'CREATE DEFINER = root@localhost PROCEDURE p() SELECT 1', 'FLUSH PRIVILEGES', 'SET GLOBAL event_scheduler = ON', 'CREATE TABLE t (a INT) '
                ."ENGINE = CONNECT TABLE_TYPE = DOS FILE_NAME = '/etc/passwd'",
            "CHANGE MASTER TO MASTER_HOST = '127.0.0.1'", 'KILL 1',
        ]];
        yield 'PostgreSQL' => ['postgresql', [
            "COPY (SELECT 1) TO PROGRAM 'touch /work/x'", "COPY (SELECT 1) TO '/work/x'", "SELECT pg_read_file('/etc/passwd')", "SELECT pg_ls_dir('/')",
            "SELECT lo_import('/etc/passwd')",
            'CREATE EXTENSION dblink', 'CREATE EXTENSION postgres_fdw', 'CREATE EXTENSION file_fdw', 'CREATE EXTENSION adminpack', 'CREATE EXTENSION plperl',
            'CREATE EXTENSION pg_stat_statements',
            "ALTER SYSTEM SET archive_command = 'x'", 'SET ROLE fasti', 'SET SESSION AUTHORIZATION fasti', 'CREATE ROLE evil SUPERUSER',
            'ALTER ROLE scratch SUPERUSER', 'SET session_replication_role = replica',
            'CREATE DATABASE other', "CREATE FUNCTION f() RETURNS int LANGUAGE c AS '/lib/x86_64-linux-gnu/libc.so.6', "
                ."'system'", 'SELECT rolpassword FROM pg_authid', "CREATE TABLESPACE t LOCATION '/work'",
            "LOAD 'plperl'", 'SELECT pg_reload_conf()', "CREATE SUBSCRIPTION s CONNECTION 'host=127.0.0.1' "
                .'PUBLICATION p', 'CREATE TABLE pg_catalog.x (a int)', 'SELECT pg_logdir_ls()',
        ]];
        yield 'SQLite' => ['sqlite', [
            "ATTACH '/work/other' AS other", "ATTACH '/etc/passwd' AS p", "ATTACH ':memory:' AS m", "VACUUM INTO '/work/copy'",
            "SELECT load_extension('/work/x.so')", "SELECT readfile('/etc/passwd')",
            "SELECT writefile('/work/x', 'y')", "SELECT edit('x', 'sh')", 'PRAGMA writable_schema = 1', "PRAGMA temp_store_directory = '/'",
            "SELECT fts3_tokenizer('simple')", 'PRAGMA trusted_schema = 1',
        ]];
    }

    #[DataProvider('attacks')]
    public function testWhatIsNeededStillRuns(string $engine): void
    {
        $server = self::get(ScratchServers::class)->of($engine) ?? throw new \LogicException();
        $rows = $server->with(static function (Scratch $scratch) use ($engine): array {
            $scratch->exec('CREATE TABLE part (a INTEGER NOT NULL PRIMARY KEY)');
            $scratch->exec('CREATE TABLE uses (a INTEGER, FOREIGN KEY (a) REFERENCES part (a))');
            $scratch->exec('CREATE VIEW seen AS SELECT a FROM part');
            if ('sqlite' === $engine) {
                $scratch->exec('VACUUM');
            } else {
                $scratch->exec('mariadb' === $engine ? 'CREATE FUNCTION one() RETURNS int RETURN 1' : 'CREATE EXTENSION citext');
            }
            // Rows that lead to what comes later.
            self::assertSame(2, $scratch->put(['INSERT INTO uses VALUES (7)', 'INSERT INTO part VALUES (7)']));
            try {
                $scratch->exec('INSERT INTO uses VALUES (8)');
                self::fail('References hold again.');
            } catch (SourceError $e) {
                // There are rows of a source now: what the engine says is not repeated.
                self::assertStringContainsString('Rows break a rule of the table', $e->getMessage());
                self::assertStringNotContainsString('uses', $e->getMessage());
            }

            return iterator_to_array($scratch->rows()->rows('SELECT a FROM uses'), false);
        });

        self::assertSame([['a' => '7']], $rows);
    }

    public function testSchemasThatAreNamedBeforehandCanBeMade(): void
    {
        $server = self::get(ScratchServers::class)->of('mariadb') ?? throw new \LogicException();
        $made = $server->with(static function (Scratch $scratch): array {
            $scratch->exec('CREATE DATABASE `a_chive`');
            $scratch->exec('CREATE TABLE `a_chive`.t (a INT)');
            $refused = 0;
            foreach (['abchive', 'mysql2'] as $other) {
                try {
                    $scratch->exec("CREATE DATABASE `$other`");
                } catch (SourceError) {
                    ++$refused;
                }
            }

            return [$refused, iterator_to_array($scratch->rows()->rows('SELECT COUNT(*) AS n FROM `a_chive`.t'), false)];
        }, ['a_chive', 'mysql']);

        self::assertSame([2, [['n' => '0']]], $made);
    }

    public function testRunsAreBesideEachOtherAndLeaveNothing(): void
    {
        $server = self::get(ScratchServers::class)->of('mariadb') ?? throw new \LogicException();
        $folder = \dirname(__DIR__, 3).'/var/scratch';
        $count = static fn (Scratch $scratch): int => \count(iterator_to_array(
            $scratch->rows()->rows("SELECT 1 FROM information_schema.TABLES WHERE TABLE_SCHEMA = 'scratch'"),
            false,
        ));
        $both = $server->with(static function (Scratch $outer) use ($server, $count): array {
            $outer->exec('CREATE TABLE mine (a INT)');

            return [$server->with($count), $count($outer)];
        });

        self::assertSame([0, 1], $both);
        self::assertSame([], glob("$folder/*.making") ?: []);
        self::assertSame([], array_filter(glob("$folder/*") ?: [], is_dir(...)));
        self::assertSame([], self::servers());
    }

    public function testWhereNoCageCanBeMadeNothingRuns(): void
    {
        $error = \Fasti\Design\Scratch\Server::without('MariaDB', new \Fasti\Core\Cage\CageError('bwrap is not installed here.'));

        self::assertSame('A scratch server for MariaDB runs in a cage only, and none can be made here. bwrap is not installed here.', $error->inWords());
    }

    #[DataProvider('sleeps')]
    public function testCancelIsHeardWhileAStatementSleeps(string $engine, string $sleeps): void
    {
        $kind = self::get(DesignJob::class);
        $jobs = self::get(Jobs::class);
        $job = $jobs->prepare($kind, 'design 1', ['design' => 1], null);
        self::assertTrue($jobs->claim($job->id()));
        $current = self::get(CurrentJob::class);
        $server = self::get(ScratchServers::class)->of($engine) ?? throw new \LogicException();
        $asked = 0.0;
        try {
            $server->with(static function (Scratch $scratch) use ($current, $jobs, $job, $kind, $sleeps, &$asked): void {
                $current->begin(new Running($job, $jobs, $kind));
                $jobs->ask($job, 'cancel');
                $asked = microtime(true);
                $scratch->exec($sleeps);
            });
            self::fail('It should have been stopped.');
        } catch (\Throwable $e) {
            self::assertInstanceOf(Stopped::class, $e);
            self::assertLessThan(60, microtime(true) - $asked);
        } finally {
            $current->end();
        }
        self::assertSame([], self::servers());
    }

    /** @return iterable<string, array{string, string}> */
    public static function sleeps(): iterable
    {
        yield 'MariaDB' => ['mariadb', 'DO SLEEP(500)'];
        yield 'PostgreSQL' => ['postgresql', 'SELECT pg_sleep(500)'];
        yield 'SQLite' => [
            'sqlite',
            'CREATE TABLE t AS WITH RECURSIVE c(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM c) SELECT i FROM c LIMIT 1 OFFSET 90000000000',
        ];
    }

    public function testOneScratchRunAtATimeSoThatOtherJobsHaveAWorker(): void
    {
        $kind = self::get(DesignJob::class);
        self::assertInstanceOf(OneAtATime::class, $kind);
        $jobs = self::get(Jobs::class);
        $one = $jobs->prepare($kind, 'design 1', ['design' => 1], null);
        $two = $jobs->prepare($kind, 'design 2', ['design' => 2], null);

        self::assertSame([true, null], [$jobs->claim($one->id()), $jobs->claim($two->id())]);
        $jobs->end($one->id(), State::Done);
        self::assertTrue($jobs->claim($two->id()));
    }

    public function testAJobWhoseWorkerWasKilledIsInNobodysWay(): void
    {
        $kind = self::get(DesignJob::class);
        $jobs = self::get(Jobs::class);
        $dead = $jobs->prepare($kind, 'design 1', ['design' => 1], null);
        $jobs->claim($dead->id());
        self::assertFalse(WorkerProcess::isGone(WorkerProcess::own()));
        $jobs->endAbandoned();
        self::assertSame('running', self::state($dead->id()));
        // Its number was given to another process that began at another time.
        self::db()->executeStatement('UPDATE job SET worker = ? WHERE id = ?', [preg_replace('/\d+$/', '1', WorkerProcess::own()), $dead->id()]);

        $next = $jobs->prepare($kind, 'design 1', ['design' => 1], null);

        self::assertNotSame($dead->id(), $next->id());
        self::assertSame('failed', self::state($dead->id()));
        self::assertTrue($jobs->claim($next->id()));
    }

    public function testAStatementOfAnOutlineIsShownWithWhatTheEngineSays(): void
    {
        $outline = Outline::read("Loan\n  due, date\n\nStatement \"evil\", \$\$SELECT 'x' INTO DUMPFILE '/work/page.php'\$\$");
        $ran = self::get(Trying::class)->run(Physical::of($outline->design, 'mariadb'), new SilentProgress());

        self::assertStringContainsString('Access denied', $ran['failed']['said'] ?? '');
        self::assertInstanceOf(Designs::class, self::get(Designs::class));
    }

    /** @return list<string> processes of scratch servers of this test */
    private static function servers(): array
    {
        for ($i = 0; $i < 100; ++$i) {
            $found = array_values(array_filter(
                explode("\n", (string) shell_exec('pgrep -P '.getmypid().' -a')),
                static fn (string $line): bool => str_contains($line, 'fasti-cage'),
            ));
            if ([] === $found) {
                return [];
            }
            usleep(50_000);
        }

        return $found;
    }
}
