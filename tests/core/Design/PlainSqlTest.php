<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\PlainSql;
use Fasti\Core\Dialect\Dialects;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** What somebody writes into a condition is put to a source only where it can do nothing there. */
final class PlainSqlTest extends TestCase
{
    #[TestWith(['depth > 3 AND upper(kind) IN (\'A\', \'B\') OR width IS NULL', 'mariadb', true])]
    #[TestWith(['`flag` in (\'good\',\'bad\')', 'mariadb', true])]
    #[TestWith(['((flag)::text = ANY ((ARRAY[\'good\'::character varying, \'bad\'::character varying])::text[]))', 'postgresql', true])]
    #[TestWith(['CASE WHEN a > 1 THEN b ELSE CAST(c AS integer) END BETWEEN 1 AND 5', 'sqlite', true])]
    #[TestWith(['sleep(100) = 0', 'mariadb', false])]
    #[TestWith(['load_file(\'/etc/passwd\') IS NULL', 'mariadb', false])]
    #[TestWith(['pg_catalog.upper(kind) = \'A\'', 'postgresql', false])]
    #[TestWith(['depth > (SELECT MAX(pay) FROM staff)', 'mariadb', false])]
    #[TestWith(['EXISTS (SELECT 1 FROM staff)', 'postgresql', false])]
    #[TestWith(['staff.pay > 3', 'mariadb', false])]
    #[TestWith(['depth > 3) OR (1 = 1', 'mariadb', false])]
    #[TestWith(['depth > 3; DROP TABLE staff', 'mariadb', false])]
    #[TestWith(['@@version > 1', 'mariadb', false])]
    #[TestWith(['', 'mariadb', false])]
    public function testOnlyComparisonsAndSumsOfFieldsArePlain(string $sql, string $engine, bool $plain): void
    {
        self::assertSame($plain, PlainSql::is($sql, Dialects::of($engine)->grammar()));
    }
}
