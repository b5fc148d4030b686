<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Graphviz;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Engine\MariaDb\MariaDbReader;
use Fasti\Core\Join\End;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Edition\About;
use Fasti\Kernel;
use Fasti\Register\ApplyCatalog;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Source\Vault;
use Fasti\Support\Row;
use Symfony\Component\Filesystem\Filesystem;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Process\Process;

/** Takes each figure and the floor that it is held against in the same run, and says whether it stays within its limit. */
final class Bench
{
    private Kernel $kernel;
    private bool $within = true;

    public function __construct()
    {
        $this->kernel = new Kernel('prod', false);
        $this->kernel->boot();
        Session::$sources = $this->service(Sources::class);
        Session::server()->exec('CREATE DATABASE IF NOT EXISTS fasti_bench CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
    }

    /** @param list<string> $parts */
    public function run(array $parts): int
    {
        $sources = new SourceBench($this->say(...), Session::server(), self::inOwnProcess(...));
        $queries = new QueryBench($this->say(...), self::inOwnProcess(...));
        $boards = new DiagramBench($this->say(...), $this->vast(...));
        $texts = new TextBench($this->say(...), self::inOwnProcess(...), new JoinBench($this->say(...), Session::server(), self::inOwnProcess(...)));
        $joins = new JoinBench($this->say(...), Session::server(), self::inOwnProcess(...));
        printf("%-44s %12s %12s %9s %9s\n", 'figure', 'taken', 'floor', 'ratio', 'limit');
        foreach ([
            'reading' => $this->reading(...),
            'storing' => $this->storing(...),
            'serving' => $this->serving(...),
            'publishing' => $this->publishing(...),
            'drawing' => $this->drawing(...),
            'engines' => $sources->engines(...),
            'script' => $sources->script(...),
            'documents' => $sources->documents(...),
            'profile' => $sources->profile(...),
            'comparing' => $sources->comparing(...),
            'queries' => $queries->queries(...),
            'joins' => $joins->joins(...),
            'boards' => $boards->boards(...),
            'texts' => $texts->texts(...),
            'checks' => $this->checks(...),
            'models' => (new ModelBench($this->say(...)))->models(...),
            'designs' => (new DesignBench($this->say(...)))->designs(...),
            'faults' => fn () => (new FaultsBench($this->say(...), $this->kernel->getContainer()))->faults(),
        ] as $part => $measure) {
            if (\in_array($part, $parts, true)) {
                $measure();
            }
        }

        return $this->within ? 0 : 1;
    }

    private function say(string $figure, string $taken, string $floor, float $ratio, float $limit, bool $least = false): void
    {
        $good = $least ? $ratio >= $limit : $ratio <= $limit;
        $this->within = $this->within && $good;
        printf(
            "%-44s %12s %12s %9.2f %9s%s\n", $figure, $taken, $floor, $ratio, ($least ? '>= ' : '<= ').rtrim(rtrim(\sprintf('%.2f', $limit), '0'), '.'),
            $good ? '' : '   OVER',
        );
    }

    private static function seconds(callable $work): float
    {
        $start = hrtime(true);
        $work();

        return (hrtime(true) - $start) / 1e9;
    }

    /** @param list<float> $values */
    private static function median(array $values): float
    {
        sort($values);

        return $values[intdiv(\count($values), 2)] ?? 0.0;
    }

    private static function read(): Catalog
    {
        return (new MariaDbReader(Session::rows(Session::target(Schema::NAME)), Schema::NAME))->read(new Choice(), new SilentProgress());
    }

    private function reading(): void
    {
        Schema::make(Session::server());
        $floor = static function (): void {
            $server = Session::server();
            foreach ([
                'TABLES' => 'TABLE_SCHEMA', 'COLUMNS' => 'TABLE_SCHEMA', 'STATISTICS' => 'TABLE_SCHEMA', 'REFERENTIAL_CONSTRAINTS' => 'CONSTRAINT_SCHEMA',
                'KEY_COLUMN_USAGE' => 'TABLE_SCHEMA', 'CHECK_CONSTRAINTS' => 'CONSTRAINT_SCHEMA', 'VIEWS' => 'TABLE_SCHEMA',
                'TRIGGERS' => 'EVENT_OBJECT_SCHEMA', 'ROUTINES' => 'ROUTINE_SCHEMA',
            ] as $view => $column) {
                $rows = $server->query("SELECT * FROM information_schema.$view WHERE $column = '".Schema::NAME."'");
                while (false !== $rows && false !== $rows->fetch(\PDO::FETCH_NUM)) {
                    continue;
                }
            }
        };
        self::read();
        $floor();
        $ours = $floors = $ratios = [];
        for ($i = 0; $i < 5; ++$i) {
            $ours[] = $o = self::seconds(self::read(...));
            $floors[] = $f = self::seconds($floor);
            $ratios[] = $o / $f;
        }
        $this->say(
            'reading 2,000 tables, to plain queries', \sprintf('%.2f s', self::median($ours)), \sprintf('%.2f s', self::median($floors)),
            self::median($ratios), 2.2,
        );
        $peak = self::inOwnProcess('read');
        $this->say('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 256);
    }

    /** Runs one job in a fresh process and gives its peak memory in MiB. */
    private static function inOwnProcess(string $job): float
    {
        $process = new Process([\PHP_BINARY, '-d', 'memory_limit=1G', __DIR__.'/bench.php', 'job', $job], timeout: 600);
        $process->mustRun();

        return (float) $process->getOutput();
    }

    public function job(string $job): void
    {
        if ('joins' === $job) {
            JoinBench::job();
            echo memory_get_peak_usage(true) / 1048576;

            return;
        }
        if ('drafts' === $job) {
            TextBench::job();
            echo memory_get_peak_usage(true) / 1048576;

            return;
        }
        if ('read-views' === $job) {
            QueryBench::job();
            echo memory_get_peak_usage(true) / 1048576;

            return;
        }
        if (str_starts_with($job, 'read-') || str_starts_with($job, 'documents-')) {
            SourceBench::job($job);
            echo memory_get_peak_usage(true) / 1048576;

            return;
        }
        if ('read' === $job) {
            self::read();
        } else {
            $this->publish((int) substr($job, 7));
        }
        echo memory_get_peak_usage(true) / 1024 ** 2;
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    private function service(string $class): object
    {
        $found = $this->kernel->getContainer()->get('bench.'.$class);

        return $found instanceof $class ? $found : throw new \LogicException($class);
    }

    private function fresh(): Connection
    {
        Session::server()->exec('DROP DATABASE IF EXISTS fasti_bench; CREATE DATABASE fasti_bench CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
        (new Process([\dirname(__DIR__).'/bin/console', 'doctrine:migrations:migrate', '-n', '-q']))->mustRun();

        // The database is another one now: nothing known of the old one may remain, nor the connection that had chosen it.
        $this->service(EntityManagerInterface::class)->clear();
        $db = $this->service(Connection::class);
        $db->close();

        return $db;
    }

    private function source(string $name): Source
    {
        $source = new Source();
        $source->name = $name;
        $source->connection()->sealedSecret = $this->service(Vault::class)->seal('x');
        $entities = $this->service(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();

        return $source;
    }

    private function storing(): void
    {
        Schema::make(Session::server());
        $catalog = self::read();
        $db = $this->fresh();
        $source = $this->source('bench');
        $apply = $this->service(ApplyCatalog::class);
        // The floor: the same rows, written once more as plain statements of the same size into tables without any index.
        $store = static fn () => $db->transactional(static fn (): array => $apply->apply($source->id(), $catalog, new Choice(), new SilentProgress()));
        $first = self::seconds($store);
        $written = static fn (): int => Row::int(
            ['n' => $db->fetchOne("SELECT SUM(VARIABLE_VALUE) FROM information_schema.SESSION_STATUS
                WHERE VARIABLE_NAME IN ('HANDLER_UPDATE', 'HANDLER_DELETE', 'COM_INSERT')")],
            'n',
        );
        $before = $written();
        $again = self::seconds($store);
        $rows = $written() - $before;
        $db->executeStatement('CREATE TABLE plain AS SELECT * FROM field LIMIT 0');
        $floor = self::seconds(static fn () => $db->executeStatement('INSERT INTO plain SELECT * FROM field'));
        $this->say('storing it the first time, s', \sprintf('%.1f s', $first), \sprintf('%.2f s', $floor), $first, 20);
        $this->say('  again without a change, s', \sprintf('%.1f s', $again), '', $again, 5);
        $this->say('  rows written the second time', (string) $rows, '', $rows, 0);
    }

    /** A register of so many entries with 20 fields each, some of them described. */
    private function register(int $entries): void
    {
        if ($this->count() === $entries) {
            return;
        }
        $db = $this->fresh();
        fwrite(\STDERR, \sprintf("Making a register of %d entries …\n", $entries));
        mt_srand(5);
        $words = [
            'order', 'line', 'price', 'station', 'reading', 'sample', 'batch', 'visit', 'person', 'address', 'unit', 'value', 'code', 'flag', 'start',
            'note', 'state', 'kind', 'area', 'depth', 'weight', 'length', 'owner', 'method', 'result', 'river', 'reach', 'barrier', 'species', 'permit',
            'alert', 'tide',
        ];
        $word = static fn (): string => $words[mt_rand(0, 31)];
        $source = $this->source('bench');
        $apply = $this->service(ApplyCatalog::class);
        $tables = [];
        for ($t = 0; $t < $entries; ++$t) {
            $columns = [new Column('id', 'int(10) unsigned', false, null, '', true)];
            for ($c = 1; $c < 20; ++$c) {
                $columns[] = new Column(
                    0 === $c % 2 ? $word().'_'.$word().'_'.$c : $word().'_'.$word().'_'.$word(),
                    ['varchar(60)', 'int(11)', 'decimal(10,2)', 'datetime'][$c % 4], 0 !== $c % 3, null, 0 === $c % 5 ? 'what it is' : '',
                );
            }
            $columns = array_values(array_combine(array_map(static fn (Column $column): string => $column->name, $columns), $columns));
            $tables[] = new Table(
                'schema_'.intdiv($t, 500),
                $word().'_'.$word().'_'.$t,
                TableType::Table,
                0 === $t % 3 ? 'a table' : '',
                $columns,
                new Key(null, ['id']),
                foreignKeys: $t < 2 ? [] : [new \Fasti\Core\Catalog\ForeignKey(
                    'fk',
                    [$columns[1]->name],
                    new \Fasti\Core\Catalog\Reference($tables[intdiv($t, 2)]->schema, $tables[intdiv($t, 2)]->name, ['id']),
                )],
                rowEstimate: mt_rand(0, 1000000),
            );
        }
        foreach (array_chunk($tables, 2000) as $i => $chunk) {
            // References to tables of other portions are dropped; what counts here is the number of rows.
            $db->transactional(static fn (): array => $apply->apply(
                $source->id(),
                new Catalog('mariadb', '', $chunk),
                new Choice([], ['nothing']),
                new SilentProgress(),
            ));
        }
        $db->executeStatement(
            "UPDATE field SET business_name = CONCAT('Name of ', name), meaning = CONCAT('What the ', REPLACE(name, '_', ' '), ' of a row says, in words "
                ."that anyone understands.') WHERE id % 3 = 0",
        );
        $db->executeStatement(
            "UPDATE entry SET grain = CONCAT('thing called ', REPLACE(name, '_', ' ')), meaning = 'A table that is described in a sentence or two, so that "
                ."pages have something to show.' WHERE id % 2 = 0",
        );
        $db->executeStatement("UPDATE entry e SET described_count = (SELECT COUNT(*) FROM field f WHERE f.entry_id = e.id AND f.meaning <> '')");
        $db->fetchAllAssociative('ANALYZE TABLE entry, field, identifier, identifier_gram');
        $this->account();
    }

    private function account(): void
    {
        $account = new Account();
        $account->email = 'bench@example.org';
        $account->name = 'Bench';
        $account->role = $this->service(Roles::class)->named(Role::STEWARD);
        $account->setPassword($this->service(UserPasswordHasherInterface::class)->hashPassword($account, 'bench-password'));
        $entities = $this->service(EntityManagerInterface::class);
        $entities->persist($account);
        $entities->flush();
    }

    /** A source of 2,000 tables, and an account that may look at it. */
    private function vast(): int
    {
        Schema::make(Session::server());
        $catalog = self::read();
        $db = $this->fresh();
        $source = $this->source('vast');
        $apply = $this->service(ApplyCatalog::class);
        $db->transactional(static fn (): array => $apply->apply($source->id(), $catalog, new Choice(), new SilentProgress()));
        $this->account();

        return $source->id();
    }

    private function count(): int
    {
        try {
            return Row::int(
                ['n' => $this->service(Connection::class)->fetchOne("SELECT COUNT(*) FROM entry e JOIN account a ON a.email = 'bench@example.org'")],
                'n',
            );
        } catch (\Doctrine\DBAL\Exception) {
            return 0;
        }
    }

    private function serving(): void
    {
        $this->register(10000);
        $this->deskMade();
        $port = 8151;
        $server = new Process(
            [
                \PHP_BINARY, '-d', 'opcache.enable=1', '-d', 'opcache.validate_timestamps=0', '-d', 'realpath_cache_size=4096K', '-d',
                'variables_order=EGPCS', '-S', "127.0.0.1:$port", '-t', 'public', 'public/router.php',
            ],
            \dirname(__DIR__),
            ['PHP_CLI_SERVER_WORKERS' => '2', 'DATABASE_NAME' => 'fasti_bench', 'SYMFONY_DOTENV_VARS' => false],
            timeout: null,
        );
        // What it says of each request would fill the pipe, and it would wait for somebody to read it.
        $server->disableOutput();
        $server->start();
        try {
            usleep(800000);
            $http = new Http("http://127.0.0.1:$port");
            $http->signIn('bench@example.org', 'bench-password');
            $this->pages($http);
        } finally {
            $server->stop(1);
            // Its workers would outlive it.
            (new Process(['pkill', '-f', "127.0.0.1:$port"]))->run();
        }
    }

    private function pages(Http $http): void
    {
        $paths = ['/register'];
        foreach ([
            'station', 'tatio', 'order_line', 'stationReading', 'price of', 'zzzz', 'readng', 'barrier', 'anyone', 'p', 'unit_value_4', 'sampel_batch',
            'river reach', 'id', 'understands',
        ] as $term) {
            $paths[] = '/register?q='.urlencode($term);
            $paths[] = '/search?q='.urlencode($term);
        }
        array_push(
            $paths, '/register?described=no', '/register?described=yes', '/register?described=part', '/register?schema=schema_7', '/register?kind=view',
            '/register/4711', '/register/9999', '/register/index/1?q=visit',
        );
        foreach ($paths as $path) {
            $http->time($path);
        }
        $times = $floors = [];
        for ($round = 0; $round < 6; ++$round) {
            foreach ($paths as $path) {
                $times[$path][] = $http->time($path);
                $floors[] = $http->time('/sign-in');
            }
        }
        $all = array_merge(...array_values($times));
        sort($all);
        $slow = $all[(int) ceil(0.95 * \count($all)) - 1];
        $floor = \sprintf('%.0f ms', 1000 * self::median($floors));
        $this->say('register and search, 95 of 100 requests, ms', \sprintf('%.0f ms', 1000 * $slow), $floor, 1000 * $slow, 150);
        $this->desk($http, $floor);
        uasort($times, static fn (array $a, array $b): int => self::median($b) <=> self::median($a));
        foreach (\array_slice($times, 0, 4, true) as $path => $of) {
            printf("    %-42s %9.0f ms\n", $path, 1000 * self::median($of));
        }
    }

    private function desk(Http $http, string $floor): void
    {
        $desk = $opened = [];
        $db = $this->service(Connection::class);
        for ($i = 0; $i < 60; ++$i) {
            $desk[] = $http->time(match (true) {
                0 === $i % 3 => '/desk',
                1 === $i % 3 => '/desk/next',
                default => '/desk/next?topic=field&id='.(4000 + 171 * $i),
            });
            // Something that its drafts are made from has changed since.
            $db->executeStatement('UPDATE drafts_made SET stale = 1 WHERE entry_id = ?', [$i + 100]);
            $drafting = $this->service(\Fasti\Draft\Drafting::class);
            $opened[] = self::seconds(static fn () => $drafting->of([$i + 100]));
        }
        sort($desk);
        sort($opened);
        $this->say('the desk at 10,000 entries, 95 of 100, ms', \sprintf('%.0f ms', 1000 * $desk[56]), $floor, 1000 * $desk[56], 150);
        $this->say('drafts of a page that opens, 95 of 100, ms', \sprintf('%.0f ms', 1000 * $opened[56]), '', 1000 * $opened[56], 50);
    }

    /** Over what a source of 2,000 tables with 40,000 fields has in the register, a tenth of it described; data apart. */
    private function checks(): void
    {
        $source = $this->vast();
        $db = $this->service(Connection::class);
        $db->executeStatement(
            "UPDATE field SET business_name = CONCAT('Name of ', name), meaning = CONCAT('What the ', REPLACE(name, '_', ' '), ' says.') WHERE id % 10 = 0",
        );
        $checks = $this->service(\Fasti\Finding\Checks::class);
        [$catalog] = $this->service(\Fasti\Register\RegisterCatalog::class)->of($source);
        $ids = array_map(intval(...), array_filter($db->fetchFirstColumn('SELECT id FROM entry'), is_numeric(...)));
        $found = 0;
        $time = self::seconds(static function () use ($checks, $catalog, &$found): void {
            foreach ($checks->ofCatalogs as $check) {
                $found += \count([...$check->of($catalog)]);
            }
            foreach ($checks->ofRegister as $check) {
                $found += \count([...$check->of()]);
            }
        });
        foreach (array_chunk($ids, 100) as $chunk) {
            // What is known of the entries is gathered for their pages, not for the checks.
            $dossiers = $this->service(\Fasti\Register\Dossiers::class);
            $gathered = array_filter(array_map($dossiers->one(...), $chunk));
            $time += self::seconds(static function () use ($checks, $gathered, &$found): void {
                foreach ($gathered as $dossier) {
                    foreach ($checks->ofDossiers as $check) {
                        $found += \count([...$check->of($dossier)]);
                    }
                }
            });
        }
        $this->say('all checks, 2,000 entries, 40,000 fields, s', \sprintf('%.2f s', $time), number_format($found).' found', $time, 1.5);
    }

    /** The desk and an entry with its drafts, in a register of 10,000 entries of which two thirds wait. */
    private function deskMade(): void
    {
        $db = $this->service(Connection::class);
        if (0 === Row::int(['n' => $db->fetchOne('SELECT COUNT(*) FROM waiting')], 'n')) {
            fwrite(\STDERR, "Making drafts and the queue …\n");
            $start = hrtime(true);
            $this->service(\Fasti\Draft\Drafting::class)->source(1, new SilentProgress());
            $this->service(\Fasti\Desk\Weighing::class)->source(1);
            fwrite(\STDERR, \sprintf("… in %.0f s\n", (hrtime(true) - $start) / 1e9));
        }
    }

    private function publish(int $limit): float
    {
        $files = new Filesystem();
        $folder = \dirname(__DIR__).'/var/bench/site';
        $files->remove($folder);
        $site = $this->service(\Fasti\Edition\Site::class);
        $db = $this->service(Connection::class);
        $db->executeStatement('UPDATE entry SET gone_at = IF(id <= ?, NULL, UTC_TIMESTAMP())', [$limit]);
        $pages = 0;
        $time = self::seconds(static function () use ($site, $folder, &$pages): void {
            $pages = $site->write($folder, new About(1, 'Bench', '', '', '1 Jan 2026'), [], new SilentProgress())['pages'];
        });
        $files->remove($folder);
        $db->executeStatement('UPDATE entry SET gone_at = NULL');

        return $pages / $time;
    }

    private function publishing(): void
    {
        $this->register(10000);
        $rate = $this->publish(2000);
        $folder = \dirname(__DIR__).'/var/bench/plain';
        (new Filesystem())->mkdir($folder);
        $page = str_repeat('<p>A page of about the same size.</p>', 900);
        $floor = 2000 / self::seconds(static function () use ($folder, $page): void {
            for ($i = 0; $i < 2000; ++$i) {
                file_put_contents("$folder/$i.html", $page);
            }
        });
        (new Filesystem())->remove($folder);
        $this->say('publishing 2,000 entries, pages a second', \sprintf('%.0f /s', $rate), \sprintf('%.0f /s', $floor), $rate, 100, true);
        $half = self::inOwnProcess('publish1000');
        $whole = self::inOwnProcess('publish2000');
        $this->say('  its memory, MiB', \sprintf('%d MiB', $whole), '', $whole, 256);
        $this->say('  twice the entries, to once, memory', \sprintf('%d MiB', $whole), \sprintf('%d MiB', $half), $whole / $half, 1.1);
    }

    private function drawing(): void
    {
        mt_srand(3);
        $tablets = $lines = $edges = [];
        for ($i = 0; $i < 300; ++$i) {
            $rows = [new TabletRow('id', 'id', true)];
            for ($f = mt_rand(2, 14); $f > 0; --$f) {
                $rows[] = new TabletRow('f'.$f, 'field_'.$f);
            }
            $tablets[] = new Tablet($i, 'Table '.$i, $rows);
        }
        for ($j = 0; $j < 450; ++$j) {
            $from = $j < 299 ? $j + 1 : mt_rand(0, 299);
            $to = match (true) {
                $j >= 299 => mt_rand(0, 299),
                0 === mt_rand(0, 2) => intdiv($j, 6),
                default => mt_rand(max(0, $j - 30), $j),
            };
            $lines[] = new Line($j, $from, 'f1', $to, 'id', End::NoneOrMore, End::One);
            $edges[] = [$from, $to];
        }
        $draw = static fn (): string => SvgDrawing::draw(Layout::of($tablets, $lines, Detail::Keys), new TitleBlock('Bench'));
        $draw();
        $ours = $floors = $ratios = [];
        for ($i = 0; $i < 5; ++$i) {
            $ours[] = $o = self::seconds($draw);
            $floors[] = $f = self::seconds(static fn () => Graphviz::place(300, $edges));
            $ratios[] = $o / $f;
        }
        $this->say(
            'drawing 300 tables, to the placing engine', \sprintf('%.2f s', self::median($ours)), \sprintf('%.2f s', self::median($floors)),
            self::median($ratios), 4,
        );
    }
}
