<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Attack;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\Loop;
use Fasti\Core\Join\LoopSql;
use Fasti\Core\Join\Observing;
use Fasti\Core\Join\Route;
use Fasti\Core\Join\RouteSql;
use Fasti\Core\Join\Step;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\OneOf;
use Fasti\Join\Examples;
use Fasti\Source\Sources;
use Fasti\Tests\App\AppTestCase;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\Attributes\DataProvider;

/** What a person writes stays a text, on whatever engine and in whatever mode its session is. */
final class HostileTextTest extends AppTestCase
{
    private const SCHEMA = 'fasti_hostile';
    private static ?Target $postgreSql = null;
    private static ?string $sqlite = null;

    public static function setUpBeforeClass(): void
    {
        $tables = [
            'CREATE TABLE station (id INT NOT NULL PRIMARY KEY, name VARCHAR(40))',
            'CREATE TABLE secret_box (pw VARCHAR(40))', "INSERT INTO secret_box VALUES ('MARKED')",
            'CREATE TABLE note (id INT NOT NULL PRIMARY KEY, kind VARCHAR(200), ref INT, other INT)',
            "INSERT INTO station VALUES (1, 'Weir')", "INSERT INTO note VALUES (1, 'station', 1, 1), (2, 'reach', 1, 1)",
        ];
        $server = OddSchema::server();
        foreach (['DROP DATABASE IF EXISTS '.self::SCHEMA, 'CREATE DATABASE '.self::SCHEMA, 'USE '.self::SCHEMA, ...$tables,
            "CREATE OR REPLACE USER fasti_hostile@'127.0.0.1' IDENTIFIED BY 'h'", 'GRANT SELECT ON '.self::SCHEMA.".* TO fasti_hostile@'127.0.0.1'"] as $sql) {
            $server->exec($sql);
        }
        $script = (string) tempnam(sys_get_temp_dir(), 'fasti');
        file_put_contents($script, implode(";\n", $tables).';');
        self::$postgreSql = Engines::made($script);
        self::$sqlite = Engines::sqlite($script)->path;
        unlink($script);
    }

    public static function tearDownAfterClass(): void
    {
        OddSchema::server()->exec('DROP DATABASE '.self::SCHEMA);
        OddSchema::server()->exec("DROP USER fasti_hostile@'127.0.0.1'");
        if (null !== self::$postgreSql) {
            Engines::drop(self::$postgreSql);
        }
        unlink((string) self::$sqlite);
    }

    /** @return list<string> */
    private static function texts(): array
    {
        return [
            "it's", '\\', "\\'", "\\\\'", "\\' OR 1=1 -- ", "' OR '1'='1", "\\' UNION SELECT pw, pw, pw, pw FROM secret_box -- ", 'x\\', "a'b\\'c''d",
            '/* x */', '-- x', '# x',
            '$$x$$', '$tag$x$tag$', ":name ? ?? :1 ' ?", "\\' ? :x", "new\nline\r\t", "\u{2019}\u{ff07}", '"x"', '`x`', "E'\\047'", '%_', ';DROP TABLE note;',
            '\\x27 OR 1=1', "\0", "a\0' OR 1=1 -- ",
            "') OR EXTRACTVALUE(1, CONCAT(0x7e, (SELECT pw FROM secret_box))) -- ", "\\' OR EXTRACTVALUE(1, CONCAT(0x7e, (SELECT pw FROM secret_box))) = '",
        ];
    }

    #[DataProvider('sessions')]
    public function testItComesBackAsItWasWritten(string $engine, string $mode): void
    {
        $rows = self::session($engine);
        $dialect = Dialects::of($engine);
        if ('' !== $mode) {
            foreach ($rows->rows($mode) as $row) {
                continue;
            }
        }
        foreach (self::texts() as $text) {
            // The extension hands texts over as far as the first NUL; the engine has them whole.
            $asked = 'sqlite' === $engine ? 'CAST(hex('.$dialect->literal($text).') AS TEXT)' : $dialect->literal($text);
            $back = iterator_to_array($rows->rows("SELECT $asked AS t, 1 AS one"), false);
            $expected = match (true) {
                'sqlite' === $engine => strtoupper(bin2hex($text)),
                'postgresql' === $engine => str_replace("\0", "\u{2400}", $text),
                // Fasti's own sessions never have this mode; where it is, a text is another one and still no more than a text.
                str_contains($mode, 'NO_BACKSLASH') => str_replace('\\', '\\\\', $text),
                default => $text,
            };
            self::assertSame([['t' => $expected, 'one' => '1']], $back, addcslashes($text, "\0..\37"));
        }
    }

    /** @return iterable<string, array{string, string}> */
    public static function sessions(): iterable
    {
        yield 'MariaDB' => ['mariadb', ''];
        yield 'MariaDB with quoted names' => ['mariadb', "SET SESSION sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'"];
        yield 'MariaDB without escapes' => ['mariadb', "SET SESSION sql_mode = 'NO_BACKSLASH_ESCAPES'"];
        yield 'PostgreSQL' => ['postgresql', ''];
        yield 'PostgreSQL of old' => ['postgresql', 'SET standard_conforming_strings = off'];
        yield 'SQLite' => ['sqlite', ''];
    }

