<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Profile;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ProfileSql;
use Fasti\Core\Profile\FieldProfile;
use Fasti\Core\Profile\SqlProfiler;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\Sql\PlainRows;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Every figure of a profile, over what is awkward in each engine, is what plain SQL gives. */
final class AwkwardFiguresTest extends TestCase
{
    private const SCRIPTS = [
        'mariadb' => [
            "CREATE TABLE a (w varchar(20), b varchar(20) COLLATE utf8mb4_bin, t text, k bit(4), e enum('z','a','m'), s set('p','q'), z date, d "
                .'decimal(8,3), f double, y year, h varchar(9) CHARACTER SET latin1, n int, dt datetime(3), c char(5), bl varbinary(4))',
            "INSERT INTO a VALUES ('g','g',REPEAT('x',300),b'101','z','p','2020-01-01',1.5,1e10,2001,'ä',-5,'2020-01-01 00:00:00.123','ab',x'00ff'), "
                ."('G','G',CONCAT(REPEAT('x',300),'y'),b'1','a','p,q','0000-00-00',-0.001,-0.0,1999,'a',10,NULL,'ab ',x'00'), "
            ."('G','G',CONCAT(REPEAT('x',300),'z'),b'101','m','','2021-12-31',1.5,NULL,2001,'A',9,'2019-01-01','',NULL), "
            ."('é','é','',b'0','z',NULL,NULL,100,3,NULL,'Ä',NULL,'2020-01-01 00:00:00.123',' ',x'41'), ('e','e',' "
            ."',NULL,NULL,'p',NULL,NULL,3.5,2155,NULL,100,NULL,NULL,x'41'), ('','','short',b'1111','a','q','2020-01-01',-7,1e10,1901,'',-5,NULL,'x',x'42')",
        ],
        'postgresql' => [
            "CREATE EXTENSION IF NOT EXISTS citext; CREATE TYPE mood AS ENUM ('z','a','m'); CREATE TABLE a (w text, ci citext, v varchar(20), e mood, b "
                .'boolean, r real, f double precision, n numeric, i bigint, k bit(3), u uuid, ip inet, d date, ts timestamptz, j jsonb, c char(5), iv '
                .'interval)',
            'INSERT INTO a VALUES '
                ."('g','g','x','z',true,'NaN','Infinity','NaN',5,B'101','00000000-0000-0000-0000-000000000002','10.0.0.2',"
                    ."'2020-01-01','2020-01-01','{\"a\": 1}','ab','1 day'), "
                    ."('G','G','x','a',false,'-0','-Infinity',1.50,-7,B'001','00000000-0000-0000-0000-000000000001','9.0.0.1','infinity','-infinity',"
                        ."'{}','ab ','24:00'), "
            ."(repeat('x',300),'G','','m',true,0,0,1.5,10,B'101',NULL,NULL,NULL,NULL,NULL,NULL,NULL), (repeat('x',300) || "
            ."'y','é','y','z',NULL,1.5,NULL,-1e30,9,NULL,'00000000-0000-0000-0000-000000000002','10.0.0.10','0044-03-15 BC','2020-01-01','{}','','1 mon'), "
            ."('','e',' ',NULL,true,'NaN',-0.0,NULL,NULL,B'111',NULL,'10.0.0.2','2020-01-01',NULL,'[1]','x','-1 day')",
        ],
        'sqlite' => [
            'CREATE TABLE a (w TEXT, nc TEXT COLLATE NOCASE, rt TEXT COLLATE RTRIM, i INTEGER, r REAL, m, bl BLOB, d DATETIME, b BOOLEAN, n NUMERIC(8,2))',
            "INSERT INTO a VALUES ('g','g','x',5,1.5,1,x'00ff','2020-01-01',1,1.50), ('G','G','x ',-7,-0.0,'1',x'00','0000-00-00',0,'abc'), "
                ."('G','G','y',10,1e300,1.0,NULL,NULL,1,-3), ('','é','',9,-1e300,'b',x'41','2019-12-31',NULL,10), ('e','e',' "
                ."',NULL,NULL,NULL,x'41','2020-01-01',1,9), (NULL,NULL,NULL,5,0.0,x'62','','zzz',0,NULL)",
        ],
    ];

    /** @return iterable<string, array{string}> */
    public static function engines(): iterable
    {
        yield 'MariaDB' => ['mariadb'];
        yield 'PostgreSQL' => ['postgresql'];
        yield 'SQLite' => ['sqlite'];
    }

