<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Statements;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Script\ScriptReader;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** That what scripts say equals what the engines say is tested against real ones, in tests/app/Source. */
final class ScriptReaderTest extends TestCase
{
    public function testAFaultIsSaidWithItsLineAndTheRestComesIn(): void
    {
        $catalog = self::read("CREATE TABLE a (b int);\n\nCREATE TABLE c (\n d int,\n e int PRIMARY,\n);\nCREATE TABLE f (g int);");

        self::assertSame(['a', 'f'], self::names($catalog));
        self::assertStringContainsString('line 6', $catalog->notes[0]);
        self::assertStringContainsString('CREATE TABLE c', $catalog->notes[0]);
    }

    public function testATruncatedScriptGivesWhatIsWholeAndSaysWhereItBreaksOff(): void
    {
        $catalog = self::read("CREATE TABLE a (b int);\nCREATE TABLE c (d int, e varch");

        self::assertSame(['a'], self::names($catalog));
        self::assertStringContainsString('line 2', $catalog->notes[0]);
        self::assertStringContainsString('breaks off', $catalog->notes[0]);
    }

    public function testWhatSaysNothingAboutStructureIsCounted(): void
    {
        $catalog = self::read("CREATE TABLE a (b int);\nINSERT INTO a VALUES (1);\nINSERT INTO a VALUES (';');\nGRANT SELECT ON a TO b;");

        self::assertSame('Of 4 statements, 1 was understood, 3 say nothing about structure (2 INSERT, 1 GRANT).', $catalog->statements?->inWords());
    }

    public function testConstraintsAddedLaterBelongToTheirTable(): void
    {
        $table = self::table(
            "CREATE TABLE a (b int, c int);\nCREATE TABLE x (y int PRIMARY KEY);\nALTER TABLE a ADD CONSTRAINT p PRIMARY KEY (b), ADD CONSTRAINT f FOREIGN "
                ."KEY (c) REFERENCES x ON DELETE SET NULL;\nALTER TABLE a ADD COLUMN d decimal(6,2) DEFAULT 0;\nALTER TABLE a ADD CHECK (c > 0);",
            'a',
        );

        self::assertSame(['b'], $table->primaryKey?->columns);
        self::assertSame(
            [['c'], 'x', ['y'], 'SET NULL'],
            [
                $table->foreignKeys[0]->columns,
                $table->foreignKeys[0]->references->table,
                $table->foreignKeys[0]->references->columns,
                $table->foreignKeys[0]->onDelete,
            ],
        );
        self::assertSame('decimal(6,2)', $table->column('d')?->type);
        self::assertSame('c > 0', $table->checks[0]->expression);
    }

    public function testCommentsReachWhatTheyAreAbout(): void
    {
        $table = self::table("CREATE TABLE public.a (b int);\nCOMMENT ON TABLE public.a IS 'it''s a';\nCOMMENT ON COLUMN a.b IS 'of b';", 'a', 'postgresql');

        self::assertSame(["it's a", 'of b'], [$table->comment, $table->column('b')?->comment]);
    }

    public function testTheColumnsOfAViewAreWorkedOutFromItsQuery(): void
    {
        $view = self::table(
            'CREATE TABLE a (id int, name varchar(9)); CREATE TABLE b (id int, a_id int, at date); CREATE VIEW v AS SELECT a.*, x.at AS "when", COUNT(*) '
                .'AS n, upper(a.name) FROM a LEFT JOIN b x ON x.a_id = a.id',
            'v',
        );

        self::assertSame(TableType::View, $view->kind);
        self::assertSame(
            [['id', 'int'], ['name', 'varchar(9)'], ['when', 'date'], ['n', 'bigint'], ['upper(a.name)', 'varchar']],
            array_map(static fn ($column): array => [$column->name, $column->type], $view->columns),
        );
    }

    /** @return iterable<int, array{string, string, string}> */
    public static function types(): iterable
    {
        yield ['mariadb', 'INTEGER UNSIGNED', 'int(10) unsigned'];
        yield ['mariadb', 'bool', 'tinyint(1)'];
        yield ['mariadb', 'NUMERIC(6)', 'decimal(6,0)'];
        yield ['mariadb', "ENUM('a', 'b,c')", "enum('a','b,c')"];
        yield ['mariadb', 'double precision', 'double'];
        yield ['mysql', 'INT', 'int'];
        yield ['postgresql', 'VARCHAR(12)', 'character varying(12)'];
        yield ['postgresql', 'timestamptz(3)', 'timestamp(3) with time zone'];
        yield ['postgresql', 'int8[]', 'bigint[]'];
        yield ['postgresql', 'char', 'character(1)'];
        yield ['sqlite', 'UNSIGNED BIG INT', 'UNSIGNED BIG INT'];
        yield ['sqlite', '', ''];
    }

    #[DataProvider('types')]
    public function testTypesAreWrittenAsTheEngineWritesThem(string $dialect, string $written, string $expected): void
    {
        self::assertSame($expected, self::table("CREATE TABLE t (x $written NOT NULL)", 't', $dialect)->columns[0]->type);
    }

    /** @return iterable<string, array{string, string}> */
    public static function heads(): iterable
    {
        yield 'a dump of MariaDB' => ["-- MariaDB dump 10.19\nCREATE TABLE `a` (`b` int(11)) ENGINE=InnoDB;", 'mariadb'];
        yield 'one of MySQL' => ["/*!40101 SET NAMES utf8 */;\nCREATE TABLE `a` (`b` int AUTO_INCREMENT) ENGINE=InnoDB;", 'mysql'];
        yield 'one of PostgreSQL' => [
            "SELECT pg_catalog.set_config('search_path', '', false);\nCREATE TABLE public.a (b character varying(3));\nALTER TABLE public.a OWNER TO x;",
            'postgresql',
        ];
        yield 'one of SQLite' => ["PRAGMA foreign_keys=OFF;\nCREATE TABLE a (b INTEGER PRIMARY KEY AUTOINCREMENT);", 'sqlite'];
        yield 'none in particular' => ['CREATE TABLE a (b INTEGER);', 'sql'];
    }

