<?php

declare(strict_types=1);

namespace Fasti\Bench;

/** A made-up schema of 2,000 tables, 40,000 columns and 4,000 foreign keys. The same every time. */
final class Schema
{
    public const NAME = 'fasti_bench_source';
    public const TABLES = 2000;
    private const COLUMNS = 20;
    private const WORDS = [
        'order', 'line', 'price', 'station', 'reading', 'sample', 'batch', 'visit', 'person', 'address', 'unit', 'value', 'code', 'flag', 'start', 'end',
        'note', 'state', 'kind', 'area', 'depth', 'weight', 'length', 'owner', 'method', 'result', 'river', 'reach', 'barrier', 'species', 'permit', 'alert',
    ];
    private const TYPES = [
        'varchar(60)', 'int(11)', 'decimal(10,2)', 'datetime', 'char(3)', "enum('open','shut','planned')", 'text', 'tinyint(1)', 'bigint(20) unsigned',
        'date',
    ];

    public static function make(\PDO $server): void
    {
        $there = $server->query("SELECT COUNT(*) FROM information_schema.TABLES WHERE TABLE_SCHEMA = '".self::NAME."'");
        if (false !== $there && self::TABLES === (int) $there->fetchColumn()) {
            return;
        }
        fwrite(\STDERR, "Making the schema to read: 2,000 tables …\n");
        mt_srand(11);
        $server->exec('DROP DATABASE IF EXISTS '.self::NAME);
        $server->exec('CREATE DATABASE '.self::NAME.' CHARACTER SET utf8mb4');
        $server->exec('USE '.self::NAME);
        for ($t = 0; $t < self::TABLES; ++$t) {
            $columns = ['id int(10) unsigned NOT NULL AUTO_INCREMENT'];
            $keys = ['PRIMARY KEY (id)'];
            $refers = min(2, $t);
            for ($r = 0; $r < $refers; ++$r) {
                $to = 0 === mt_rand(0, 2) ? intdiv($t, 9) : mt_rand(max(0, $t - 40), $t - 1);
                $columns[] = "ref_{$r}_id int(10) unsigned".(0 === $r ? ' NOT NULL' : ' DEFAULT NULL');
                $keys[] = "CONSTRAINT t{$t}_$r FOREIGN KEY (ref_{$r}_id) REFERENCES ".self::table($to).' (id)';
            }
            for ($c = \count($columns); $c < self::COLUMNS; ++$c) {
                $columns[] = '`'.self::WORDS[mt_rand(0, 31)].'_'.self::WORDS[mt_rand(0, 31)].'_'.$c.'` '.self::TYPES[mt_rand(0, 9)]
                    .(0 === mt_rand(0, 4) ? " COMMENT 'what it is'" : '');
            }
            $server->exec('CREATE TABLE '.self::table($t).' ('.implode(', ', [...$columns, ...$keys]).')'.(0 === $t % 3 ? " COMMENT 'a table'" : ''));
        }
    }

    public static function table(int $number): string
    {
        return \sprintf('`%s_%s_%04d`', self::WORDS[$number % 32], self::WORDS[intdiv($number, 32) % 32], $number);
    }
}
