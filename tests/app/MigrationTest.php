<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Register\Joins;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** A register as an earlier Fasti left it keeps all that was written when it is brought up to date. */
final class MigrationTest extends TestCase
{
    private const DATABASE = 'fasti_migration_test';
    private const BEFORE = 'Fasti\\Migrations\\Version20261125132500';

    private static \PDO $db;

    public static function setUpBeforeClass(): void
    {
        self::$db = OddSchema::server();
        self::$db->exec('DROP DATABASE IF EXISTS '.self::DATABASE);
        self::$db->exec('CREATE DATABASE '.self::DATABASE.' CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
        self::migrated(self::BEFORE);
        self::$db->exec('USE '.self::DATABASE);
        // What is not given is empty.
        self::$db->exec("SET SESSION sql_mode = ''");
        $long = str_repeat('long_', 60);
        foreach ([
            "INSERT INTO account (id, email, name, role) VALUES (1, 'ren@example.org', 'Ren Abara', 'steward')",
            "INSERT INTO connection (id, label, engine, host, port) VALUES (7, 'live', 'mariadb', 'h', 3306)",
            "INSERT INTO source (id, name, choice, engine, connection_id) VALUES (3, 'rivers', '[]', 'mariadb', 7)",
            "INSERT INTO identifier (id, folded) VALUES (1, 'x')",
            "INSERT INTO entry (id, source_id, identifier_id, schema_name, name, kind, facts, standing, json_schema, business_name, meaning)
                VALUES (1, 3, 1, 'main', 'reading', 'table', '{\"kind\":\"table\"}', 'draft', '', 'Reading', 'What was read.'),
                       (2, 3, 1, 'main', 'alarms', 'collection',
                        '{\"traits\":[\"planned: no document was read\"]}', 'agreed', '{\"type\":\"object\"}', '', '')",
            "INSERT INTO field (id, entry_id, identifier_id, name, position, facts, meaning) VALUES
                (1, 1, 1, 'station', 0, '{}', 'Where.'), (2, 1, 1, '$long', 1, '{}', ''), (3, 2, 1, 'id', 0, '{}', '')",
            "INSERT INTO entry_join (id, name, pairs, kind, from_entry_id, to_entry_id, from_end, to_end, verb, verb_back, gone_at) VALUES
                (1, 'first', '[[\"station\",\"id\"]]', 'declared', 1, 2, 'none or more', 'one', '', 'gives', NULL),
                (2, 'second', '[[\"station\",\"id\"]]', 'declared', 1, 2, 'none or more', 'one', 'was taken at', '', NULL),
                (3, 'third', '[[\"$long\",\"id\"]]', 'proposed', 1, 2, 'none or more', 'one', '', '', NULL)",
            "INSERT INTO change_event (id, subject, subject_id, entry_id, property, text_before, text_after, at, account_id)
                VALUES (1, 'join', 2, 1, 'verb', '', 'was taken at', UTC_TIMESTAMP(), 1), (2, 'entry', 1, 1, 'standing', 'agreed', 'draft',
                    UTC_TIMESTAMP(), 1)",
            "INSERT INTO survey (id, source_id, state, asked_at, ended_at, error, summary, account_id) VALUES
                (1, 3, 'done', UTC_TIMESTAMP(), UTC_TIMESTAMP(), '', '{\"standouts\":[1],\"counts\":{\"new\":2}}', 1),
                (2, 3, 'failed', UTC_TIMESTAMP(), UTC_TIMESTAMP(), 'No host.', '[]', NULL),
                (3, 3, 'running', UTC_TIMESTAMP(), NULL, '', '[]', 1),
                (4, 3, 'failed', UTC_TIMESTAMP(), UTC_TIMESTAMP(), 'The server at h:3306 answered with an error: Duplicate entry “oona”', '[]', 1)",

            "INSERT INTO profile_run (id, source_id, state, waiting, total, notes, asked_at)
                VALUES (1, 3, 'paused', '[2]', 2, '[\"a note\"]', UTC_TIMESTAMP())",
            "INSERT INTO edition (id, number, title, state, asked_at, made_at, counts, scope)
                VALUES (1, 4, 'Rivers', 'done', UTC_TIMESTAMP(), UTC_TIMESTAMP(), '{}', '[]')",
            "INSERT INTO margin_note (entry_id, field_id, property, reason, made_at, settled_at, settled_by_id) VALUES
                (1, 1, 'meaning', 'It names what is gone.', UTC_TIMESTAMP(), NULL, NULL), (1, NULL, 'meaning', 'Settled.', UTC_TIMESTAMP(),
                    UTC_TIMESTAMP(), 1)",
        ] as $sql) {
            self::$db->exec($sql);
        }
        self::migrated('latest');
    }

    public static function tearDownAfterClass(): void
    {
        self::$db->exec('DROP DATABASE IF EXISTS '.self::DATABASE);
    }

    private static function migrated(string $to): void
    {
        (new Process(
            [\PHP_BINARY, 'bin/console', 'doctrine:migrations:migrate', $to, '-n', '-q'],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'test', 'DATABASE_NAME' => self::DATABASE],
        ))->mustRun();
    }

