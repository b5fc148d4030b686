<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Dialect\Dialects;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** A postgres without a port. It refuses to run as root, and its owner may have no way into the folder of the application. */
final readonly class PostgreSqlScratch implements ScratchServer
{
    public function __construct(#[Autowire('%kernel.project_dir%/var/scratch')] private string $folder)
    {
    }

    public function engine(): string
    {
        return 'postgresql';
    }

    public function with(\Closure $try): mixed
    {
        $daemon = new Daemon(sys_get_temp_dir().'/fasti-scratch-'.substr(hash('xxh64', $this->folder), 0, 10).'-postgresql', 'PostgreSQL');
        $folders = glob('/usr/lib/postgresql/*/bin') ?: [];
        rsort($folders, \SORT_NATURAL);
        $root = 0 === posix_geteuid();
        $as = $root ? ['runuser', '-u', 'postgres', '--'] : [];
        $data = $daemon->place().'/data';
        try {
            $root && chown($daemon->place(), 'postgres');
            if (!is_file($data.'/PG_VERSION')) {
                $daemon->prepare([...$as, Daemon::program('initdb', ...$folders), '-D', $data, '-U', 'fasti', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8']);
            }
            $opened = static fn (string $database): \PDO => new \PDO("pgsql:host={$daemon->place()} dbname=$database", 'fasti', '', [
                \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true, \PDO::ATTR_EMULATE_PREPARES => true,
            ]);
            $server = $daemon->start([
                ...$as, Daemon::program('postgres', ...$folders), '-D', $data, '-c', 'listen_addresses=', '-c', 'unix_socket_directories='.$daemon->place(),
                '-c', 'fsync=off', '-c', 'timezone=UTC', '-c', 'max_locks_per_transaction=1024',
            ], static fn (): \PDO => $opened('postgres'));
            $server->exec('DROP DATABASE IF EXISTS scratch WITH (FORCE)');
            $server->exec('CREATE DATABASE scratch');
            $pdo = $opened('scratch');
            $pdo->exec("SET client_min_messages = error; SET DateStyle = 'ISO'; SET check_function_bodies = false");

            return $try(
                new Scratch($pdo, Dialects::of('postgresql'), 'public', 'SET session_replication_role = replica', 'SET session_replication_role = origin'),
            );
        } finally {
            unset($pdo);
            try {
                // Rows of a sample stay no longer than they are needed.
                isset($server) && $server->exec('DROP DATABASE IF EXISTS scratch WITH (FORCE)');
            } catch (\PDOException) {
                // A server that died takes nothing away; the next one begins with that.
            }
            unset($server);
            is_file($data.'/postmaster.pid') && $daemon->prepare([...$as, Daemon::program('pg_ctl', ...$folders), '-D', $data, '-m', 'immediate', 'stop']);
            $daemon->stop();
        }
    }
}
