<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch\Sqlite;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Cage\Child;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\Scratch;
use Fasti\Design\Scratch\ScratchServer;
use Fasti\Design\Scratch\Server;
use Fasti\Source\Connector\Served;
use Fasti\Source\Connector\Session;
use Fasti\Source\Connector\Sqlite\SqliteDoor;
use Fasti\Work\CurrentJob;

/** A database in a process of its own; what reaches beyond it is closed (see SqliteDoor). */
final readonly class SqliteScratch implements ScratchServer
{
    public function __construct(private CurrentJob $job)
    {
    }

    public function engine(): string
    {
        return 'sqlite';
    }

    public function with(\Closure $try, array $schemas = []): mixed
    {
        $start = static function (): Child {
            try {
                return Served::caged(new Cage(Served::parts(), disk: 256, memory: 2048, seconds: 600), 'sqlite3');
            } catch (CageError $e) {
                throw Server::without('SQLite', $e);
            }
        };
        $session = null;
        $open = function (\Closure $explain) use ($start, &$session): Session {
            $silent = static fn (string $what): SourceError => Server::ended($what, 'The scratch database died in the middle.');

            return $session = new Session(
                $start,
                ['door' => SqliteDoor::class, 'with' => [Cage::WORK.'/database', true]],
                Server::START,
                Server::STATEMENT,
                $explain,
                $silent,
                $this->job->listen(...),
                true,
            );
        };
        $loosely = static function (bool $loose) use (&$session): void {
            $session?->exec('PRAGMA foreign_keys = '.($loose ? 'OFF' : 'ON'));
        };
        try {
            return $try(new Scratch($open, Dialects::of('sqlite'), 'main', $loosely));
        } finally {
            $session?->end();
        }
    }
}