    /** @return list<list<mixed>> */
    private static function rows(string $sql): array
    {
        $rows = self::$db->query($sql);

        return false === $rows ? [] : array_values(array_map(static fn (mixed $row): array => array_values((array) $row), $rows->fetchAll(\PDO::FETCH_NUM)));
    }

    public function testLongWorkIsKeptWithItsEnd(): void
    {
        self::assertEquals(
            [
                ['survey', 'done', ''],
                ['survey', 'failed', 'No host.'],
                ['survey', 'failed', 'Fasti was brought up to date meanwhile. Ask for it again.'],
                ['survey', 'failed', 'It failed; what was said of it then is not kept any more.'],
                ['profile', 'paused', ''],
                ['edition', 'done', ''],
            ],
            self::rows('SELECT kind, state, error FROM job ORDER BY id'),
        );
        self::assertEquals([['[2]', '["a note"]']], self::rows("SELECT JSON_EXTRACT(payload, '$.waiting'), notes FROM job WHERE kind = 'profile'"));
        self::assertEquals(
            [[1, 1, 'live', '{"counts": {"new": 2}}'], [2, 0, 'live', '[]'], [3, 0, 'live', '[]'], [4, 0, 'live', '[]']],
            self::rows('SELECT job_id, ended_at IS NOT NULL, through, summary FROM survey ORDER BY id'),
        );
        self::assertEquals([[9]], self::rows('SELECT job_id FROM edition'));
    }

    public function testAnAccountKeepsItsRoleWhichIsAListOfActs(): void
    {
        $kept = self::$db->query('SELECT r.name, r.acts FROM account a JOIN account_role r ON r.id = a.role_id WHERE a.id = 1');
        self::assertNotFalse($kept);

        $row = (array) $kept->fetch(\PDO::FETCH_NUM);
        self::assertSame('steward', $row[0]);
        self::assertSame(
            ['read', 'describe', 'survey', 'decide', 'publish', 'ask', 'see personal', 'ask models'],
            json_decode(\is_string($row[1]) ? $row[1] : '', true),
        );
    }

    public function testASourceKeepsItsConnectionAndItsEntriesTheirTexts(): void
    {
        self::assertEquals([[3, 1, 'live']], self::rows('SELECT source_id, in_use, label FROM connection'));
        self::assertEquals(
            [['table', 'open', 'What was read.'], ['collection', 'agreed', '']],
            self::rows('SELECT table_type, standing, meaning FROM entry ORDER BY id'),
        );
        self::assertEquals([['entry', 2, 'jsonSchema', '{"type":"object"}']], self::rows('SELECT * FROM said'));
        self::assertEquals([['true']], self::rows("SELECT JSON_EXTRACT(facts, '$.planned') FROM entry WHERE id = 2"));
    }

    public function testJoinsOverTheSameFieldsAreOneWithAllThatWasSaid(): void
    {
        self::assertEquals([
            [1, Joins::identity([[1, 3]]), '["first", "second"]', 'declared', 'was taken at', 'gives'],
            [3, Joins::identity([[2, 3]]), '["third"]', 'proposed', '', ''],
        ], self::rows('SELECT id, identity, names, read_as, verb, verb_back FROM entry_join ORDER BY id'));
        self::assertEquals(
            [['join', 1, 'entry', 1, 'was taken at'], ['entry', 1, 'entry', 1, 'open']],
            self::rows('SELECT topic, topic_id, page, page_id, text_after FROM change_event ORDER BY id'),
        );
    }

    public function testNotesInTheMarginAreFindings(): void
    {
        self::assertEquals(
            [['It names what is gone.', 1, 0], ['Settled.', null, 1]],
            self::rows('SELECT title, field_id, set_aside_at IS NOT NULL FROM finding ORDER BY id'),
        );
    }
}
