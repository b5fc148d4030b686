<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class TokensTest extends TestCase
{
    public function testKeywordsMatchInEitherCaseAndQuotedNamesAreNone(): void
    {
        $t = new Tokens('not NULL "NOT" x', self::grammar('sql'));

        self::assertFalse($t->take('NOT', 'DEFAULT'));
        self::assertTrue($t->take('NOT', 'NULL'));
        self::assertFalse($t->take('NOT'));
        self::assertSame(['NOT', 'x'], [$t->name(), $t->name()]);
        self::assertTrue($t->over());
    }

    /** @param array{?string, string} $expected */
    #[TestWith(['postgresql', 'Field.Station', ['field', 'station']])]
    #[TestWith(['postgresql', '"Field"."Sta""tion"', ['Field', 'Sta"tion']])]
    #[TestWith(['mariadb', '`a``b`.c', ['a`b', 'c']])]
    #[TestWith(['sqlite', '[in brackets]', [null, 'in brackets']])]
    #[TestWith(['sql', 'server.field.Station', ['field', 'Station']])]
    #[TestWith(['sql', 'größe', [null, 'größe']])]
    public function testNamesAreReadAsTheDialectQuotesThem(string $dialect, string $sql, array $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, self::grammar($dialect)))->qualified());
    }

    #[TestWith(['sql', "'it''s'", "it's"])]
    #[TestWith(['mariadb', "'a\\'b\\nc'", "a'b\nc"])]
    #[TestWith(['mariadb', '"double"', 'double'])]
    #[TestWith(['sqlite', "'a\\'", 'a\\'])]
    #[TestWith(['postgresql', "E'a\\nb'", "a\nb"])]
    #[TestWith(['postgresql', "'a\\nb'", 'a\\nb'])]
    #[TestWith(['postgresql', '$x$ it\'s $$ $x$', " it's $$ "])]
    #[TestWith(['sql', '42', null])]
    #[TestWith(['sql', 'word', null])]
    public function testTextsAreReadWithoutTheirQuotes(string $dialect, string $sql, ?string $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, self::grammar($dialect)))->text());
    }

    #[TestWith(['0 NOT NULL', '0'])]
    #[TestWith(["'a, b', c", "'a, b'"])]
    #[TestWith(['nextval(\'x\'::regclass) PRIMARY KEY', "nextval('x'::regclass)"])]
    #[TestWith(['(1 + (2 * 3)) CHECK (x)', '(1 + (2 * 3))'])]
    #[TestWith(['-1.5e3)', '-1.5e3'])]
    #[TestWith(["'G'::public.flag COLLATE x", "'G'::public.flag"])]
    public function testAnExpressionEndsWhereTheDefinitionGoesOn(string $sql, string $expected): void
    {
        self::assertSame($expected, (new Tokens($sql, self::grammar('postgresql')))->expression());
    }

    public function testWhatStandsInParenthesesIsKeptAsWritten(): void
    {
        $t = new Tokens("( a  > ')' AND (b) )  rest of it", self::grammar('sql'));

        self::assertSame("a  > ')' AND (b)", $t->parenthesis());
        self::assertSame('rest of it', $t->rest());
        self::assertSame('', $t->rest());
    }

    public function testAnElementIsPassedOverUpToItsEnd(): void
    {
        $t = new Tokens('a (x, y) b, c)', self::grammar('sql'));
        $t->skipElement();
        self::assertSame(',', $t->peek());
        $t->skip();
        $t->skipElement();
        self::assertSame(')', $t->peek());
    }

    public function testAFaultKnowsItsPlace(): void
    {
        try {
            (new Tokens("a\n  + b", self::grammar('sql')))->names();
            self::fail('It was read.');
        } catch (SqlFault $e) {
            self::assertSame(['“(” was expected at “a”', 0], [$e->getMessage(), $e->offset]);
        }
        $t = new Tokens('(a, b', self::grammar('sql'));
        $this->expectException(SqlFault::class);
        $this->expectExceptionMessage('but the statement ends there');
        $t->names();
    }

    #[TestWith(['mariadb', 'tinyint', '', 'unsigned', 'tinyint(3) unsigned'])]
    #[TestWith(['mariadb', 'BIGINT', '', '', 'bigint(20)'])]
    #[TestWith(['mysql', 'bigint', '', 'UNSIGNED', 'bigint unsigned'])]
    #[TestWith(['mariadb', 'int', '5', 'ZEROFILL', 'int(5) unsigned zerofill'])]
    #[TestWith(['mariadb', 'float', '30', '', 'double'])]
    #[TestWith(['mariadb', 'decimal', '', '', 'decimal(10,0)'])]
    #[TestWith(['mariadb', 'datetime', '0', '', 'datetime'])]
    #[TestWith(['mariadb', 'character varying', '12', '', 'varchar(12)'])]
    #[TestWith(['postgresql', 'timestamp', '6', 'with time zone', 'timestamp(6) with time zone'])]
    #[TestWith(['postgresql', 'numeric', '8, 2', '', 'numeric(8,2)'])]
    #[TestWith(['postgresql', 'text', '', '[][]', 'text[]'])]
    #[TestWith(['postgresql', 'varchar', '9', 'ARRAY', 'character varying(9)[]'])]
    #[TestWith(['postgresql', 'field.flag', '', '', 'field.flag'])]
    #[TestWith(['sql', 'DOUBLE PRECISION', '', '', 'DOUBLE PRECISION'])]
    public function testEachEnginesCatalogWritesATypeInItsOwnForm(string $dialect, string $base, string $options, string $after, string $expected): void
    {
        self::assertSame($expected, self::grammar($dialect)->type($base, $options, $after));
    }

    private static function grammar(string $dialect): Grammar
    {
        return Dialects::of($dialect)->grammar() ?? new Grammar();
    }
}
