<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch\PostgreSql;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServer;
use Fasti\Design\Scratch\Server;
use Fasti\Design\Scratch\Template;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\Session;
use Fasti\Work\CurrentJob;

/**
 * A postgres without a port. Scripts run as an account that owns its database and is no superuser: nothing of COPY … PROGRAM, of files of
 * the server, of languages that are not trusted. Of the extensions of the machine only those are there that make types and functions of
 * values.
 */
final readonly class PostgreSqlScratch implements ScratchServer
{
    private const NAME = 'scratch';
    private const EXTENSIONS = [
        'plpgsql', 'citext', 'hstore', 'ltree', 'pg_trgm', 'pgcrypto', 'uuid-ossp', 'btree_gin', 'btree_gist', 'cube', 'earthdistance', 'intarray', 'isn',
        'seg', 'tablefunc', 'unaccent', 'fuzzystrmatch', 'bloom', 'dict_int', 'dict_xsyn', 'lo', 'tcn', 'tsm_system_rows', 'tsm_system_time',
    ];

    public function __construct(private Template $template, private CurrentJob $job)
    {
    }

    public function engine(): string
    {
        return 'postgresql';
    }

    public function with(\Closure $try, array $schemas = []): mixed
    {
        $folders = glob('/usr/lib/postgresql/*/bin') ?: [];
        rsort($folders, \SORT_NATURAL);
        try {
            $programs = \dirname(Cage::program('initdb', ...$folders));
            $make = "$programs/initdb -D /work/data -U fasti -A trust -E UTF8 --locale=C.UTF-8 --wal-segsize=1 -N";
            $template = $this->template->of('postgresql', self::cage([], $programs), "$programs/postgres", $make);
            $start = "$programs/postgres -D /work/data -c listen_addresses= -c unix_socket_directories=/work -c fsync=off"
                .' -c full_page_writes=off -c timezone=UTC -c max_locks_per_transaction=1024 -c shared_buffers=16MB -c max_connections=8 -c '
                .'max_worker_processes=0 -c max_parallel_workers=0'
                .' -c autovacuum=off -c dynamic_library_path='."'\$libdir'".' -c statement_timeout=60s -c temp_file_limit=512MB';
            $server = new Server(self::cage([$template => '/template'], $programs), $start, 'PostgreSQL', $this->job);
        } catch (CageError $e) {
            throw Server::without('PostgreSQL', $e);
        }
        try {
            $plain = static fn (Fault $fault): SourceError => new SourceError(
                trim($fault->text),
                '',
                null,
                str_starts_with($fault->state, '08') || '57P03' === $fault->state ? SourceError::LOST : '',
            );
            $at = static fn (string $folder, string $database): string => "pgsql:host=$folder dbname=$database";
            $own = $server->session(static fn (string $folder): array => [$at($folder, 'postgres'), 'fasti', ''], [], $plain);
            $own->exec('CREATE ROLE '.self::NAME.' LOGIN NOSUPERUSER NOCREATEROLE NOCREATEDB NOREPLICATION');
            $own->exec('CREATE DATABASE '.self::NAME.' OWNER '.self::NAME);
            $own->exec('REVOKE ALL ON DATABASE postgres, template1 FROM PUBLIC');
            $own->end();
            $own = $server->session(static fn (string $folder): array => [$at($folder, self::NAME), 'fasti', ''], ['SET client_min_messages = error'], $plain);
            $own->exec('ALTER SCHEMA public OWNER TO '.self::NAME);
            $open = static fn (\Closure $explain): Session => $server->session(
                static fn (string $folder): array => [$at($folder, self::NAME), self::NAME, ''],
                ["SET client_min_messages = error; SET DateStyle = 'ISO'; SET check_function_bodies = false"],
                $explain,
            );
            $scratch = null;
            $scratch = new Scratch($open, Dialects::of('postgresql'), 'public', static function (bool $loose) use (&$scratch, $own): void {
                // Only while rows are put in, which nobody wrote here, may its account go without looking where they lead.
                if ($loose) {
                    $own->exec('GRANT SET ON PARAMETER session_replication_role TO '.self::NAME);
                }
                $scratch?->exec('SET session_replication_role = '.($loose ? 'replica' : 'origin'));
                if (!$loose) {
                    $own->exec('REVOKE SET ON PARAMETER session_replication_role FROM '.self::NAME);
                }
            });

            return $try($scratch);
        } finally {
            $server->stop();
        }
    }

    /** @param array<string, string> $reads */
    private static function cage(array $reads, string $programs): Cage
    {
        $folder = str_replace('/usr/lib/', '/usr/share/', \dirname($programs)).'/extension';
        $files = [];
        foreach (self::EXTENSIONS as $name) {
            array_push($files, ...(glob("$folder/$name.control") ?: []), ...(glob("$folder/$name--*.sql") ?: []));
        }

        return new Cage($reads, is_dir($folder) ? [$folder => $files] : [], disk: 1024, memory: 2048, processes: 256, seconds: 600);
    }
}
