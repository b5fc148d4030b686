<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Text;

use Fasti\Tests\App\OddSchema;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** Twenty people who write in different fields of one entry, each in a process of their own. */
final class WritersTest extends TestCase
{
    private const WRITERS = 20;

    private static \PDO $db;

    public static function setUpBeforeClass(): void
    {
        self::$db = OddSchema::server();
        self::$db->exec('USE fasti_test');
        self::clean();
        self::$db->exec("INSERT INTO account (email, name, role_id, password_hash, active)
            SELECT 'writer@example.org', 'Writer', id, 'x', 1 FROM account_role WHERE name = 'steward'");
        self::$db->exec("INSERT INTO source (name, purpose, owner, choice, engine, every, added_at)
            VALUES ('written at once', '', '', '[]', 'mariadb', '', UTC_TIMESTAMP())");
        $source = (string) self::$db->lastInsertId();
        self::$db->exec("INSERT INTO connection (source_id, label, in_use, engine, host, port, database_name, account, path, dialect, sealed_secret)
            VALUES ($source, 'live', 1, 'files', '', 0, '', '', '', '', '')");
        (new Process([\PHP_BINARY, __DIR__.'/entry.php', $source, (string) self::WRITERS], env: ['APP_ENV' => 'test']))->mustRun();
    }

    public static function tearDownAfterClass(): void
    {
        self::clean();
    }

    private static function clean(): void
    {
        $source = "(SELECT id FROM source WHERE name = 'written at once')";
        $entry = "(SELECT id FROM entry WHERE source_id IN $source)";
        foreach ([
            "DELETE FROM change_event WHERE page = 'entry' AND page_id IN $entry", "DELETE FROM finding WHERE entry_id IN $entry", "DELETE FROM field
                WHERE entry_id IN $entry",
            "DELETE FROM job WHERE lane IN (SELECT CONCAT('drafts ', id) FROM source WHERE name = 'written at once')",
            "DELETE FROM entry WHERE source_id IN $source", "DELETE FROM source WHERE name = 'written at once'", "DELETE FROM account
                WHERE email = 'writer@example.org'",
            "DELETE FROM identifier WHERE folded LIKE 'writtenatonce%'",
        ] as $sql) {
            self::$db->exec($sql);
        }
    }

    private static function number(string $sql): int
    {
        $rows = self::$db->query($sql);

        return false === $rows ? -1 : (int) $rows->fetchColumn();
    }

    public function testAllOfThemAreSavedAndTheCountIsRight(): void
    {
        $entry = self::number("SELECT MAX(id) FROM entry WHERE name = 'written_at_once'");
        $writers = array_map(
            static fn (int $i): Process => new Process(
                [\PHP_BINARY, __DIR__.'/writer.php', (string) $i, (string) $entry],
                env: ['APP_ENV' => 'test'],
                timeout: 120,
            ),
            range(0, self::WRITERS - 1),
        );
        foreach ($writers as $writer) {
            $writer->start();
        }
        foreach ($writers as $i => $writer) {
            self::assertSame(0, $writer->wait(), $writer->getErrorOutput());
            self::assertSame('good', $writer->getOutput(), "writer $i");
        }
        self::assertSame(self::WRITERS, self::number("SELECT COUNT(*) FROM field WHERE entry_id = $entry AND meaning LIKE 'The last of %'"));
        self::assertSame(self::WRITERS, self::number("SELECT described_count FROM entry WHERE id = $entry"));
        self::assertSame(7 * self::WRITERS, self::number("SELECT COUNT(*) FROM change_event WHERE page = 'entry' AND page_id = $entry"));
    }
}
