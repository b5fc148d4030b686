<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Dialect;

use Fasti\Tests\Core\Sql\Queries;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Types that engines give to what a query computes, and whether it may be empty (`?`; `~` where that does not follow). */
final class TypingTest extends TestCase
{
    /** @return iterable<int, array{string, string, string}> engine, expression over station s and reading r, type */
    public static function expressions(): iterable
    {
        yield ['postgresql', 's.id + 1', 'integer'];
        yield ['postgresql', 's.id + 30000000000', 'bigint'];
        yield ['postgresql', 's.id / 2.0', 'numeric'];
        yield ['postgresql', 's.name || s.id', 'text?'];
        yield ['postgresql', "coalesce(s.name, 'none')", 'character varying'];
        yield ['postgresql', 'CASE WHEN s.id = 1 THEN s.name END', 'character varying(20)?'];
        yield ['postgresql', "CASE WHEN s.id = 1 THEN 'a' ELSE 'b' END", 'text'];
        yield ['postgresql', 'sum(s.id) OVER ()', 'bigint'];
        yield ['postgresql', 'avg(r.value) OVER ()', 'numeric?'];
        yield ['postgresql', 'array_agg(s.name) OVER ()', 'character varying[]?'];
        yield ['postgresql', 's.tags[1]', 'text?'];
        yield ['postgresql', "'5'::smallint", 'smallint'];
        yield ['postgresql', 'r.taken - 7', 'date'];
        yield ['postgresql', 'r.taken - r.taken', 'integer'];
        yield ['postgresql', "r.taken + interval '1 day'", 'timestamp without time zone'];
        yield ['postgresql', 'count(*) OVER ()', 'bigint'];
        yield ['postgresql', 's.name IS NULL', 'boolean'];
        yield ['postgresql', 'nosuchfunction(s.id)', 'none~'];
        yield ['mariadb', 'CAST(s.id AS signed) + 1', 'bigint(21)'];
        yield ['mariadb', 'CAST(r.value AS decimal(6,2)) * 2', 'decimal(7,2)?'];
        yield ['mariadb', '1 + 1', 'int(2)'];
        yield ['mariadb', '1.50 * 2', 'decimal(4,2)'];
        yield ['mariadb', '7 / 2', 'decimal(5,4)?'];
        yield ['mariadb', "concat('ab', 'c')", 'varchar(3)'];
        yield ['mariadb', "if(s.id = 1, 'yes', NULL)", 'varchar(3)?'];
        yield ['mariadb', 'count(*) OVER ()', 'bigint(21)'];
        yield ['mariadb', "substr('abcdef', 2, 3)", 'varchar(3)'];
        yield ['mariadb', 'now() + INTERVAL 1 DAY', 'datetime~'];
        yield ['mariadb', 's.id <=> NULL', 'int(1)'];
        yield ['sqlite', 's.id', 'integer'];
        yield ['sqlite', "'a' || s.id", 'TEXT'];
        yield ['sqlite', 'count(*) OVER ()', 'INTEGER'];
        yield ['sqlite', '1 + 2', 'INTEGER'];
        yield ['sqlite', '1 / 2', 'INTEGER?'];
        yield ['sqlite', 'total(r.value) OVER ()', 'REAL'];
        yield ['sql', 'COUNT(*)', 'bigint'];
        yield ['sql', 's.id > 1', 'boolean'];
    }

    #[DataProvider('expressions')]
    public function testAnExpressionHasTheTypeThatItsEngineGivesIt(string $engine, string $expression, string $expected): void
    {
        $reading = Queries::read("SELECT $expression AS x FROM station s, reading r", $engine);

        self::assertSame([], Queries::unknown($reading));
        self::assertSame($expected, Queries::types($reading)['x']);
    }
}
