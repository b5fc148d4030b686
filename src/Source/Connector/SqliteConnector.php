<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Core\Value\Pattern;

final class SqliteConnector extends PdoConnector
{
    public function engine(): string
    {
        return 'sqlite';
    }

    public function fields(): array
    {
        return ['file', 'path'];
    }

    protected function connected(Target $target, int $seconds): \PDO
    {
        if (!is_file($target->path)) {
            throw new SourceError(\sprintf('There is no file “%s”.', $target->path), 'Check the path, or hand the file in.');
        }
        $head = (string) @file_get_contents($target->path, false, null, 0, 16);
        if ("SQLite format 3\0" !== $head) {
            $why = '' === $head ? 'The file is empty, or may not be read.' : 'It begins otherwise than such a file does; perhaps it is a script or an export. Hand it in as what it is.';
            throw new SourceError(\sprintf('“%s” is not an SQLite database.', basename($target->path)), $why);
        }
        $pdo = new \PDO('sqlite:'.$target->path, null, null, [
            \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION,
            \PDO::ATTR_STRINGIFY_FETCHES => true,
            \PDO::SQLITE_ATTR_OPEN_FLAGS => \PDO::SQLITE_OPEN_READONLY,
        ]);
        // The engine has the operator, and leaves it to whoever opens a file to say what it does.
        $pdo->sqliteCreateFunction('regexp', static fn (?string $expression, ?string $text): ?int => null === $expression || null === $text
            ? null : (int) (new Pattern($expression))->fits($text), 2);
        $pdo->exec('PRAGMA query_only = 1; PRAGMA trusted_schema = 0');

        return $pdo;
    }

    protected function fault(\PDOException $e, Target $target, int $seconds): ?array
    {
        $text = $e->getMessage();
        $file = basename($target->path);

        return match (true) {
            str_contains($text, 'malformed') => [
                \sprintf('The SQLite database “%s” is damaged.', $file),
                'Restore it from a copy, or save what is left with the .recover command of the sqlite3 shell.',
            ],
            str_contains($text, 'not a database') => [
                \sprintf('“%s” is not an SQLite database, or an encrypted one.', $file),
                'Hand in the database file itself.',
            ],
            str_contains($text, 'locked') => [\sprintf('Another program is writing to “%s”.', $file), 'Try again in a while.'],
            str_contains($text, 'unable to open') => [
                \sprintf('“%s” could not be opened.', $file),
                'Check that the application may read the file and its folder.',
            ],
            str_contains($text, 'no such table') => ['This table or view is not there any more.', 'Survey the source again to see what changed.'],
            default => null,
        };
    }

    protected function unknown(string $said, Target $target): string
    {
        return \sprintf('SQLite could not read “%s”: %s', basename($target->path), $said);
    }
}