    public function testASessionReadsBackslashesAsItIsExpectedWhateverTheServerIsSetTo(): void
    {
        $server = OddSchema::server();
        $known = $server->query('SELECT @@GLOBAL.sql_mode');
        $was = false === $known ? '' : $known->fetchColumn();
        $server->exec("SET GLOBAL sql_mode = 'NO_BACKSLASH_ESCAPES,ANSI_QUOTES'");
        try {
            $back = iterator_to_array(self::session('mariadb')->rows('SELECT '.Dialects::of('mariadb')->literal("a\\'b").' AS t'), false);
        } finally {
            $server->exec('SET GLOBAL sql_mode = '.$server->quote((string) $was));
        }

        self::assertSame([['t' => "a\\'b"]], $back);
    }

    #[DataProvider('engines')]
    public function testTheConditionOfAJoinIsAValueWhereverItIsAsked(string $engine): void
    {
        $rows = self::session($engine);
        $dialect = Dialects::of($engine);
        $schema = ['mariadb' => self::SCHEMA, 'postgresql' => 'public', 'sqlite' => 'main'][$engine];
        $note = new Table(
            $schema, 'note', TableType::Table, '',
            [new Column('id', 'int'), new Column('kind', 'varchar(200)'), new Column('ref', 'int'), new Column('other', 'int')],
        );
        $station = new Table(
            $schema, 'station', TableType::Table, '', [new Column('id', 'int'), new Column('name', 'varchar(40)')],
            new \Fasti\Core\Catalog\Key(null, ['id']),
        );
        $places = [$note->place(), $station->place()];
        self::assertCount(2, (new Catalog($engine, '', [$note, $station]))->tables);
        $profile = $dialect->profiling() ?? throw new \LogicException();
        foreach (['station', ...self::texts()] as $text) {
            $hits = 'station' === $text ? 1 : 0;
            $about = addcslashes($text, "\0..\37");
            $link = new Link(1, 0, 1, [['ref', 'id']], new Cardinality(End::NoneOrMore, End::NoneOrOne), where: ['kind', $text]);
            self::assertSame(
                $hits,
                self::number($rows, (new RouteSql($dialect, $places))->select(new Route([new Step($link, true)], 1.0), what: 'COUNT(*) AS n')),
                $about,
            );
            $loop = new Loop(
                0,
                1,
                [new Step($link, true)],
                [new Step(new Link(2, 0, 1, [['other', 'id']], new Cardinality(End::NoneOrMore, End::NoneOrOne)), true)],
            );
            $counted = iterator_to_array($rows->rows((new LoopSql($dialect, $places))->count($loop)), false)[0] ?? [];
            self::assertSame($hits, (int) $counted['both_ways'], $about);
            self::assertSame($hits, (new Observing($rows, $dialect))->of($note, $station, [['ref', 'id']], ['kind', $text])->rows, $about);
            $examples = (new Examples($rows, $dialect))->of($note, $station, [['ref', 'id']], ['kind', $text], [], []);
            self::assertCount($hits, $examples, $about);
            self::assertStringNotContainsString('MARKED', (string) json_encode($examples));
            $allowed = (new OneOf([$text]))->sql($profile, $note->columns[1], TypeFamily::Text);
            self::assertSame($hits, self::number($rows, 'SELECT COUNT(*) AS n FROM '.$dialect->placed($note->place())." WHERE $allowed"), $about);
            $like = ($dialect->asking() ?? throw new \LogicException())->holds($dialect->quoted('kind'), $text, true);
            self::assertSame($hits, self::number($rows, 'SELECT COUNT(*) AS n FROM '.$dialect->placed($note->place())." WHERE $like"), $about);
        }
    }

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        yield 'MariaDB' => ['mariadb'];
        yield 'PostgreSQL' => ['postgresql'];
        yield 'SQLite' => ['sqlite'];
    }

    public function testAnErrorOfTheEngineIsTurnedIntoWordsThatHoldNoValue(): void
    {
        $asked = [
            'mariadb' => [
                'SELECT EXTRACTVALUE(1, CONCAT(0x7e, (SELECT pw FROM secret_box))) AS x',
                'SELECT CAST(pw AS INT) + 9223372036854775807 AS x FROM secret_box',
                'SELECT MARKED FROM note',
            ],
            'postgresql' => ['SELECT CAST(pw AS int) AS x FROM secret_box', 'SELECT 1 / (id - id) AS x FROM note', 'SELECT "MARKED" FROM note'],
            'sqlite' => ['SELECT json(pw) AS x FROM secret_box', 'SELECT MARKED FROM note WHERE nosuch('],
        ];
        $said = 0;
        foreach ($asked as $engine => $questions) {
            foreach ($questions as $sql) {
                try {
                    foreach (self::session($engine)->rows($sql) as $row) {
                        continue;
                    }
                } catch (\Fasti\Core\Survey\SourceError $e) {
                    ++$said;
                    for ($at = $e; null !== $at; $at = $at->getPrevious()) {
                        self::assertStringNotContainsString('MARKED', $at->getMessage());
                    }
                    self::assertNotSame('', $e->inWords());
                }
            }
        }

        self::assertGreaterThanOrEqual(6, $said);
    }

    private static function session(string $engine): Rows
    {
        $target = match ($engine) {
            'mariadb' => new Target('mariadb', '127.0.0.1', self::port(), self::SCHEMA, 'fasti_hostile', 'h'),
            'postgresql' => self::$postgreSql ?? throw new \LogicException(),
            default => new Target('sqlite', path: (string) self::$sqlite),
        };

        return self::get(Sources::class)->rows($target, 20) ?? throw new \LogicException();
    }

    private static function number(Rows $rows, string $sql): int
    {
        foreach ($rows->rows($sql) as $row) {
            return (int) ($row['n'] ?? 0);
        }

        return -1;
    }
}
