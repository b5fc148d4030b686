<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Source;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Address;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Engine\Sqlite\PlainTable;
use Fasti\Core\Engine\Sqlite\SqliteGrammar;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Script\Script;
use Fasti\Core\Sheet\Sheets;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Demo\Mart;
use Fasti\Source\Sources;
use Fasti\Support\Row;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\Attributes\DataProvider;

/** Each engine for real: what it says live, what its own dump says, and what it says when things go wrong. */
final class EnginesTest extends AppTestCase
{
    private const SCHEMAS = __DIR__.'/../../schemas/';
    private static ?Target $postgreSql = null;

    public static function tearDownAfterClass(): void
    {
        if (null !== self::$postgreSql) {
            Engines::drop(self::$postgreSql);
            self::$postgreSql = null;
        }
    }

    public function testPostgreSqlLiveAndFromItsScriptAreTheSame(): void
    {
        $live = self::read(self::postgreSql());
        $script = self::fromScript(
            Engines::dump(\sprintf('PGDATABASE=%s pg_dump -s -h 127.0.0.1 -p %d -U fasti', self::postgreSql()->database, self::postgreSql()->port)),
        );

        self::assertSameStructure($live, $script);
        // The words that make a routine again are the engine's live, the writer's in a script.
        $parts = static fn (Routine $routine): array => array_diff_key(get_object_vars($routine), ['statement' => true]);
        self::assertEquals(array_map($parts, $live->routines), array_map($parts, $script->routines));
        self::assertStringStartsWith('CREATE OR REPLACE FUNCTION field.touch()', $live->routines[0]->statement);
        self::assertStringStartsWith('CREATE FUNCTION field.touch()', $script->routines[0]->statement);
        self::assertSame(['booking', 'catchment', 'daily', 'note', 'open_station', 'photo', 'reading', 'scratch', 'station'], self::names($live, 'field'));
    }

    public function testSqliteLiveAndFromItsScriptAreTheSame(): void
    {
        $target = Engines::sqlite(self::SCHEMAS.'sqlite.sql');

        self::assertSameStructure(self::read($target), self::fromScript(Engines::dump('sqlite3 '.escapeshellarg($target->path).' .schema')));
        unlink($target->path);
    }

    public function testMariaDbLiveAndFromItsScriptAreTheSame(): void
    {
        OddSchema::make();
        $live = self::read(Address::fromUrl(OddSchema::url()));
        // The tool refuses to write a view whose table is gone.
        $script = self::fromScript(Engines::dump(\sprintf(
            'mariadb-dump --no-defaults --socket=%s -uroot --no-data --routines --ignore-table=%s --databases %s',
            escapeshellarg(Row::text(['s' => $_SERVER['DATABASE_SOCKET'] ?? ''], 's')),
            escapeshellarg(OddSchema::NAME.'.broken'),
            escapeshellarg(OddSchema::NAME),
        )));
        OddSchema::drop();

        self::assertSameStructure(
            new Catalog('mariadb', '', array_values(array_filter($live->tables, static fn (Table $table): bool => 'broken' !== $table->name))),
            $script,
        );
        self::assertSame('always 1', $script->routines[0]->comment);
    }

    public function testTheHandWrittenScriptOfTheDemoGivesItsTablesAsTheEngineHasThem(): void
    {
        $sql = str_replace(['`{fieldwork}`', '`{archive}`'], ['fieldwork', 'archive'], (string) file_get_contents(__DIR__.'/../../../demo/fieldwork.sql'));
        $script = self::fromScript($sql, 'mariadb');

        self::assertGreaterThan(25, \count($script->tables));
        self::assertSame('int(10) unsigned', $script->table('fieldwork', 'station')?->column('id')?->type);
        self::assertContains(
            'station',
            array_map(static fn ($key): string => $key->references->table, $script->table('fieldwork', 'reading')->foreignKeys ?? []),
        );
    }

