<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Model\KeptModel;
use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** Many who change different parts of one model at the same moment are all done; nobody is told to do it again. */
final class AddersTest extends TestCase
{
    private const ADDERS = 6;
    /** Seconds until all of them have read the model. */
    private const READY = 6;

    private static \PDO $db;

    public static function setUpBeforeClass(): void
    {
        self::$db = OddSchema::server();
        self::$db->exec('USE fasti_test');
        self::clean();
        self::$db->exec("INSERT INTO account (email, name, role_id, password_hash, active)
            SELECT 'adder@example.org', 'Adder', id, 'x', 1 FROM account_role WHERE name = 'steward'");
        $account = (string) self::$db->lastInsertId();
        self::$db->exec("INSERT INTO source (name, purpose, owner, choice, engine, every, added_at)
            VALUES ('added to', '', '', '[]', 'mariadb', '', UTC_TIMESTAMP())");
        $source = (string) self::$db->lastInsertId();
        self::$db->exec("INSERT INTO connection (source_id, label, in_use, engine, host, port, database_name, account, path, dialect, sealed_secret)
            VALUES ($source, 'live', 1, 'files', '', 0, '', '', '', '', '')");
        $definition = '{"roles":[{"name":"visit","kind":"fact","entry":{"schema":"main","name":"visit"}}],"joins":[],"measures":[]}';
        self::$db->exec("INSERT INTO analytic_model
            (name, purpose, owner_id, source_id, shared, withheld, shared_despite, accepted, definition, brief, changed_at)
            VALUES ('added to', '', $account, $source, 1, 0, '', '[]', '$definition', '{}', UTC_TIMESTAMP())");
    }

    public static function tearDownAfterClass(): void
    {
        self::clean();
    }

    private static function clean(): void
    {
        $model = "(SELECT id FROM analytic_model WHERE name = 'added to')";
        foreach ([
            "DELETE FROM change_event WHERE page = 'model' AND page_id IN $model", "DELETE FROM model_field WHERE model_id IN $model",
            "DELETE FROM job WHERE lane IN (SELECT CONCAT('model ', id) FROM analytic_model WHERE name = 'added to')",
            "DELETE FROM analytic_model WHERE name = 'added to'", "DELETE FROM source WHERE name = 'added to'",
            "DELETE FROM account WHERE email = 'adder@example.org'",
        ] as $sql) {
            self::$db->exec($sql);
        }
    }

    private static function one(string $sql): string
    {
        $rows = self::$db->query($sql);

        return false === $rows || !\is_scalar($found = $rows->fetchColumn()) ? '' : (string) $found;
    }

    public function testEachMeasureIsThere(): void
    {
        $model = self::one("SELECT id FROM analytic_model WHERE name = 'added to'");
        $names = array_map(static fn (int $i): string => "measure $i", range(1, self::ADDERS));
        $at = (string) (microtime(true) + self::READY);
        $adders = array_map(static fn (string $name): Process => new Process(
            [\PHP_BINARY, __DIR__.'/adding.php', $model, $name], env: ['APP_ENV' => 'test', 'FASTI_AT' => $at], timeout: 120,
        ), $names);
        foreach ($adders as $adder) {
            $adder->start();
        }
        foreach ($adders as $i => $adder) {
            self::assertSame(0, $adder->wait(), $names[$i].': '.$adder->getErrorOutput());
            self::assertSame('good', $adder->getOutput());
        }
        $kept = KeptModel::modelOf(self::one("SELECT definition FROM analytic_model WHERE id = $model"));

        self::assertEqualsCanonicalizing($names, array_map(static fn ($measure): string => $measure->name, $kept->measures));
        self::assertSame((string) self::ADDERS, self::one("SELECT COUNT(*) FROM change_event WHERE page = 'model' AND page_id = $model"));
    }
}
