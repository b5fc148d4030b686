<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Sql;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Alike;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class AlikeTest extends TestCase
{
    /** @return iterable<string, array{string, string, string, bool}> */
    public static function pairs(): iterable
    {
        yield 'blanks and letters' => ['postgresql', "SELECT a\nFROM t;", 'select a from t', true];
        yield 'names with and without their table' => [
            'mariadb',
            'SELECT a FROM t WHERE b > 1',
            'select `d`.`t`.`a` AS `a` from `d`.`t` where `d`.`t`.`b` > 1',
            true,
        ];
        yield 'by another alias' => ['postgresql', 'SELECT x.a FROM t x JOIN u y ON x.id = y.t_id', 'SELECT t.a FROM t JOIN u ON ((t.id = u.t_id))', true];
        yield 'of the other table' => ['postgresql', 'SELECT x.a FROM t x JOIN u y ON x.id = y.t_id', 'SELECT u.a FROM t JOIN u ON ((t.id = u.t_id))', false];
        yield 'casts that the server adds' => [
            'postgresql',
            "SELECT a FROM t WHERE v = 'x' AND n > 0",
            "SELECT a FROM t WHERE (((v)::text = 'x'::text) AND (n > (0)::numeric))",
            true,
        ];
        yield 'lists as the server writes them' => [
            'postgresql',
            "SELECT 1 FROM t WHERE v IN ('x', 'y')",
            "SELECT 1 FROM t WHERE ((v)::text = ANY (ARRAY['x'::text, 'y'::text]))",
            true,
        ];
        yield 'another list' => [
            'postgresql',
            "SELECT 1 FROM t WHERE v IN ('x', 'y')",
            "SELECT 1 FROM t WHERE ((v)::text = ANY (ARRAY['x'::text, 'z'::text]))",
            false,
        ];
        yield 'between' => [
            'postgresql',
            'SELECT 1 FROM t WHERE a BETWEEN 1 AND 2 AND b LIKE \'x%\'',
            "SELECT 1 FROM t WHERE (((a >= 1) AND (a <= 2)) AND (b ~~ 'x%'::text))",
            true,
        ];
        yield 'counted rows' => ['mariadb', 'SELECT COUNT(*) FROM t', 'select count(0) AS `n` from `t`', true];
        yield 'counted values' => ['mariadb', 'SELECT COUNT(a) FROM t', 'select count(0) AS `n` from `t`', false];
        yield 'functions by their other names' => [
            'mariadb',
            'SELECT UPPER(a), SUBSTRING(b, 1, 2) FROM t',
            'select ucase(`a`) AS `x`,substr(`b`,1,2) AS `y` from `t`',
            true,
        ];
        yield 'another function' => ['mariadb', 'SELECT UPPER(a) FROM t', 'select lcase(`a`) AS `x` from `t`', false];
        yield 'which conditions belong together' => ['mariadb', 'SELECT 1 FROM t WHERE (a OR b) AND c', 'SELECT 1 FROM t WHERE a OR b AND c', false];
        yield 'another condition' => ['mariadb', 'SELECT 1 FROM t WHERE a > 1', 'SELECT 1 FROM t WHERE a >= 1', false];
        yield 'one column more' => ['mariadb', 'SELECT a FROM t', 'SELECT a, b FROM t', false];
        yield 'other groups' => ['mariadb', 'SELECT a FROM t GROUP BY a', 'SELECT a FROM t GROUP BY b', false];
        yield 'a join of another kind' => ['mariadb', 'SELECT t.a FROM t JOIN u ON t.a = u.a', 'SELECT t.a FROM t LEFT JOIN u ON t.a = u.a', false];
        yield 'names within' => ['mariadb', 'SELECT x FROM (SELECT a AS x, b AS y FROM t) q', 'SELECT x FROM (SELECT a AS y, b AS x FROM t) q', false];
        yield 'a text with other letters' => ['postgresql', "SELECT 1 FROM t WHERE a = 'X'", "SELECT 1 FROM t WHERE a = 'x'", false];
        yield 'what cannot be read' => ['postgresql', 'SELECT FROM WHERE', 'SELECT a FROM t', false];
    }

    #[DataProvider('pairs')]
    public function testQueriesThatSayTheSameAreToldFromOthers(string $dialect, string $a, string $b, bool $same): void
    {
        $grammar = Dialects::of($dialect)->grammar() ?? new Grammar();

        self::assertSame($same, Alike::queries($a, $b, $grammar));
        self::assertSame($same, Alike::queries($b, $a, $grammar));
    }
}