    public function testWhatOnlyPostgreSqlHasIsRead(): void
    {
        $catalog = self::read(self::postgreSql());
        $station = self::table($catalog, 'station');
        $reading = self::table($catalog, 'reading');

        self::assertSame(
            ["enum('good','suspect','it''s bad')", 'field.flag[]', 'character varying(8)'],
            [$station->column('state')?->base, $station->column('states')?->type, $station->column('postcode')?->base],
        );
        self::assertTrue($station->column('id')?->autoNumbered && self::table($catalog, 'catchment')->column('id')?->autoNumbered);
        self::assertTrue($station->column('label')?->generated?->stored);
        self::assertSame(['partitioned by RANGE (at), 2 partitions'], $reading->traits);
        self::assertSame(['row-level security: own_notes'], self::table($catalog, 'note')->traits);
        self::assertSame(['inherits from field.note'], self::table($catalog, 'photo')->traits);
        self::assertSame(
            ['id', 'station_id', 'at', 'parameter', 'text', 'width', 'taken'],
            array_map(static fn (Column $column): string => $column->name, self::table($catalog, 'photo')->columns),
        );
        self::assertStringStartsWith('EXCLUDE USING gist', self::table($catalog, 'booking')->checks[0]->expression);
        self::assertSame(
            [TableType::MaterializedView, 'One row per station and day'],
            [self::table($catalog, 'daily')->kind, self::table($catalog, 'daily')->comment],
        );
        self::assertSame(
            '(closed IS NULL)',
            array_values(array_filter($station->indexes, static fn ($index): bool => 'station_label' === $index->name))[0]->where,
        );
        self::assertSame(
            ['note_station_id_at_parameter_fkey', ['station_id', 'at', 'parameter'], 'SET NULL'],
            [
                self::table($catalog, 'note')->foreignKeys[0]->name,
                self::table($catalog, 'note')->foreignKeys[0]->references->columns,
                self::table($catalog, 'note')->foreignKeys[0]->onUpdate,
            ],
        );
    }

    public function testWhatOnlySqliteHasIsRead(): void
    {
        $target = Engines::sqlite(self::SCHEMAS.'sqlite.sql');
        $catalog = self::read($target);
        unlink($target->path);

        self::assertSame(['catchment', 'doubled_pair', 'loose', 'note', 'odd one', 'pair', 'strict_one'], self::names($catalog, 'main'));
        self::assertSame(
            ['', 'VARCHAR(20)', 'INT', 'BLOB'],
            array_map(static fn (Column $column): string => $column->type, self::table($catalog, 'odd one')->columns),
        );
        self::assertSame('a "quoted" name', self::table($catalog, 'odd one')->columns[1]->name);
        self::assertSame(
            [null, ['in brackets', 'tick']],
            [self::table($catalog, 'odd one')->uniqueKeys[0]->name, self::table($catalog, 'odd one')->uniqueKeys[0]->columns],
        );
        self::assertSame(['WITHOUT ROWID'], self::table($catalog, 'pair')->traits);
        self::assertSame(
            [false, true],
            [self::table($catalog, 'pair')->column('doubled')?->generated?->stored, self::table($catalog, 'pair')->column('kept')?->generated?->stored],
        );
        self::assertTrue(self::table($catalog, 'loose')->column('a')?->nullable, 'A key that is no row number may hold nothing.');
        self::assertSame(['id'], self::table($catalog, 'pair')->foreignKeys[0]->references->columns);
        self::assertSame(['virtual table of fts5'], self::table($catalog, 'note')->traits);
        self::assertSame(
            ['station_id', 'catchment', 'quadruple'],
            array_map(static fn (Column $column): string => $column->name, self::table($catalog, 'doubled_pair')->columns),
        );
        self::assertStringContainsString('DELETE FROM loose', self::table($catalog, 'catchment')->triggers[0]->body);
    }

    /** The short cut through plain statements gives what reading them word by word gives. */
    public function testTheShortCutThroughPlainTablesGivesTheSame(): void
    {
        $sql = 'CREATE TABLE "a b" (id INTEGER NOT NULL, "x y" varchar(20) NOT NULL, n decimal(6,2), r int, PRIMARY KEY (id), CONSTRAINT to_c FOREIGN KEY '
            .'(r) REFERENCES c (id) ON DELETE CASCADE)';
        $index = 'CREATE UNIQUE INDEX by_n ON "a b" (n, "x y")';
        $script = new Script(new SqliteGrammar());
        $script->statement($sql);
        $script->statement($index);
        $plain = PlainTable::of($sql, [$index]);

        self::assertNotNull($plain);
        self::assertSame(OpenForm::of($script->catalog([], '')->tables[0]), OpenForm::of($plain));
        self::assertNull(PlainTable::of('CREATE TABLE t (a int CHECK (a > 0))', []));
        self::assertNull(PlainTable::of('CREATE TABLE t (a int)', ['CREATE INDEX i ON t (lower(a))']));
    }

