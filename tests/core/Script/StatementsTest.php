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
        yield 'comments' => ['sql', "a -- ; not here\n; /* ; */ b", ['a', 'b']];
        yield 'a hash begins a comment in MySQL' => ['mysql', "a # ;\n; b", ['a', 'b']];
        yield 'comments within comments' => ['postgresql', 'a /* ; /* ; */ ; */ b; c', ['a b', 'c']];
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