    #[DataProvider('engines')]
    public function testEachFigureIsThatOfPlainSql(string $engine): void
    {
        $pdo = $this->made($engine);
        $dialect = Dialects::of($engine);
        $rows = new PlainRows($pdo);
        $catalog = ($dialect->reader($rows, '') ?? throw new \LogicException())->read(
            new Choice('mariadb' === $engine ? ['fasti_awkward'] : []),
            new SilentProgress(),
        );
        $table = array_values(array_filter($catalog->tables, static fn ($each): bool => 'a' === $each->name))[0];
        $sql = $dialect->profiling() ?? throw new \LogicException();
        $profile = (new SqlProfiler($rows, $dialect))->profile(
            $table,
            [],
            array_fill_keys(array_map(static fn ($c): string => $c->name, $table->columns), 'no'),
            new SilentProgress(),
        );
        $one = static fn (string $of): ?string => (static function (iterable $found): ?string {
            foreach ($found as $row) {
                return $row['x'];
            }

            return null;
        })($rows->rows("SELECT $of AS x FROM {$sql->from($table)}"));

        foreach ($table->columns as $column) {
            self::compare($engine, $table, $column, $profile->fields[$column->name], $sql, $rows, $one);
        }
        // Of two spellings of one value, the one that stands most often is shown.
        $alike = ['mariadb' => 'w', 'postgresql' => 'ci', 'sqlite' => 'nc'][$engine];
        self::assertSame(3, $profile->fields[$alike]->frequent['G'] ?? 0);
        self::assertArrayNotHasKey('g', $profile->fields[$alike]->frequent);
    }

    /** @param \Closure(string): ?string $one what the engine itself says */
    private static function compare(
        string $engine,
        Table $table,
        Column $column,
        FieldProfile $figures,
        ProfileSql $sql,
        PlainRows $rows,
        \Closure $one,
    ): void {
        $name = $sql->quoted($column->name);
        self::assertSame((int) $one("COUNT($name)"), $figures->values, "$column->name: values");
        if (null === $figures->distinct) {
            self::assertFalse($sql->comparable($column), "$column->name is comparable, so it is counted");

            return;
        }
        self::assertSame((int) $one("COUNT(DISTINCT $name)"), $figures->distinct, "$column->name: different values");
        $edge = static fn (string $function): string => match (true) {
            'mariadb' === $engine && str_starts_with($column->type, 'bit') => "$function($name + 0)",
            'postgresql' === $engine && \in_array($column->type, ['boolean', 'bit(3)', 'uuid', 'jsonb'], true) => "$function($name::text)",
            default => "$function($name)",
        };
        $short = static fn (?string $value): ?string => null === $value ? null : mb_strimwidth(mb_substr($value, 0, 200), 0, 80, '…');
        foreach (['MIN' => $figures->least, 'MAX' => $figures->greatest] as $function => $shown) {
            $engines = $short($one($edge($function)));
            // Of spellings that are the same to the engine, which one it gives is its own affair.
            $same = null !== $shown && $engines !== $shown && '1' === $one("CASE WHEN $function($name) = {$sql->literal($shown)} THEN '1' ELSE '0' END");
            self::assertSame($same ? $shown : $engines, $shown, "$column->name: $function");
        }
        if (null !== $figures->longest) {
            self::assertSame((int) $one("MAX({$sql->length($name)})"), $figures->longest, "$column->name: the longest");
            self::assertSame((int) $one("SUM(CASE WHEN {$sql->blank($name)} THEN 1 ELSE 0 END)"), $figures->blank, "$column->name: blank");
        }
        if ([] !== $figures->frequent) {
            $counts = [];
            foreach ($rows->rows(
                "SELECT COUNT(*) AS x FROM {$sql->from($table)} WHERE $name IS NOT NULL AND NOT ({$sql->blank($name)}) GROUP BY $name ORDER BY 1 DESC",
            ) as $row) {
                $counts[] = (int) $row['x'];
            }
            self::assertSame($counts, array_values($figures->frequent), "$column->name: how often each value stands");
        }
    }

    private function made(string $engine): \PDO
    {
        $pdo = Engines::fresh($engine, 'fasti_awkward');
        if ('mariadb' === $engine) {
            $pdo->exec("SET sql_mode = ''");
        }
        foreach (self::SCRIPTS[$engine] as $statement) {
            $pdo->exec($statement);
        }

        return $pdo;
    }
}