    public function testTheSameSchemaReadFromTwoEnginesIsOneCatalog(): void
    {
        $lite = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        Mart::make($lite);
        $target = Engines::made(self::SCHEMAS.'../../demo/mart.sql');
        $path = sys_get_temp_dir().'/fasti-mart-'.bin2hex(random_bytes(4)).'.sqlite';
        $lite->exec("VACUUM INTO '$path'");
        $a = self::read(new Target('sqlite', path: $path));
        $b = self::read($target);
        unlink($path);
        Engines::drop($target);

        $joins = static fn (Catalog $catalog): array => array_merge(...array_map(
            static fn (Table $table): array => array_map(
                static fn ($key): string => $table->name.'.'.implode(',', $key->columns).' → '.$key->references->table,
                $table->foreignKeys,
            ),
            $catalog->tables,
        ));
        self::assertSame(self::names($a, 'main'), self::names($b, 'public'));
        self::assertEqualsCanonicalizing($joins($a), $joins($b));
        self::assertSame(
            [
                'catchment',
                'day',
                'instrument_stock',
                'month_summary',
                'parameter',
                'reach',
                'reading_day',
                'reading_month',
                'reading_month_place',
                'sighting',
                'sighting_season',
                'species',
                'species_group',
                'station',
                'station_place',
            ],
            self::names($a, 'main'),
        );
    }

    /** @return iterable<string, array{string}> */
    public static function sheets(): iterable
    {
        yield 'the standard query, on PostgreSQL' => ['sql'];
        yield 'the query of PostgreSQL' => ['postgresql'];
        yield 'the query of MySQL, on MariaDB' => ['mysql'];
    }

    #[DataProvider('sheets')]
    public function testTheQueriesForSheetsGiveWhatALiveSurveyGives(string $engine): void
    {
        $odd = 'mysql' === $engine;
        if ($odd) {
            OddSchema::make();
        }
        $live = self::read($odd ? Address::fromUrl(OddSchema::url()) : self::postgreSql());
        $pdo = $odd ? OddSchema::server() : Engines::pdo(self::postgreSql());
        $folder = sys_get_temp_dir().'/fasti-sheets-'.bin2hex(random_bytes(4));
        mkdir($folder);
        foreach (Sheets::queries()[$engine]['queries'] ?? [] as $sheet => $query) {
            /** @var non-empty-list<array<string, string|int|null>> $rows */
            $rows = ($pdo->query($query) ?: throw new \LogicException())->fetchAll(\PDO::FETCH_ASSOC);
            $out = fopen("$folder/$sheet.csv", 'w') ?: throw new \LogicException();
            fputcsv($out, array_keys($rows[0]), ',', '"', '');
            foreach ($rows as $row) {
                fputcsv($out, $row, ',', '"', '');
            }
            fclose($out);
        }
        $sheets = FilesReader::open($folder)->read(new Choice([$odd ? OddSchema::NAME : 'field']), new SilentProgress());
        array_map(unlink(...), glob($folder.'/*') ?: []);
        rmdir($folder);
        if ($odd) {
            OddSchema::drop();
        }
        foreach ($live->tables as $table) {
            if ('shut' === $table->schema || 'broken' === $table->name || ('sql' === $engine && TableType::MaterializedView === $table->kind)) {
                continue;
            }
            $sheet = $sheets->table($table->schema, $table->name) ?? self::fail("The sheets lack $table->name.");
            $columns = static fn (Table $of): array => array_map(
                static fn (Column $column): array => [
                    $column->name,
                    $table->kind->isView() || $column->nullable,
                    'sql' === $engine ? '' : $column->type,
                    'sql' === $engine ? '' : $column->comment,
                ],
                $of->columns,
            );
            self::assertSame($columns($table), $columns($sheet), $table->name);
            self::assertSame([$table->kind, $table->primaryKey->columns ?? null], [$sheet->kind, $sheet->primaryKey->columns ?? null], $table->name);
            $joins = static fn (Table $of): array => array_map(
                static fn ($key): array => [$key->columns, get_object_vars($key->references), 'mysql' === $engine ? '' : $key->onDelete],
                $of->foreignKeys,
            );
            if ('sql' !== $engine || 'station' === $table->name) {
                // The standard views know a constraint by its name alone, and PostgreSQL gives those of partitions the same name.
                self::assertEqualsCanonicalizing($joins($table), $joins($sheet), $table->name);
            }
        }
    }

