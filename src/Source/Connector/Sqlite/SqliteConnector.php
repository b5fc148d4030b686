<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\Sqlite;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\Child;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\Served;
use Fasti\Source\Connector\Session;
use Fasti\Source\Connector\SessionConnector;

/** SQLite files, each opened in a cage in which nothing else is. */
class SqliteConnector extends SessionConnector
{
    /** Where something may be put beside it: what keeps a log has an index of it made there, even by whoever only reads. */
    private const INSIDE = Cage::WORK.'/database';
    /** MiB: what the engine puts down on its way when it sorts, and what it may hold. */
    private const DISK = 2048;
    private const MEMORY = 3072;
    private const COMPUTING = 3600;

    public function engine(): string
    {
        return 'sqlite';
    }

    public function fields(): array
    {
        return ['file', 'path'];
    }

    public function rows(Target $target, int $connect, int $seconds): Session
    {
        if (!is_file($target->path)) {
            throw new SourceError(\sprintf('There is no file “%s”.', $target->path), 'Check the path, or hand the file in.');
        }
        $head = (string) @file_get_contents($target->path, false, null, 0, 16);
        if (!str_starts_with($head, "SQLite format 3\0")) {
            $why = '' === $head
                ? 'The file is empty, or may not be read.'
                : 'It begins otherwise than such a file does; perhaps it is a script or an export. Hand it in as what it is.';
            throw new SourceError(\sprintf('“%s” is not an SQLite database.', basename($target->path)), $why);
        }
        $path = (string) realpath($target->path);
        $reads = [$path => self::INSIDE];
        foreach (['-wal', '-shm', '-journal'] as $beside) {
            $reads['?'.$path.$beside] = self::INSIDE.$beside;
        }

        return $this->session($target, $connect, $seconds, static fn (): Child => Served::caged(new Cage(
            Served::parts() + $reads,
            disk: self::DISK,
            memory: self::MEMORY,
            seconds: self::COMPUTING,
            asNobody: false,
        ), 'sqlite3'), ['door' => SqliteDoor::class, 'with' => [self::INSIDE, false]]);
    }

    protected function at(Target $target): string
    {
        return '“'.basename($target->path).'”';
    }

    protected function mute(Target $target, int $connect): array
    {
        return [
            \sprintf('SQLite could not open “%s” within %d seconds.', basename($target->path), $connect),
            'Look whether the machine is very busy, and try again.',
        ];
    }

    protected function fault(Fault $fault, Target $target, int $seconds): ?array
    {
        $file = basename($target->path);

        return match (true) {
            $fault->says('malformed database schema'), 11 === $fault->code => [
                \sprintf('The SQLite database “%s” is damaged.', $file),
                'Restore it from a copy, or save what is left with the .recover command of the sqlite3 shell.',
            ],
            26 === $fault->code, $fault->says('not a database') => [
                \sprintf('“%s” is not an SQLite database, or an encrypted one.', $file),
                'Hand in the database file itself.',
            ],
            5 === $fault->code, 6 === $fault->code => [\sprintf('Another program is writing to “%s”.', $file), 'Try again in a while.'],
            14 === $fault->code, $fault->says('unable to open') => [
                \sprintf('“%s” could not be opened.', $file),
                'Check that the application may read the file and its folder.',
            ],
            $fault->says('no such table') => ['This table or view is not there any more.', 'Survey the source again to see what changed.'],
            1 === preg_match('/^no such (column|function|module|collation sequence): (\S+)$/', $fault->text, $m) => [
                \sprintf('SQLite could not read “%s”: there is no %s “%s”.', $file, $m[1], $m[2]),
                '',
            ],
            default => null,
        };
    }
}
