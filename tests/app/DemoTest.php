<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\Target;
use Fasti\Demo\Fieldwork;
use Fasti\Source\Sources;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Depends;
use PHPUnit\Framework\Attributes\Group;

/** The demo source has all its rows and every flaw that demo/README.md names. */
#[Group('demo')]
final class DemoTest extends AppTestCase
{
    private const FIELDWORK = 'fasti_test_fieldwork';
    private const ARCHIVE = 'fasti_test_archive';
    private const ACCOUNT = 'fasti_test_reader';

    private static Fieldwork $made;

    public static function setUpBeforeClass(): void
    {
        self::$made = new Fieldwork(OddSchema::server(), self::FIELDWORK, self::ARCHIVE);
        self::$made->make();
        foreach (self::$made->accountSql(self::ACCOUNT, 'reads') as $sql) {
            OddSchema::server()->exec($sql);
        }
    }

    public static function tearDownAfterClass(): void
    {
        $server = OddSchema::server();
        foreach ([self::FIELDWORK, self::ARCHIVE] as $schema) {
            $server->exec("DROP DATABASE IF EXISTS `$schema`");
        }
        $server->exec("DROP USER IF EXISTS '".self::ACCOUNT."'@localhost, '".self::ACCOUNT."'@'127.0.0.1'");
    }

    private static function read(): Catalog
    {
        return self::get(Sources::class)->reader(new Target(
            'mariadb',
            '127.0.0.1',
            self::port(),
            '',
            self::ACCOUNT,
            'reads',
        ))->read(new Choice(), new SilentProgress());
    }

    private static function number(string $sql): int
    {
        $rows = OddSchema::server()->query(str_replace(['{f}', '{a}'], ['`'.self::FIELDWORK.'`', '`'.self::ARCHIVE.'`'], $sql));

        return false === $rows ? -1 : (int) $rows->fetchColumn();
    }

    public function testItIsMadeWithAllItsRows(): void
    {
        self::assertGreaterThan(150000, array_sum(self::$made->counts));
        self::assertCount(33, self::read()->tables);
        self::assertSame(118368, self::number('SELECT COUNT(*) FROM {f}.reading'));
    }

    /** @return iterable<string, array{string, int, int}> a count, and between what it has to lie */
    public static function flaws(): iterable
    {
        yield 'the same pair in a link table twice' => [
            'SELECT COUNT(*) FROM (SELECT 1 FROM {f}.visit_member GROUP BY visit_id, person_id HAVING COUNT(*) > 1) d',
            1,
            1000,
        ];
        yield 'a stated grain that is not unique' => [
            'SELECT COUNT(*) FROM (SELECT 1 FROM {f}.barrier_survey GROUP BY barrier_id, surveyed_on HAVING COUNT(*) > 1) d',
            1,
            1000,
        ];
        yield 'orphan rows' => [
            'SELECT COUNT(*) FROM {f}.reading r LEFT JOIN {f}.deployment d ON d.id = r.deployment_ref WHERE r.deployment_ref IS NOT NULL AND d.id IS NULL',
            1,
            50,
        ];
        yield 'an optional end that is never empty' => ['SELECT COUNT(*) FROM {f}.visit WHERE team_id IS NULL', 0, 0];
        yield 'a number too small for what it must hold' => ['SELECT COUNT(*) FROM {f}.reading WHERE value = 9999.99', 1, 1000];
        yield 'a field that is always empty' => ['SELECT COUNT(fax) FROM {f}.person', 0, 0];
        yield 'one that always holds the same' => ['SELECT COUNT(DISTINCT datum) FROM {f}.station', 1, 1];
        yield 'four quality flags and none' => ['SELECT COUNT(DISTINCT COALESCE(flag, 0)) FROM {f}.reading', 5, 5];
        yield 'a legacy name that leads to a code' => [
            'SELECT COUNT(*) FROM {f}.sample s LEFT JOIN {f}.station t ON t.code = s.stn_ref WHERE t.id IS NULL',
            0,
            0,
        ];
        yield 'a legacy name that leads to a number' => [
            'SELECT COUNT(*) FROM {f}.incident i LEFT JOIN {f}.station t ON t.id = i.stn_ref WHERE i.stn_ref IS NOT NULL AND t.id IS NULL',
            0,
            0,
        ];
        yield 'an undeclared join to a composite key' => [
            'SELECT COUNT(*) FROM {f}.lab_result r LEFT JOIN {f}.method m ON m.lab_code = r.lab_code AND m.method_code = r.method_code WHERE m.lab_code '
                .'IS NULL',
            0,
            0,
        ];
        yield 'one that leads to one of two tables by a kind' => [
            "SELECT COUNT(*) FROM {f}.alert a LEFT JOIN {f}.station s ON a.subject_kind = 'station' AND s.id = a.subject_id LEFT JOIN {f}.barrier b ON "
                ."a.subject_kind = 'barrier' AND b.id = a.subject_id WHERE COALESCE(s.id, b.id) IS NULL",
            0,
            0,
        ];
        yield 'a date kept as text' => ["SELECT COUNT(*) FROM {f}.access_permit WHERE valid_until NOT REGEXP '^[0-9]{2}/[0-9]{2}/[0-9]{4}$'", 0, 0];
        yield 'country codes of three letters' => ['SELECT COUNT(DISTINCT Country) FROM {f}.landowner', 3, 3];
    }

