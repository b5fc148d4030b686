<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Dialect;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Dialect\Dialects;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Which types the users of an engine would call unusual. */
final class UnusualTypesTest extends TestCase
{
    #[DataProvider('unusual')]
    public function testWhatItsUsersSayOfAType(string $engine, string $type, string $said): void
    {
        $dialect = Dialects::of($engine);
        $why = $dialect->unusual($dialect->typeOf(new Column('a', $type)));

        self::assertStringContainsString($said, $why);
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function unusual(): iterable
    {
        foreach ([
            ['mariadb', "set('x','y')", 'several of its members'], ['mysql', 'year(4)', '1901'], ['mariadb', 'bit(8)', 'as bytes'],
            ['mariadb', 'float(7,4)', 'given up'], ['mysql', 'double(9,2)', 'given up'], ['mysql', 'tinyblob', '255'],
            ['postgresql', 'money', 'currency'], ['postgresql', 'time with time zone', 'offset'], ['postgresql', '"char"', 'own'],
            ['postgresql', 'bit varying(4)', 'noughts'], ['postgresql', 'oid', 'own number'], ['postgresql', 'tree.ltree', 'not one of the engine itself'],
            ['sqlite', 'STRING', '007'], ['sqlite', 'FLOATING POINT', 'whole numbers'], ['sqlite', 'ieee', '007'],
            ['sqlserver', 'ntext', 'given up'], ['sqlserver', 'timestamp', 'no time'], ['oracle', 'LONG RAW', 'given up'], ['oracle', 'bfile', 'outside'],
            ['db2', 'vargraphic(10)', 'double-byte'],
        ] as [$engine, $type, $said]) {
            yield "$engine $type" => [$engine, $type, $said];
        }
    }

    #[DataProvider('usual')]
    public function testWhatIsUsual(string $engine, string ...$types): void
    {
        $dialect = Dialects::of($engine);
        foreach ($types as $type) {
            self::assertSame('', $dialect->unusual($dialect->typeOf(new Column('a', $type))), $type);
        }
    }

    /** @return iterable<string, list<string>> */
    public static function usual(): iterable
    {
        yield 'mariadb' => [
            'mariadb', 'int(11)', 'bit(1)', 'bit', 'float', 'double', 'decimal(9,2)', 'longblob', 'blob', 'char(2)', "enum('a')", 'point', 'json',
        ];
        yield 'postgresql' => [
            'postgresql', 'integer', 'character(2)', 'real', 'jsonb', 'uuid', 'text[]', 'bytea', 'interval', 'timestamp with time zone', 'tsvector',
            'public.citext',
        ];
        yield 'sqlite' => [
            'sqlite', '', 'INTEGER', 'int', 'bigint(20)', 'unsigned big int', 'varchar(9)', 'DATETIME', 'BOOLEAN', 'NUMERIC', 'decimal(4,2)', 'float',
            'double precision', 'blob', 'json', 'tinyint(1)', 'int8',
        ];
        yield 'sqlserver' => ['sqlserver', 'nvarchar(max)', 'bit', 'datetime2(3)', 'money', 'uniqueidentifier', 'float'];
        yield 'oracle' => ['oracle', 'VARCHAR2(20)', 'NUMBER(9)', 'DATE', 'CLOB', 'RAW(16)'];
        yield 'standard' => ['standard', 'text', 'timestamp', 'money'];
    }
}
