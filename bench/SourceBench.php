<?php

declare(strict_types=1);

namespace Fasti\Bench;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Drift\Fate;
use Fasti\Core\Engine\MariaDb\MariaDbReader;
use Fasti\Core\Engine\PostgreSql\PostgreSqlReader;
use Fasti\Core\Engine\Sqlite\SqliteReader;
use Fasti\Core\Files\Collection;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\Lists;

/** Measures reading sources of the other kinds, profiling them and comparing catalogs. */
final readonly class SourceBench
{
    private const FOLDER = __DIR__.'/../var/bench';
    private const DOCUMENTS = 1000000;
    private const ROWS = 1000000;

    /**
     * @param \Closure(string, string, string, float, float): void $say
     * @param \Closure(string): float                                $inOwnProcess
     */
    public function __construct(private \Closure $say, private \PDO $mariaDb, private \Closure $inOwnProcess)
    {
    }

    public function engines(): void
    {
        $this->made();
        foreach ([
            'PostgreSQL' => [self::postgreSql(), static fn (Rows $rows): Reader => new PostgreSqlReader($rows)],
            'SQLite' => [self::sqlite(), static fn (Rows $rows): Reader => new SqliteReader($rows)],
        ] as $name => [$target, $reader]) {
            $floor = self::plain($target);
            $read = static fn (): Catalog => $reader(Session::rows($target))->read(new Choice(), new SilentProgress());
            $tables = \count($read()->tables);
            if ($tables < Schema::TABLES) {
                throw new \LogicException("$name gave $tables tables.");
            }
            $this->ratio("reading 2,000 tables of $name, to plain queries", $read, $floor, 1.5, 5);
            $peak = ($this->inOwnProcess)('read-'.strtolower($name));
            ($this->say)('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 256);
        }
    }

    public function script(): void
    {
        $path = $this->dumped();
        $time = self::seconds(static fn (): Catalog => (new ScriptReader($path))->read(new Choice(), new SilentProgress()));
        ($this->say)(\sprintf('reading a script of 2,000 tables, %.1f MB, s', filesize($path) / 1e6), \sprintf('%.2f s', $time), '', $time, 10);
        $peak = ($this->inOwnProcess)('read-script');
        ($this->say)('  its memory, MiB', \sprintf('%d MiB', $peak), '', $peak, 512);
    }

    public function documents(): void
    {
        $path = self::manyDocuments(self::DOCUMENTS);
        $floor = static function () use ($path): void {
            $stream = fopen($path, 'r');
            while (false !== $stream && false !== ($line = fgets($stream))) {
                json_decode($line);
            }
        };
        $this->ratio(
            'structure of 1,000,000 documents of 1 KiB',
            static fn (): Table => (new Collection('bench', 'documents', $path))->read(new SilentProgress()),
            $floor,
            3,
            1,
        );
        $small = ($this->inOwnProcess)('documents-100000');
        $large = ($this->inOwnProcess)('documents-1000000');
        ($this->say)('  memory for ten times as many documents', \sprintf('%d MiB', $large), \sprintf('%d MiB', $small), $large / $small, 1.2);
    }

    public function profile(): void
    {
        $rows = $this->bigTable();
        $table = (new MariaDbReader(
            Session::rows(Session::target('fasti_bench_rows')),
            'fasti_bench_rows',
        ))->read(new Choice([], ['big']), new SilentProgress())->tables[0];
        $select = [];
        foreach ($table->columns as $column) {
            array_push($select, "COUNT(`$column->name`)", "COUNT(DISTINCT `$column->name`)", "MIN(`$column->name`)", "MAX(`$column->name`)");
        }
        $floor = function () use ($select): void {
            $rows = $this->mariaDb->query('SELECT '.implode(', ', $select).' FROM fasti_bench_rows.big');
            if (false !== $rows) {
                $rows->fetchAll();
            }
        };
        $ours = static fn () => (new SqlProfiler(
            Session::rows(Session::target('fasti_bench_rows'), 600),
            Dialects::of('mariadb'),
        ))->profile($table, [], [], new SilentProgress());
        $this->ratio(\sprintf('profile of %s rows, 20 columns', number_format($rows)), $ours, $floor, 2, 2);
        // What is allowed in each of them: the checks ride in the scan.
        $texts = ['id' => 'at least 1', 'code' => 'matches C-[0-9]{6}', 'name' => 'at most 30 characters', 'mail' => 'matches p[0-9]+@arrowmere\.example',
            'made' => 'at least 2020-01-01', 'day' => '2020-01-01 to 2030-12-31', 'amount' => '0 to 9999', 'rate' => '0 to 1', 'small' => '0 to 98',
            'flag' => 'one of G, S, B', 'kind' => 'one of a, b, c', 'ref1' => '0 to 9999', 'ref2' => '0 to 400', 'ref3' => 'at least 0',
            'note' => 'at most 119 characters',
            'empty' => '1 to 10 characters', 'same' => 'one of same', 'country' => 'code list countries, two letters', 'uuid' => '36 characters',
            'score' => '0 to 1000'];
        $allowed = array_map(static fn (string $text): Allowed => Allowed::parse($text, static fn (string $name): ?array => isset(Lists::all()[$name])
            ? array_map(strval(...), array_keys(Lists::all()[$name]->codes)) : null), $texts);
        $checked = static fn () => (new SqlProfiler(
            Session::rows(Session::target('fasti_bench_rows'), 600),
            Dialects::of('mariadb'),
        ))->profile($table, [], [], new SilentProgress(), $allowed);
        $this->ratio('  with what is allowed in all 20 of them, to without', $checked, $ours, 1.3, 3);
    }

    public function comparing(): void
    {
        [$before, $after, $renamed] = self::twoCatalogs();
        $drift = [];
        $time = self::seconds(static function () use ($before, $after, &$drift): void {
            $drift = Compare::catalogs($before, $after);
        });
        $found = [];
        foreach ($drift as $item) {
            if (Fate::Renamed === $item->change) {
                $found[] = ($item->before->name ?? '').' '.($item->after->name ?? '');
            }
            foreach ($item->columns as $column) {
                if (Fate::Renamed === $column->change) {
                    $found[] = ($item->after->name ?? '').'.'.($column->before->name ?? '').' '.($column->after->name ?? '');
                }
            }
        }
        ($this->say)('comparing 2,000 tables with 2,000, s', \sprintf('%.2f s', $time), '', $time, 3);
        ($this->say)('  renames missed', (string) \count(array_diff($renamed, $found)), (string) \count($renamed), \count(array_diff($renamed, $found)), 0);
        ($this->say)('  renames invented', (string) \count(array_diff($found, $renamed)), '', \count(array_diff($found, $renamed)), 0);
    }

    /** What a process of its own does; see Bench::job(). */
    public static function job(string $job): void
    {
        match (true) {
            'read-postgresql' === $job => (new PostgreSqlReader(Session::rows(self::postgreSql())))->read(new Choice(), new SilentProgress()),
            'read-sqlite' === $job => (new SqliteReader(Session::rows(self::sqlite())))->read(new Choice(), new SilentProgress()),
            'read-script' === $job => (new ScriptReader(self::FOLDER.'/schema.sql'))->read(new Choice(), new SilentProgress()),
            default => (new Collection('bench', 'documents', self::manyDocuments((int) substr($job, 10))))->read(new SilentProgress()),
        };
    }

    private function ratio(string $figure, callable $ours, callable $floor, float $limit, int $times): void
    {
        $floor();
        $taken = $floors = $ratios = [];
        for ($i = 0; $i < $times; ++$i) {
            $floors[] = $f = self::seconds($floor);
            $taken[] = $o = self::seconds($ours);
            $ratios[] = $o / $f;
        }
        sort($ratios);
        sort($taken);
        sort($floors);
        $middle = intdiv($times, 2);
        ($this->say)($figure, \sprintf('%.2f s', $taken[$middle]), \sprintf('%.2f s', $floors[$middle]), $ratios[$middle], $limit);
    }

    private static function seconds(callable $work): float
    {
        $start = hrtime(true);
        $work();

        return (hrtime(true) - $start) / 1e9;
    }

    private static function postgreSql(): Target
    {
        return new Target('postgresql', '127.0.0.1', (int) trim((string) file_get_contents(__DIR__.'/../var/run/postgres.port')), 'fasti_bench', 'fasti');
    }

    private static function sqlite(): Target
    {
        return new Target('sqlite', path: self::FOLDER.'/schema.sqlite');
    }

    /** Asks each catalog for all that it says about the tables, in one plain query each, and does nothing with the rows. */
    private static function plain(Target $target): \Closure
    {
        if ('sqlite' === $target->engine) {
            $queries = [
                'SELECT * FROM sqlite_master',
                "SELECT m.name, c.* FROM sqlite_master m, pragma_table_xinfo(m.name) c WHERE m.type IN ('table', 'view')",
                "SELECT m.name, i.* FROM sqlite_master m, pragma_index_list(m.name) i WHERE m.type = 'table'",
                "SELECT m.name, c.* FROM sqlite_master m, pragma_index_info(m.name) c WHERE m.type = 'index'",
                "SELECT m.name, k.* FROM sqlite_master m, pragma_foreign_key_list(m.name) k WHERE m.type = 'table'",
            ];
        } else {
            $ours = "FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace WHERE n.nspname = 'public'";
            $queries = [
                'SELECT c.oid, c.relname, c.relkind, c.reltuples, c.relrowsecurity, c.relpersistence, pg_catalog.pg_total_relation_size(c.oid), '
                    ."pg_catalog.obj_description(c.oid, 'pg_class') $ours AND c.relkind IN ('r', 'p', 'f', 'v', 'm')",
                'SELECT a.attrelid, a.attnum, a.attname, pg_catalog.format_type(a.atttypid, a.atttypmod), a.attnotnull, a.attidentity, a.attgenerated, '
                    .'pg_catalog.pg_get_expr(d.adbin, d.adrelid), pg_catalog.col_description(a.attrelid, a.attnum) FROM pg_catalog.pg_attribute a LEFT '
                    .'JOIN pg_catalog.pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum '
                    ."WHERE a.attnum > 0 AND a.attrelid IN (SELECT c.oid $ours AND c.relkind IN ('r', 'p', 'f', 'v', 'm'))",
                "SELECT *, pg_catalog.pg_get_constraintdef(oid) FROM pg_catalog.pg_constraint WHERE conrelid IN (SELECT c.oid $ours)",
                "SELECT i.*, pg_catalog.pg_get_indexdef(i.indexrelid) FROM pg_catalog.pg_index i WHERE i.indrelid IN (SELECT c.oid $ours)",
                "SELECT * FROM pg_catalog.pg_trigger WHERE tgrelid IN (SELECT c.oid $ours)",
                'SELECT * FROM pg_catalog.pg_inherits',
                'SELECT * FROM pg_catalog.pg_policy',
                "SELECT p.* FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace WHERE n.nspname = 'public'",
            ];
        }

        return static function () use ($target, $queries): void {
            $rows = Session::rows($target);
            foreach ($queries as $query) {
                foreach ($rows->rows($query) as $_) {
                    continue;
                }
            }
        };
    }

    /** The schema of Schema, in PostgreSQL and in SQLite. */
    private function made(): void
    {
        Schema::make($this->mariaDb);
        $there = self::server('postgres')->query("SELECT 1 FROM pg_database WHERE datname = 'fasti_bench'");
        if (false === $there || false === $there->fetchColumn()) {
            self::server('postgres')->exec('CREATE DATABASE fasti_bench');
        }
        $server = self::server('fasti_bench');
        $count = $server->query("SELECT COUNT(*) FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace");
        $full = false !== $count && Schema::TABLES === (int) $count->fetchColumn();
        $file = self::FOLDER.'/schema.sqlite';
        if ($full && is_file($file)) {
            return;
        }
        fwrite(\STDERR, "Making the same for PostgreSQL and SQLite …\n");
        $catalog = (new MariaDbReader(Session::rows(Session::target(Schema::NAME)), Schema::NAME))->read(new Choice(), new SilentProgress());
        $tables = $catalog->tables;
        // A table comes after those that it refers to: their numbers stand at the end of their names.
        usort($tables, static fn (Table $a, Table $b): int => substr($a->name, -4) <=> substr($b->name, -4));
        @unlink($file);
        $lite = new \PDO('sqlite:'.$file, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $lite->beginTransaction();
        if (!$full) {
            $server->exec('DROP SCHEMA public CASCADE; CREATE SCHEMA public');
        }
        foreach ($tables as $table) {
            $sql = self::statement($table);
            $lite->exec($sql);
            if (!$full) {
                $server->exec($sql);
                foreach ($table->foreignKeys as $key) {
                    $server->exec(\sprintf('CREATE INDEX ON "%s" ("%s")', $table->name, $key->columns[0]));
                }
                if ('' !== $table->comment) {
                    $server->exec(\sprintf('COMMENT ON TABLE "%s" IS \'a table\'', $table->name));
                }
            }
            foreach ($table->foreignKeys as $key) {
                $lite->exec(\sprintf('CREATE INDEX "%s_%s" ON "%s" ("%s")', $table->name, $key->columns[0], $table->name, $key->columns[0]));
            }
        }
        $lite->commit();
        $server->exec('ANALYZE');
    }

    private static function server(string $database): \PDO
    {
        $dsn = 'pgsql:host=127.0.0.1;port='.self::postgreSql()->port.';dbname='.$database;

        return new \PDO($dsn, 'fasti', '', [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
    }

    private static function statement(Table $table): string
    {
        $lines = array_map(
            static fn (Column $column): string => '"'.$column->name.'" '.(string) preg_replace(
                ['/^int\(.*/', '/^bigint.*/', '/^tinyint.*/', '/^datetime/', '/^enum.*/'],
                ['integer', 'bigint', 'smallint', 'timestamp', 'varchar(10)'],
                $column->type,
            ).($column->nullable ? '' : ' NOT NULL'),
            $table->columns,
        );
        $lines[] = 'PRIMARY KEY (id)';
        foreach ($table->foreignKeys as $key) {
            $lines[] = \sprintf('CONSTRAINT "%s" FOREIGN KEY ("%s") REFERENCES "%s" (id)', $key->name, $key->columns[0], $key->references->table);
        }

        return \sprintf('CREATE TABLE "%s" (%s)', $table->name, implode(', ', $lines));
    }

    private function dumped(): string
    {
        Schema::make($this->mariaDb);
        $path = self::FOLDER.'/schema.sql';
        if (!is_file($path)) {
            $out = fopen($path, 'w') ?: throw new \RuntimeException('The script could not be written.');
            fwrite($out, "-- MariaDB dump\nUSE `".Schema::NAME."`;\n");
            $tables = $this->mariaDb->query("SELECT TABLE_NAME FROM information_schema.TABLES WHERE TABLE_SCHEMA = '".Schema::NAME."'");
            foreach (array_filter(false === $tables ? [] : $tables->fetchAll(\PDO::FETCH_COLUMN), is_string(...)) as $name) {
                $made = $this->mariaDb->query('SHOW CREATE TABLE '.Schema::NAME.".`$name`");
                fwrite($out, "DROP TABLE IF EXISTS `$name`;\n".(false === $made ? '' : $made->fetchColumn(1)).";\n");
            }
            fclose($out);
        }

        return $path;
    }

    private static function manyDocuments(int $count): string
    {
        $path = self::FOLDER."/documents-$count.jsonl";
        if (!is_file($path)) {
            fwrite(\STDERR, "Making documents …\n");
            mt_srand(5);
            $out = fopen($path, 'w') ?: throw new \RuntimeException('The documents could not be written.');
            for ($i = 0; $i < $count; ++$i) {
                $version = 1 + $i % 3;
                $document = [
                    'id' => \sprintf('%08x-0000-4000-8000-%012x', $i, $i), 'version' => $version, 'station' => 'ST'.mt_rand(1, 400),
                    'sent_at' => gmdate('Y-m-d\TH:i:s\Z', 1700000000 + $i),
                    'position' => ['lat' => mt_rand(0, 90000) / 1000, 'lon' => mt_rand(0, 180000) / 1000],
                    'battery' => ['volts' => mt_rand(300, 420) / 100, 'state' => ['ok', 'low', 'charging'][mt_rand(0, 2)]], 'readings' => [],
                ];
                for ($k = 0; $k < 8; ++$k) {
                    $document['readings'][] = [
                        'parameter' => ['level', 'flow', 'temp', 'ph'][$k % 4],
                        'value' => mt_rand(0, 10000) / 100,
                        'flag' => 'G',
                        'raw' => mt_rand(1, 99999),
                    ] + ($version > 1 ? ['unit' => 'm'] : []);
                }
                if (3 === $version) {
                    $document['gateway'] = ['name' => 'gw', 'build' => $i % 20];
                }
                $document['note'] = str_repeat('x', max(0, 1010 - \strlen((string) json_encode($document))));
                fwrite($out, json_encode($document)."\n");
            }
            fclose($out);
        }

        return $path;
    }

    private function bigTable(): int
    {
        $this->mariaDb->exec('CREATE DATABASE IF NOT EXISTS fasti_bench_rows');
        // The rows come from a table of numbers, which only a session with a database finds.
        $this->mariaDb->exec('USE fasti_bench_rows');
        $count = $this->mariaDb->query("SELECT COUNT(*) FROM information_schema.TABLES WHERE TABLE_SCHEMA = 'fasti_bench_rows' AND TABLE_NAME = 'big'");
        if (false === $count || 0 === (int) $count->fetchColumn()) {
            fwrite(\STDERR, "Making a million rows …\n");
            $this->mariaDb->exec(
                'CREATE TABLE fasti_bench_rows.part (id int NOT NULL PRIMARY KEY, code varchar(12), name varchar(60), mail varchar(80), made datetime, day '
                    ."date, amount decimal(10,2), rate double, small tinyint, flag char(1), kind enum('a','b','c'), ref1 int, ref2 int, ref3 bigint, note "
                    ."varchar(200), empty varchar(10), same varchar(10) DEFAULT 'same', country char(2), uuid char(36), score int) ENGINE=InnoDB",
            );
            $this->mariaDb->exec(
                "INSERT INTO fasti_bench_rows.part SELECT seq, CONCAT('C-', LPAD(seq MOD 5000, 6, '0')), CONCAT('Name ', seq MOD 70000), CONCAT('p', seq, "
                    ."'@arrowmere.example'), '2020-01-01' + INTERVAL seq MINUTE, '2020-01-01' + INTERVAL (seq MOD 2000) DAY, RAND(seq) * 10000, RAND(seq + "
                    ."1), seq MOD 100, ELT(1 + seq MOD 4, 'G', 'S', 'B', 'M'), 1 + seq MOD 3, seq MOD 10000, seq MOD 333, seq * 7, REPEAT(CHAR(97 + seq "
                    ."MOD 26), seq MOD 120), NULL, 'same', ELT(1 + seq MOD 5, 'DE', 'FR', 'PL', 'NL', 'IT'), UUID(), IF(seq MOD 9 = 0, NULL, "
                    .'FLOOR(RAND(seq) * 1000)) FROM seq_1_to_'
                    .self::ROWS,
            );
            $this->mariaDb->exec('RENAME TABLE fasti_bench_rows.part TO fasti_bench_rows.big');
            $analyzed = $this->mariaDb->query('ANALYZE TABLE fasti_bench_rows.big');
            if (false !== $analyzed) {
                $analyzed->fetchAll();
            }
        }

        return self::ROWS;
    }

    /** @return array{Catalog, Catalog, list<string>} before, after, and what was renamed: `old new` for tables, `table.old new` for columns */
    private static function twoCatalogs(): array
    {
        mt_srand(17);
        $words = [
            'order', 'line', 'price', 'station', 'reading', 'sample', 'batch', 'visit', 'person', 'unit', 'value', 'code', 'flag', 'start', 'end', 'note',
            'state', 'kind', 'area', 'depth', 'weight', 'owner', 'method', 'result', 'river', 'reach', 'barrier', 'species', 'permit', 'alert',
        ];
        $word = static fn (): string => $words[mt_rand(0, \count($words) - 1)];
        $types = ['varchar(60)', 'int(11)', 'decimal(10,2)', 'datetime', 'char(3)', 'text', 'date', 'tinyint(1)'];
        $make = static function (string $name) use ($word, $types): Table {
            $columns = [
                'id' => new Column('id', 'int(10) unsigned', false),
                'created_at' => new Column('created_at', 'datetime', false),
                'name' => new Column('name', 'varchar(80)'),
            ];
            $width = mt_rand(4, 30);
            while (\count($columns) < $width) {
                $column = $word().'_'.$word();
                $columns[$column] ??= new Column($column, $types[mt_rand(0, 7)], 0 === mt_rand(0, 1));
            }

            return new Table('bench', $name, TableType::Table, '', array_values($columns), new Key(null, ['id']));
        };
        $before = $after = $renamed = [];
        for ($i = 0; $i < 2000; ++$i) {
            $table = $make($word().'_'.$word().'_'.$i);
            $before[] = $table;
            $columns = $table->columns;
            $name = $table->name;
            // One in a hundred is renamed: half of these tables, half a column within one; one in twenty is changed otherwise, and a few come and go.
            if (0 === $i % 200) {
                $name = 0 === $i % 400 ? $word().'_'.$word().'_new_'.$i : preg_replace('/_\d+$/', '', $name).'s_'.$i;
                $renamed[] = $table->name.' '.$name;
            } elseif (100 === $i % 200) {
                $at = mt_rand(3, \count($columns) - 1);
                $old = $columns[$at];
                $columns[$at] = new Column(
                    0 === $i % 3 ? $old->name.'_code' : substr($old->name, 0, 3).'_'.substr((string) strrchr($old->name, '_'), 1).'_x',
                    $old->type,
                    $old->nullable,
                );
                $renamed[] = $name.'.'.$old->name.' '.$columns[$at]->name;
            } elseif (7 === $i % 20) {
                $at = mt_rand(1, \count($columns) - 1);
                match ($i % 3) {
                    0 => $columns[$at] = new Column($columns[$at]->name, 'varchar(250)', $columns[$at]->nullable),
                    1 => $columns[] = new Column('added_'.$word().'_'.$i, 'blob'),
                    default => array_splice($columns, $at, 1),
                };
            } elseif (13 === $i % 100) {
                continue;
            }
            $after[] = new Table('bench', $name, TableType::Table, '', array_values($columns), new Key(null, ['id']));
        }
        for ($i = 0; $i < 20; ++$i) {
            $after[] = $make('fresh_'.$word().'_'.$i);
        }

        return [new Catalog('mariadb', '', $before), new Catalog('mariadb', '', $after), $renamed];
    }
}