    public function testASchemaWithoutRightsIsLeftOutAndSaid(): void
    {
        $pdo = Engines::pdo(self::postgreSql());
        $pdo->exec(
            "DO \$\$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'fasti_poor') THEN CREATE ROLE fasti_poor LOGIN; END IF; END \$\$; GRANT "
                .'USAGE ON SCHEMA field TO fasti_poor; GRANT SELECT ON ALL TABLES IN SCHEMA field TO fasti_poor',
        );
        $catalog = self::read(Engines::postgreSql(self::postgreSql()->database, 'fasti_poor'));

        self::assertSame([], self::names($catalog, 'shut'));
        self::assertNotSame([], self::names($catalog, 'field'));
        self::assertStringContainsString('no rights on the schema “shut”', $catalog->notes[0]);
    }

    /** @return iterable<string, array{\Closure(): Target, string}> */
    public static function unreachable(): iterable
    {
        yield 'nothing listens' => [static fn (): Target => new Target('postgresql', '127.0.0.1', 1, 'x', 'x'), 'Nothing answers at 127.0.0.1:1.'];
        yield 'no such database' => [
            static fn (): Target => Engines::postgreSql('not_there'),
            'has no database “not_there”. A connection to PostgreSQL reads one database',
        ];
        yield 'no such account' => [static fn (): Target => Engines::postgreSql('postgres', 'nobody_known'), 'does not accept this account'];
        yield 'no such host' => [
            static fn (): Target => new Target('postgresql', 'nowhere.invalid', 5432, 'x', 'x'),
            'No host is known by the name “nowhere.invalid”',
        ];
        yield 'no such file' => [static fn (): Target => new Target('sqlite', path: '/not/there.sqlite'), 'There is no file'];
        yield 'not an SQLite file' => [static fn (): Target => new Target('sqlite', path: __FILE__), 'is not an SQLite database'];
    }

    /** @param \Closure(): Target $target */
    #[DataProvider('unreachable')]
    public function testWhyASourceCannotBeReachedIsSaid(\Closure $target, string $words): void
    {
        try {
            self::get(Sources::class)->reader($target())->inventory();
            self::fail('It was reached.');
        } catch (SourceError $e) {
            self::assertStringContainsString($words, $e->inWords());
        }
    }

    public function testADamagedSqliteFileIsSaidToBe(): void
    {
        $target = Engines::sqlite(self::SCHEMAS.'sqlite.sql');
        $bytes = (string) file_get_contents($target->path);
        file_put_contents($target->path, substr($bytes, 0, 100).str_repeat("\xAA", \strlen($bytes) - 100));
        try {
            self::read($target);
            self::fail('It was read.');
        } catch (SourceError $e) {
            self::assertStringContainsString('is damaged', $e->getMessage());
        } finally {
            unlink($target->path);
        }
    }

    public function testAServerThatStopsInTheMiddleIsSaidToHaveStopped(): void
    {
        $target = self::postgreSql();
        $admin = Engines::pdo($target);
        $progress = new class($admin) implements Progress {
            public function __construct(private readonly \PDO $admin)
            {
            }

            public function at(string $what, int $done, int $total): void
            {
                if ('indexes' === $what) {
                    $this->admin->exec(
                        "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'fasti' AND datname = current_database()",
                    );
                }
            }
        };
        try {
            self::get(Sources::class)->reader($target)->read(new Choice(), $progress);
            self::fail('It was read to the end.');
        } catch (SourceError $e) {
            self::assertStringContainsString('was lost in the middle of reading', $e->getMessage());
            self::assertSame(SourceError::LOST, $e->what);
        }
    }

    public function testAStatementOverItsTimeIsGivenUpOnEachEngine(): void
    {
        OddSchema::make();
        foreach ([[self::postgreSql(), 'SELECT pg_sleep(5)'], [Address::fromUrl(OddSchema::url()), 'SELECT SLEEP(5)']] as [$target, $sql]) {
            try {
                foreach (self::rows($target, 1)->rows($sql) as $row) {
                    // MariaDB ends a sleep early rather than with an error.
                    self::assertSame('1', (string) reset($row));
                }
                self::assertSame('mariadb', $target->engine);
            } catch (SourceError $e) {
                self::assertSame(SourceError::OVER_TIME, $e->what);
                self::assertStringContainsString('more than 1 seconds', $e->getMessage());
            }
        }
        OddSchema::drop();
    }

