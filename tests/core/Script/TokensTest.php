<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Script;

use Fasti\Core\Script\Dialect;
use Fasti\Core\Script\ScriptFault;
use Fasti\Core\Script\Tokens;
use Fasti\Core\Script\Types;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class TokensTest extends TestCase
{
    public function testKeywordsMatchInEitherCaseAndQuotedNamesAreNone(): void
    {
        $t = new Tokens('not NULL "NOT" x', Dialect::Standard);

        self::assertFalse($t->take('NOT', 'DEFAULT'));
        self::assertTrue($t->take('NOT', 'NULL'));
        self::assertFalse($t->take('NOT'));
        self::assertSame(['NOT', 'x'], [$t->name(), $t->name()]);
        self::assertTrue($t->over());
    }

    /** @param array{?string, string} $expected */
    #[TestWith([Dialect::PostgreSql, 'Field.Station', ['field', 'station']])]
    #[TestWith([Dialect::PostgreSql, '"Field"."Sta""tion"', ['Field', 'Sta"tion']])]
    #[TestWith([Dialect::MariaDb, '`a``b`.c', ['a`b', 'c']])]
    #[TestWith([Dialect::Sqlite, '[in brackets]', [null, 'in brackets']])]
    #[TestWith([Dialect::Standard, 'server.field.Station', ['field', 'Station']])]
    #[TestWith([Dialect::Standard, 'größe', [null, 'größe']])]
    public function testNamesAreReadAsTheDialectQuotesThem(Dialect $dialect, string $sql, array $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, $dialect))->qualified());
    }

    #[TestWith([Dialect::Standard, "'it''s'", "it's"])]
    #[TestWith([Dialect::MariaDb, "'a\\'b\\nc'", "a'b\nc"])]
    #[TestWith([Dialect::MariaDb, '"double"', 'double'])]
    #[TestWith([Dialect::Sqlite, "'a\\'", 'a\\'])]
    #[TestWith([Dialect::PostgreSql, "E'a\\nb'", "a\nb"])]
    #[TestWith([Dialect::PostgreSql, "'a\\nb'", 'a\\nb'])]
    #[TestWith([Dialect::PostgreSql, '$x$ it\'s $$ $x$', " it's $$ "])]
    #[TestWith([Dialect::Standard, '42', null])]
    #[TestWith([Dialect::Standard, 'word', null])]
    public function testTextsAreReadWithoutTheirQuotes(Dialect $dialect, string $sql, ?string $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, $dialect))->text());
    }

    #[TestWith(['0 NOT NULL', '0'])]
    #[TestWith(["'a, b', c", "'a, b'"])]
    #[TestWith(['nextval(\'x\'::regclass) PRIMARY KEY', "nextval('x'::regclass)"])]
    #[TestWith(['(1 + (2 * 3)) CHECK (x)', '(1 + (2 * 3))'])]
    #[TestWith(['-1.5e3)', '-1.5e3'])]
    #[TestWith(["'G'::public.flag COLLATE x", "'G'::public.flag"])]
    public function testAnExpressionEndsWhereTheDefinitionGoesOn(string $sql, string $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, Dialect::PostgreSql))->expression());
    }

    public function testWhatStandsInParenthesesIsKeptAsWritten(): void
    {
        $t = new Tokens("( a  > ')' AND (b) )  rest of it", Dialect::Standard);

        self::assertSame("a  > ')' AND (b)", $t->parenthesis());
        self::assertSame('rest of it', $t->rest());
        self::assertSame('', $t->rest());
    }

    public function testAnElementIsPassedOverUpToItsEnd(): void
    {
        $t = new Tokens('a (x, y) b, c)', Dialect::Standard);
        $t->skipElement();
        self::assertSame(',', $t->peek());
        $t->skip();
        $t->skipElement();
        self::assertSame(')', $t->peek());
    }

    public function testAFaultKnowsItsPlace(): void
    {
        try {
            (new Tokens("a\n  + b", Dialect::Standard))->names();
            self::fail('It was read.');
        } catch (ScriptFault $e) {
            self::assertSame(['“(” was expected at “a”', 0], [$e->getMessage(), $e->offset]);
        }
        $t = new Tokens('(a, b', Dialect::Standard);
        $this->expectException(ScriptFault::class);
        $this->expectExceptionMessage('but the statement ends there');
        $t->names();
    }

    #[TestWith([Dialect::MariaDb, 'tinyint', '', 'unsigned', 'tinyint(3) unsigned'])]
    #[TestWith([Dialect::MariaDb, 'BIGINT', '', '', 'bigint(20)'])]
    #[TestWith([Dialect::MySql, 'bigint', '', 'UNSIGNED', 'bigint unsigned'])]
    #[TestWith([Dialect::MariaDb, 'int', '5', 'ZEROFILL', 'int(5) unsigned zerofill'])]
    #[TestWith([Dialect::MariaDb, 'float', '30', '', 'double'])]
    #[TestWith([Dialect::MariaDb, 'decimal', '', '', 'decimal(10,0)'])]
    #[TestWith([Dialect::MariaDb, 'datetime', '0', '', 'datetime'])]
    #[TestWith([Dialect::MariaDb, 'character varying', '12', '', 'varchar(12)'])]
    #[TestWith([Dialect::PostgreSql, 'timestamp', '6', 'with time zone', 'timestamp(6) with time zone'])]
    #[TestWith([Dialect::PostgreSql, 'numeric', '8, 2', '', 'numeric(8,2)'])]
    #[TestWith([Dialect::PostgreSql, 'text', '', '[][]', 'text[]'])]
    #[TestWith([Dialect::PostgreSql, 'varchar', '9', 'ARRAY', 'character varying(9)[]'])]
    #[TestWith([Dialect::PostgreSql, 'field.flag', '', '', 'field.flag'])]
    #[TestWith([Dialect::Standard, 'DOUBLE PRECISION', '', '', 'DOUBLE PRECISION'])]
    public function testEachEnginesCatalogWritesATypeInItsOwnForm(Dialect $dialect, string $base, string $options, string $after, string $expected): void
    {
        self::assertSame($expected, Types::canonical($dialect, $base, $options, $after));
    }
}