    #[DataProvider('flaws')]
    public function testFlawsInTheRows(string $sql, int $least, int $most): void
    {
        $found = self::number($sql);

        self::assertGreaterThanOrEqual($least, $found);
        self::assertLessThanOrEqual($most, $found);
    }

    public function testFlawsInTheStructure(): void
    {
        $catalog = self::read();
        $keyless = $joined = [];
        foreach ($catalog->tables as $table) {
            if (null === $table->primaryKey && 'table' === $table->kind->value) {
                $keyless[] = $table->name;
            }
            foreach ($table->foreignKeys as $key) {
                $joined[$table->name] = $joined[$key->references->table] = true;
            }
        }

        self::assertSame(['alert', 'tmp_import_0423'], $keyless);
        self::assertArrayNotHasKey('order', $joined);
        self::assertArrayNotHasKey('tmp_import_0423', $joined);
        self::assertSame(
            ['int(10) unsigned', 'char(6)', 'int(11)'],
            [
                $catalog->table(self::FIELDWORK, 'reading')?->column('station_id')?->type,
                $catalog->table(self::FIELDWORK, 'sample')?->column('stn_ref')?->type,
                $catalog->table(self::FIELDWORK, 'alert_rule')?->column('site')?->type,
            ],
        );
        self::assertStringContainsString(
            'one row an hour and station',
            (string) $catalog->table(self::FIELDWORK, 'reading')?->comment,
            'A comment that is out of date.',
        );
    }

    public function testTheAccountOnlyReads(): void
    {
        $server = new \PDO('mysql:host=127.0.0.1;port='.self::port(), self::ACCOUNT, 'reads', [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]);
        $this->expectExceptionMessage('denied');
        $server->exec('DELETE FROM `'.self::FIELDWORK.'`.unit');
    }

    #[Depends('testFlawsInTheStructure')]
    public function testOneSeasonLaterItIsALittleDifferent(): void
    {
        self::assertTrue(self::$made->isFirst());
        self::$made->advance();
        self::assertFalse(self::$made->isFirst());
        $catalog = self::read();
        $table = static fn (string $name): ?\Fasti\Core\Catalog\Table => $catalog->table(self::FIELDWORK, $name);

        self::assertNull($table('tmp_import_0423'));
        self::assertNull($table('landowner'));
        self::assertSame(
            ['LandownerNo', 'Name', 'Telephone', 'Address', 'Country'],
            array_map(static fn ($column): string => $column->name, $table('land_contact')->columns ?? []),
        );
        self::assertNull($table('station')?->column('opened_on'));
        self::assertNotNull($table('station')?->column('in_service_from'));
        self::assertSame('decimal(9,3)', $table('reading')?->column('value')?->type);
        self::assertNotNull($table('water_body'));
        self::assertContains('calibration_done_by', array_map(static fn (ForeignKey $key): ?string => $key->name, $table('calibration')->foreignKeys ?? []));
    }
}