    public function testNothingCanBeWrittenThroughASession(): void
    {
        $lite = Engines::sqlite(self::SCHEMAS.'sqlite.sql');
        foreach ([[self::postgreSql(), 'CREATE TABLE field.intruder (a int)'], [$lite, 'CREATE TABLE intruder (a int)']] as [$target, $sql]) {
            try {
                foreach (self::rows($target)->rows($sql) as $_) {
                    continue;
                }
                self::fail('It was written.');
            } catch (SourceError $e) {
                self::assertMatchesRegularExpression('/only reads/', $e->getMessage());
            }
        }
        unlink($lite->path);
    }

    public function testEveryEngineIsProfiledAlike(): void
    {
        $lite = new \PDO('sqlite::memory:', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        Mart::make($lite);
        $path = sys_get_temp_dir().'/fasti-mart-'.bin2hex(random_bytes(4)).'.sqlite';
        $lite->exec("VACUUM INTO '$path'");
        Engines::pdo(Engines::postgreSql())->exec('DROP DATABASE IF EXISTS fasti_mart_test');
        Engines::pdo(Engines::postgreSql())->exec('CREATE DATABASE fasti_mart_test');
        $target = Engines::postgreSql('fasti_mart_test');
        Mart::make(Engines::pdo($target));
        $profiles = [];
        foreach ([[new Target('sqlite', path: $path), 'main'], [$target, 'public']] as [$of, $schema]) {
            $table = self::read($of)->table($schema, 'sighting') ?? throw new \LogicException();
            $profiles[] = (new SqlProfiler(self::rows($of), Dialects::of($of->engine)))->profile($table, [], [], new SilentProgress());
        }
        unlink($path);
        Engines::drop($target);

        self::assertEquals($profiles[0]->fields, $profiles[1]->fields);
        self::assertSame($profiles[0]->rows, $profiles[0]->fields['day_seen_id']->values);
        self::assertLessThan($profiles[0]->rows, $profiles[0]->fields['day_confirmed_id']->values);
    }

    private static function rows(Target $target, int $seconds = 60): Rows
    {
        return self::get(Sources::class)->rows($target, $seconds) ?? throw new \LogicException('It has no session.');
    }

    private static function postgreSql(): Target
    {
        return self::$postgreSql ??= Engines::made(self::SCHEMAS.'postgresql.sql');
    }

    private static function read(Target $target): Catalog
    {
        return self::get(Sources::class)->reader($target)->read(new Choice(), new SilentProgress());
    }

    private static function fromScript(string $sql, string $dialect = ''): Catalog
    {
        $path = sys_get_temp_dir().'/fasti-'.bin2hex(random_bytes(4)).'.sql';
        file_put_contents($path, $sql);
        try {
            return FilesReader::open($path, $dialect)->read(new Choice(), new SilentProgress());
        } finally {
            unlink($path);
        }
    }

    /** Tables in everything but the figures of the moment; views in their names, kinds, queries, and the names and types of their columns. */
    private static function assertSameStructure(Catalog $live, Catalog $script): void
    {
        self::assertSame(array_map(self::place(...), $live->tables), array_map(self::place(...), $script->tables));
        foreach ($live->tables as $i => $table) {
            $a = OpenForm::of($table);
            $b = OpenForm::of($script->tables[$i]);
            unset($a['rowEstimate'], $a['sizeBytes'], $b['rowEstimate'], $b['sizeBytes']);
            if ($table->kind->isView()) {
                $columns = static fn (Table $view): array => array_map(static fn (Column $column): string => $column->name.' '.$column->type, $view->columns);
                self::assertSame($columns($table), $columns($script->tables[$i]), $table->name);
                $plain = static fn (?string $sql): string => (string) preg_replace(['/\s+/', '/`[^`]*(?:``[^`]*)*`\.(?=`)/'], [' ', ''], (string) $sql);
                self::assertSame($plain($table->definition), $plain($script->tables[$i]->definition), $table->name);
                unset($a['columns'], $b['columns'], $a['definition'], $b['definition'], $a['storage'], $b['storage'], $a['collation'], $b['collation']);
            }
            self::assertSame($a, $b, $table->name);
        }
    }

    private static function place(Table $table): string
    {
        return $table->schema.'.'.$table->name;
    }

    private static function table(Catalog $catalog, string $name): Table
    {
        foreach ($catalog->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }
        self::fail("There is no $name.");
    }

    /** @return list<string> */
    private static function names(Catalog $catalog, string $schema): array
    {
        return array_values(array_map(
            static fn (Table $table): string => $table->name,
            array_filter($catalog->tables, static fn (Table $table): bool => $table->schema === $schema),
        ));
    }
}
