<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Fasti\Support\Row;

/** A schema on the real server with everything that is awkward to read, and an account that may read nothing else. */
final class OddSchema
{
    public const NAME = 'fasti_odd "ünï`';
    public const ACCOUNT = 'fasti_odd';
    public const SECRET = 'p@ss:w/rd #1';

    /** As whoever may make databases and accounts, which Fasti itself may not. */
    public static function server(): \PDO
    {
        return new \PDO(
            'mysql:unix_socket='.Row::text(['s' => $_SERVER['DATABASE_SOCKET'] ?? ''], 's').';charset=utf8mb4',
            'root',
            '',
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
    }

    public static function make(): void
    {
        $s = '`'.str_replace('`', '``', self::NAME).'`';
        $server = self::server();
        $quoted = $server->quote(self::SECRET);
        $account = self::ACCOUNT;
        foreach ([
            "DROP DATABASE IF EXISTS $s",
            "CREATE DATABASE $s CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci",
            "CREATE TABLE $s.`order` (`from` int NOT NULL, `select` varchar(10) NOT NULL DEFAULT 'it''s', PRIMARY KEY (`from`)) COMMENT 'keywords ''quoted'''",
            "CREATE TABLE $s.`with space` (`a b` int unsigned NOT NULL AUTO_INCREMENT, `quo\"te``` char(3) CHARACTER SET latin1 COLLATE latin1_bin, "
                ."`größe` decimal(6,2) unsigned DEFAULT 1.50, `顧客` varchar(20) DEFAULT NULL COMMENT '日本', PRIMARY KEY (`a b`))",
            "CREATE TABLE $s.`2024` (`1` int NOT NULL, `2` int NOT NULL, UNIQUE KEY both_of (`1`, `2`))",
            "CREATE TABLE $s.parts (a int NOT NULL, b int NOT NULL, kind enum('x','y,z','it''s') NOT NULL DEFAULT 'x', flags set('p','q'), twice int AS (a * "
                .'2) STORED, thrice int AS (a * 3) VIRTUAL, at timestamp(3) NOT NULL DEFAULT current_timestamp(3) ON UPDATE current_timestamp(3), note '
                .'text, PRIMARY KEY (a, b), KEY part_of_note (note(10)), KEY down (b DESC), FULLTEXT KEY words (note), CONSTRAINT a_positive CHECK (a > '
                .'0), b_checked int CHECK (b_checked < 9))',
            "CREATE TABLE $s.uses (id bigint unsigned NOT NULL, a int, b int, up int, PRIMARY KEY (id), CONSTRAINT `to parts` FOREIGN KEY (a, b) REFERENCES "
                ."$s.parts (a, b) ON DELETE SET NULL ON UPDATE CASCADE)",
            "CREATE VIEW $s.seen AS SELECT `from`, `select` FROM $s.`order`",
            "CREATE TABLE $s.doomed (x int)",
            "CREATE VIEW $s.broken AS SELECT x FROM $s.doomed",
            "DROP TABLE $s.doomed",
            "CREATE TRIGGER $s.keeps BEFORE INSERT ON $s.uses FOR EACH ROW SET NEW.up = 1",
            "CREATE FUNCTION $s.one() RETURNS int DETERMINISTIC COMMENT 'always 1' RETURN 1",
            "CREATE OR REPLACE USER $account@'127.0.0.1' IDENTIFIED BY $quoted",
            "GRANT SELECT, SHOW VIEW, TRIGGER ON $s.* TO $account@'127.0.0.1'",
            "CREATE OR REPLACE USER {$account}_poor@'127.0.0.1' IDENTIFIED BY 'poor'",
            "CREATE OR REPLACE USER {$account}_writer@'127.0.0.1' IDENTIFIED BY 'writes'",
            "GRANT ALL ON $s.* TO {$account}_writer@'127.0.0.1'",
            "CREATE OR REPLACE USER {$account}_all@'127.0.0.1' IDENTIFIED BY 'all'",
            "GRANT SELECT ON *.* TO {$account}_all@'127.0.0.1'",
        ] as $sql) {
            $server->exec($sql);
        }
    }

    public static function drop(): void
    {
        $server = self::server();
        $server->exec('DROP DATABASE IF EXISTS `'.str_replace('`', '``', self::NAME).'`');
        $server->exec(
            'DROP USER IF EXISTS '.self::ACCOUNT."@'127.0.0.1', ".self::ACCOUNT."_poor@'127.0.0.1', ".self::ACCOUNT."_writer@'127.0.0.1', ".self::ACCOUNT
                ."_all@'127.0.0.1'",
        );
    }

    /** @param array<string, string> $parts to change */
    public static function url(array $parts = []): string
    {
        $port = Row::int(['p' => $_SERVER['DATABASE_PORT'] ?? 33460], 'p');
        $parts += ['account' => self::ACCOUNT, 'secret' => self::SECRET, 'host' => '127.0.0.1', 'port' => (string) $port, 'database' => self::NAME];

        return \sprintf(
            'mysql://%s:%s@%s:%s/%s', rawurlencode($parts['account']), rawurlencode($parts['secret']), $parts['host'], $parts['port'],
            rawurlencode($parts['database']),
        );
    }
}
