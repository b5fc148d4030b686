<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Dialect\Dialects;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** A mariadbd without a port, known to this process alone. */
final readonly class MariaDbScratch implements ScratchServer
{
    public function __construct(#[Autowire('%kernel.project_dir%/var/scratch')] private string $folder)
    {
    }

    public function engine(): string
    {
        return 'mariadb';
    }

    public function with(\Closure $try): mixed
    {
        $daemon = new Daemon($this->folder.'/mariadb', 'MariaDB');
        try {
            $as = 0 === posix_geteuid() ? ['--user=root'] : [];
            $data = $daemon->place().'/data';
            if (!is_dir($data.'/mysql')) {
                $daemon->prepare([
                    Daemon::program('mariadb-install-db'), '--no-defaults', "--datadir=$data", '--auth-root-authentication-method=normal', '--skip-test-db',
                    '--innodb-log-file-size=16M', ...$as,
                ]);
            }
            // A socket path may have 107 characters at the most.
            $socket = sys_get_temp_dir().'/fasti-scratch-'.substr(hash('xxh64', $this->folder), 0, 10).'.sock';
            $pdo = $daemon->start([
                Daemon::program('mariadbd'), '--no-defaults', ...$as, "--datadir=$data", "--socket=$socket", "--pid-file=$data/scratch.pid",
                '--skip-networking',
                '--skip-log-bin', '--innodb-log-file-size=16M', '--innodb-buffer-pool-size=64M', '--innodb-flush-log-at-trx-commit=0', '--skip-name-resolve',
                '--character-set-server=utf8mb4', '--collation-server=utf8mb4_unicode_ci', '--default-time-zone=+00:00', "--log-error=$data/error.log",
            ], static fn (): \PDO => new \PDO("mysql:unix_socket=$socket;charset=utf8mb4", 'root', '', [
                \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true,
            ]));
            self::emptied($pdo);
            $pdo->exec('CREATE DATABASE scratch');
            $pdo->exec('USE scratch');

            try {
                return $try(new Scratch($pdo, Dialects::of('mariadb'), 'scratch', 'SET foreign_key_checks = 0', 'SET foreign_key_checks = 1'));
            } finally {
                self::emptied($pdo);
            }
        } finally {
            $daemon->stop();
        }
    }

    /** A script may make databases of its own. Rows of a sample stay no longer than they are needed. */
    private static function emptied(\PDO $pdo): void
    {
        $others = 'SELECT SCHEMA_NAME FROM information_schema.SCHEMATA'
            ." WHERE SCHEMA_NAME NOT IN ('mysql', 'sys', 'performance_schema', 'information_schema')";
        try {
            $known = $pdo->query($others);
            foreach (false === $known ? [] : $known->fetchAll(\PDO::FETCH_COLUMN) as $old) {
                \is_string($old) && $pdo->exec('DROP DATABASE `'.str_replace('`', '``', $old).'`');
            }
        } catch (\PDOException) {
            // A server that died takes nothing away; the next one begins with that.
        }
    }
}
