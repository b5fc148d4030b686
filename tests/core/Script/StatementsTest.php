<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Script\Statements;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class StatementsTest extends TestCase
{
    /** @return iterable<string, array{string, string, list<string>}> */
    public static function scripts(): iterable
    {
        yield 'a semicolon within a text' => ['sql', "a ';' b; c", ["a ';' b", 'c']];
        yield 'a quote within a text' => ['sql', "a 'it''s;' ; b", ["a 'it''s;'", 'b']];
        yield 'a backslash ends nothing outside MySQL' => ['sql', "a '\\'; b", ["a '\\'", 'b']];
        yield 'a backslash escapes in MySQL' => ['mysql', "a '\\';' ; b", ["a '\\';'", 'b']];
        yield 'names in quotes' => ['sql', 'a ";" ; b', ['a ";"', 'b']];
        yield 'comments' => ['sql', "a -- ; not here\n; /* ; */ b", ['a -- ; not here', 'b']];
        yield 'a hash begins a comment in MySQL' => ['mysql', "a # ;\n; b", ['a # ;', 'b']];
        yield 'comments within comments' => ['postgresql', 'a /* ; /* ; */ ; */ b; c', ['a /* ; /* ; */ ; */ b', 'c']];
        yield 'conditional comments are read' => ['mariadb', '/*!50001 CREATE VIEW v AS */ /*!50002 SELECT 1 */; b', ['CREATE VIEW v AS SELECT 1', 'b']];
        yield 'another delimiter' => [
            'mysql',
            "a;\nDELIMITER ;;\nCREATE TRIGGER t BEGIN x; y; END ;;\nDELIMITER ;\nb;",
            ['a', 'CREATE TRIGGER t BEGIN x; y; END', 'b'],
        ];
        yield 'dollar quotes' => ['postgresql', 'CREATE FUNCTION f() AS $b$ x; $$ y; $b$; c', ['CREATE FUNCTION f() AS $b$ x; $$ y; $b$', 'c']];
        yield 'data of COPY is passed over' => ['postgresql', "COPY t (a) FROM stdin;\n1;'\t\n2\n\\.\nb;", ['COPY t (a) FROM stdin', 'b']];
        yield 'lines of psql' => ['postgresql', "\\connect x\na;", ['a']];
        yield 'a trigger with statements of its own' => [
            'sqlite',
            'CREATE TRIGGER t AFTER INSERT ON a BEGIN UPDATE a SET b = CASE WHEN 1 THEN 2 END; DELETE FROM c; END; d',
            ['CREATE TRIGGER t AFTER INSERT ON a BEGIN UPDATE a SET b = CASE WHEN 1 THEN 2 END; DELETE FROM c; END', 'd'],
        ];
        yield 'words of a body that stand in comments and texts' => [
            'mariadb',
            "CREATE TRIGGER t BEFORE INSERT ON a FOR EACH ROW BEGIN -- begin case\n SET x = 'begin'; END; d",
            ["CREATE TRIGGER t BEFORE INSERT ON a FOR EACH ROW BEGIN -- begin case SET x = 'begin'; END", 'd'],
        ];
        yield 'several statements between two signs of DELIMITER' => ['mysql', "DELIMITER \$\$\na; b\$\$\nDELIMITER ;\nc;", ['a', 'b', 'c']];
        yield 'a body in the form of the standard' => [
            'postgresql',
            'CREATE FUNCTION f() BEGIN ATOMIC SELECT 1; SELECT CASE WHEN 1 THEN 2 END; END; c',
            ['CREATE FUNCTION f() BEGIN ATOMIC SELECT 1; SELECT CASE WHEN 1 THEN 2 END; END', 'c'],
        ];
        yield 'a dollar quote with what looks like the end of another' => [
            'postgresql',
            "DO \$a\$ it's; -- \$\$ begin \$a\$; b",
            ["DO \$a\$ it's; -- \$\$ begin \$a\$", 'b'],
        ];
        yield 'comments for other versions' => ['mariadb', '/*!80016 CREATE */ a /*!50001 b */ /*M!100100 c */ /*M!999999\- d */; e', ['a b c', 'e']];
        yield 'what only MariaDB reads' => ['mysql', 'a /*M!100100 c */ /*!80016 d */; e', ['a d', 'e']];
        yield 'batches' => ['sql', "a\nGO\nb; c\n/\nd", ['a', 'b', 'c', 'd']];
        yield 'lines of the shell of SQLite' => ['sqlite', ".bail on\na;\n.print it's\nb;", ['a', 'b']];
        yield 'a table that is called like a program' => ['mysql', 'CREATE TABLE event (begin int); b', ['CREATE TABLE event (begin int)', 'b']];
        yield 'nothing at all' => ['sql', " \n;;\n-- only words\n", []];
    }

    /** @param list<string> $expected */
    #[DataProvider('scripts')]
    public function testAScriptIsCutWhereItsStatementsEnd(string $dialect, string $script, array $expected): void
    {
        $found = array_map(static fn (array $statement): string => trim((string) preg_replace('/\s+/', ' ', $statement[0])), self::cut($dialect, $script));

        self::assertSame($expected, $found);
    }

    public function testEachStatementKnowsItsLine(): void
    {
        $statements = self::cut('mariadb', "-- one\n/* two\nthree */\nCREATE TABLE a (\n b int);\n\n\nCREATE TABLE c (d int);");

        self::assertSame([4, 8], array_column($statements, 1));
    }

    public function testAStatementThatBreaksOffIsGivenAsSuch(): void
    {
        self::assertSame([true, false], array_column(self::cut('sql', "a; CREATE TABLE b (c int, d varchar('x"), 2));
    }

    public function testABodyWithoutAnEndSwallowsNothing(): void
    {
        $found = self::cut(
            'mariadb',
            "CREATE TRIGGER t BEFORE INSERT ON a FOR EACH ROW BEGIN\n SET x = 1;\nCREATE TABLE b (c int);\nCREATE TABLE d (e int);\n",
        );

        self::assertSame([false, true, true], array_column($found, 2));
        self::assertSame([1, 3, 4], array_column($found, 1));
        self::assertStringContainsString('CREATE TABLE b', $found[1][0]);
    }

    public function testStatementsMayBeLongerThanWhatIsReadAtATime(): void
    {
        $long = str_repeat("'it''s ; long', ", 60000);
        $statements = self::cut('sql', "INSERT INTO t VALUES ($long 1); b");

        self::assertCount(2, $statements);
        self::assertSame('b', trim($statements[1][0]));
    }

    /** @return list<array{string, int, bool}> */
    private static function cut(string $dialect, string $script): array
    {
        $stream = fopen('php://memory', 'w+') ?: throw new \LogicException();
        fwrite($stream, $script);
        rewind($stream);

        return iterator_to_array(new Statements($stream, Dialects::of($dialect)->grammar() ?? new Grammar()), false);
    }
}
