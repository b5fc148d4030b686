<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Join;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\JoinFigures;
use Fasti\Core\Join\Observing;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Tests\App\Engines;
use Fasti\Tests\App\Sql\PlainRows;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Every figure of a join, over what is awkward in each engine, is what plain SQL gives. */
final class CountedTest extends TestCase
{
    /** Tables `a` that refer and `b` that are referred to; the joins of field and field that are counted. */
    private const MADE = [
        'mariadb' => [
            ['CREATE TABLE b (id int PRIMARY KEY, code varchar(9) COLLATE utf8mb4_general_ci UNIQUE, exact varchar(9) COLLATE utf8mb4_bin UNIQUE, far int,
                day date, raw binary(16) UNIQUE)',
                "INSERT INTO b VALUES (1, 'aa', 'aa', 7, '2020-01-01', UNHEX(MD5('1'))), (2, 'BB', 'BB', 7, '2020-01-02', UNHEX(MD5('2'))),
                (3, NULL, NULL, 8, NULL, NULL), (4, 'é', 'é', NULL, NULL, UNHEX(MD5('4')))",
                'CREATE TABLE a (n int PRIMARY KEY, b_id int, code varchar(9) COLLATE utf8mb4_general_ci, far bigint, day date, raw binary(16),
                sort varchar(4))',
                "INSERT INTO a VALUES (1, 1, 'AA', 7, '2020-01-01', UNHEX(MD5('1')), 'x'), (2, 1, 'aa', 7, '2020-01-01', UNHEX(MD5('9')), 'x'),
                (3, 9, 'aa ', 8, NULL, UNHEX(MD5('9')), 'y'), (4, NULL, 'bb', 9, '2021-01-01', NULL, 'x'), (5, 0, NULL, NULL, '2020-01-02',
                UNHEX(MD5('4')), 'y'), (6, 2, 'E', 7, '2020-01-02', UNHEX(MD5('2')), 'x')", ],
            [['b_id', 'id'], ['code', 'code'], ['code', 'exact'], ['far', 'far'], ['day', 'day'], ['raw', 'raw']],
        ],
        'postgresql' => [
            ['CREATE TABLE b (id int PRIMARY KEY, code text UNIQUE, far int, mark uuid UNIQUE, ok boolean)',
                "INSERT INTO b VALUES (1, 'aa', 7, '00000000-0000-0000-0000-000000000001', true), (2, 'BB', 7, '00000000-0000-0000-0000-000000000002', false),
                (3, NULL, 8, NULL, NULL)",
                'CREATE TABLE a (n int PRIMARY KEY, b_id bigint, code varchar(9), far numeric, mark uuid, ok boolean, sort varchar(4))',
                "INSERT INTO a VALUES (1, 1, 'AA', 7.0, '00000000-0000-0000-0000-000000000001', true, 'x'), (2, 1, 'aa', 7, NULL, true, 'x'),
                (3, 9, 'aa ', 8.5, '00000000-0000-0000-0000-000000000009', NULL, 'y'), (4, NULL, 'BB', 9, '00000000-0000-0000-0000-000000000009', false, 'x'),
                (5, 0, NULL, NULL, '00000000-0000-0000-0000-000000000002', true, 'y')", ],
            [['b_id', 'id'], ['code', 'code'], ['far', 'far'], ['mark', 'mark'], ['ok', 'ok']],
        ],
        'sqlite' => [
            ['CREATE TABLE b (id INTEGER PRIMARY KEY, code TEXT COLLATE NOCASE UNIQUE, far NUMERIC, odd)',
                "INSERT INTO b VALUES (1, 'aa', 7, 1), (2, 'BB', 7, '1'), (3, NULL, 'seven', x'31'), (4, 'c', NULL, NULL)",
                'CREATE TABLE a (n INTEGER PRIMARY KEY, b_id INTEGER, code TEXT COLLATE NOCASE, far NUMERIC, odd, sort TEXT)',
                "INSERT INTO a VALUES (1, 1, 'AA', 7, 1, 'x'), (2, 1, 'aa', 7.0, '1', 'x'), (3, 'one', 'aa ', 'seven', 2, 'y'),
                (4, NULL, 'bb', '7', x'31', 'x'), (5, 0, NULL, NULL, NULL, 'y'), (6, '2', 'zz', 'Seven', 1, 'x')", ],
            [['b_id', 'id'], ['code', 'code'], ['far', 'far'], ['odd', 'odd']],
        ],
    ];

    /** @return iterable<string, array{string, string, string, bool}> */
    public static function joins(): iterable
    {
        foreach (self::MADE as $engine => [, $joins]) {
            foreach ($joins as [$near, $far]) {
                foreach ([false, true] as $some) {
                    yield "$engine, $near to $far".($some ? ', only some' : '') => [$engine, $near, $far, $some];
                }
            }
        }
    }

    #[DataProvider('joins')]
    public function testEachFigureIsThatOfPlainSql(string $engine, string $near, string $far, bool $some): void
    {
        $pdo = Engines::fresh($engine, 'fasti_counted');
        foreach (self::MADE[$engine][0] as $statement) {
            $pdo->exec($statement);
        }
        $dialect = Dialects::of($engine);
        $rows = new PlainRows($pdo);
        $tables = ($dialect->reader($rows, '') ?? throw new \LogicException())->read(
            new Choice('mariadb' === $engine ? ['fasti_counted'] : []), new SilentProgress())->tables;
        $table = static fn (string $name): Table => array_values(array_filter($tables, static fn (Table $one): bool => $name === $one->name))[0];

        $figures = (new Observing($rows, $dialect))->of($table('a'), $table('b'), [[$near, $far]], $some ? ['sort', 'x'] : null);

        self::assertSame(self::plain($pdo, $near, $far, $some ? "a.sort = 'x'" : '1 = 1'), self::figures($figures));
    }

    public function testWhereNoRowRefersTheOtherEndIsCountedAllTheSame(): void
    {
        $pdo = Engines::fresh('sqlite', 'fasti_counted');
        $pdo->exec('CREATE TABLE b (id INTEGER PRIMARY KEY); INSERT INTO b VALUES (1), (2); CREATE TABLE a (n INTEGER PRIMARY KEY, b_id INTEGER)');
        $rows = new PlainRows($pdo);
        $tables = (Dialects::of('sqlite')->reader($rows, '') ?? throw new \LogicException())->read(new Choice(), new SilentProgress())->tables;
        [$a, $b] = 'a' === $tables[0]->name ? $tables : array_reverse($tables);
        $figures = (new Observing($rows, Dialects::of('sqlite')))->of($a, $b, [['b_id', 'id']]);

        self::assertSame([0, 2, 2], [$figures->rows, $figures->parents, $figures->childless()]);
    }

    /** @return array<string, int> */
    private static function figures(JoinFigures $figures): array
    {
        return [
            'rows' => $figures->rows, 'empty' => $figures->empty, 'orphans' => $figures->orphans,
            'leading' => $figures->rows - $figures->empty - $figures->orphans,
            'all parents' => $figures->parents + $figures->repeated, 'used' => $figures->used, 'most' => $figures->most,
        ];
    }

    /** @return array<string, int> the same, each by a question of its own */
    private static function plain(\PDO $pdo, string $near, string $far, string $only): array
    {
        $one = static fn (string $sql): int => (int) ($pdo->query($sql) ?: throw new \LogicException())->fetchColumn();
        $there = "EXISTS (SELECT 1 FROM b WHERE b.$far = a.$near)";

        return [
            'rows' => $one("SELECT COUNT(*) FROM a WHERE $only"),
            'empty' => $one("SELECT COUNT(*) FROM a WHERE $only AND a.$near IS NULL"),
            // MariaDB 10.11 takes NOT EXISTS for more rows than there are where collations differ.
            'orphans' => $one("SELECT COUNT(*) FROM a LEFT JOIN (SELECT DISTINCT $far AS f FROM b) d ON d.f = a.$near
                WHERE $only AND a.$near IS NOT NULL AND d.f IS NULL"),
            'leading' => $one("SELECT COUNT(*) FROM a WHERE $only AND $there"),
            'all parents' => $one('SELECT COUNT(*) FROM b'),
            'used' => $one("SELECT COUNT(*) FROM (SELECT DISTINCT b.$far FROM b WHERE EXISTS (SELECT 1 FROM a WHERE $only AND b.$far = a.$near)) u"),
            'most' => $one("SELECT COALESCE(MAX(n), 0) FROM (SELECT COUNT(*) AS n FROM a WHERE $only AND $there GROUP BY a.$near) g"),
        ];
    }
}