    #[DataProvider('heads')]
    public function testTheDialectIsWorkedOut(string $head, string $expected): void
    {
        self::assertSame($expected, Dialects::detected($head)->grammar->engine);
    }

    public function testWhatDecidedTheDialectIsSaid(): void
    {
        self::assertStringContainsString('read as SQLite, by AUTOINCREMENT and PRAGMA', self::told("PRAGMA x=1;\nCREATE TABLE a (b INTEGER AUTOINCREMENT);"));
        self::assertStringContainsString('Nothing in the script tells its dialect', self::told('CREATE TABLE a (b INT);'));
        self::assertStringContainsString('read as MariaDB, by', self::told('CREATE TABLE `a` (`b` int(11)) ENGINE=InnoDB;'));
        self::assertStringContainsString('It may be MySQL as well', self::told('CREATE TABLE `a` (`b` int(11)) ENGINE=InnoDB;'));
        self::assertStringContainsString('by INTEGER PRIMARY KEY', self::told('CREATE TABLE a (b INTEGER PRIMARY KEY);'));
        // What stands in texts tells nothing.
        self::assertStringContainsString('standard SQL', self::told("CREATE TABLE a (b INT DEFAULT 'x::int jsonb AUTOINCREMENT');"));
    }

    private static function told(string $script): string
    {
        return Dialects::detected($script)->inWords();
    }

    public function testAScriptIsReadInItsOwnEncoding(): void
    {
        $sql = "CREATE TABLE größe (a int) COMMENT='ö';\nINSERT INTO größe VALUES (1);\n";
        foreach (['UTF-16LE' => "\xFF\xFE", 'UTF-16BE' => "\xFE\xFF", 'UTF-32LE' => "\xFF\xFE\0\0"] as $encoding => $mark) {
            $catalog = self::read($mark.mb_convert_encoding($sql, $encoding, 'UTF-8'), 'mariadb');

            self::assertSame(['größe'], self::names($catalog), $encoding);
            self::assertStringContainsString('written in '.substr($encoding, 0, 6), implode(' ', $catalog->notes));
        }
        $latin = self::read("SET NAMES cp1251;\n".mb_convert_encoding("CREATE TABLE имя (a int);\n", 'Windows-1251', 'UTF-8'), 'mariadb');
        self::assertSame(['имя'], self::names($latin));
        self::assertStringContainsString('as Windows-1251, as the script says', implode(' ', $latin->notes));
    }

    public function testHowMuchWasUnderstoodIsOneFigure(): void
    {
        $catalog = self::read(
            "CREATE TABLE a (b int);\nCREATE WIDGET 'secret';\nINSERT INTO a VALUES (1);\nALTER TABLE a FOO;\nCREATE TABLE c (d int);\n",
            'postgresql',
        );

        $report = (string) $catalog->statements?->report('PostgreSQL script');
        self::assertStringContainsString('4: This change of a table is not understood', $report);
        self::assertStringNotContainsString("CREATE WIDGET 'secret'", $report);
        self::assertEquals(new Statements(2, 2, 1, [
            "2: What is to be made is not understood at “''…''”: CREATE WIDGET '…'",
            '4: This change of a table is not understood at “FOO”: ALTER TABLE a FOO',
        ], ['INSERT' => 1]), $catalog->statements?->with(left: array_map(
            static fn (string $left): string => str_replace("'secret'", "''…''", $left),
            $catalog->statements->left,
        )));
    }

    /** @return iterable<string, array{string, string}> */
    public static function wrong(): iterable
    {
        yield 'an empty file' => ['', 'is empty'];
        yield 'JSON' => ['{"a": 1}', 'looks like JSON'];
        yield 'a database file' => ["SQLite format 3\0…", 'looks like an SQLite database'];
        yield 'a workbook' => ["PK\x03\x04…", 'looks like a zip archive'];
        yield 'nothing in another encoding' => ["\xFF\xFE", 'is empty'];
        yield 'data only' => ["INSERT INTO a VALUES (1);\n", 'makes no table and no view'];
    }

    #[DataProvider('wrong')]
    public function testAFileThatIsNotWhatItsEndingSaysIsRefusedInWords(string $content, string $words): void
    {
        $this->expectException(SourceError::class);
        $this->expectExceptionMessage($words);
        self::read($content);
    }

    public function testLettersThatAreNotUtf8AreReadAndSaid(): void
    {
        $catalog = self::read("CREATE TABLE `caf\xE9` (b int) COMMENT 'caf\xE9';", 'mariadb');

        self::assertSame('café', $catalog->tables[0]->comment);
        self::assertStringContainsString('not in UTF-8', implode(' ', $catalog->notes));
    }

    private static function read(string $script, ?string $dialect = null): Catalog
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'fasti');
        file_put_contents($path, $script);
        try {
            return (new ScriptReader($path, null === $dialect ? null : Dialects::of($dialect)->grammar()))->read(new Choice(), new SilentProgress());
        } finally {
            unlink($path);
        }
    }

    private static function table(string $script, string $name, ?string $dialect = null): Table
    {
        foreach (self::read($script, $dialect)->tables as $table) {
            if ($table->name === $name) {
                return $table;
            }
        }
        self::fail("There is no $name.");
    }

    /** @return list<string> */
    private static function names(Catalog $catalog): array
    {
        return array_map(static fn (Table $table): string => $table->name, $catalog->tables);
    }
}
