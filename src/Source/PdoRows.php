<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** A read-only session with a foreign server or SQLite file. Each statement has a time limit. */
final class PdoRows implements Rows
{
    private const CONNECT_SECONDS = 2;
    public const STATEMENT_SECONDS = 120;

    private function __construct(private readonly \PDO $pdo, private readonly Target $target, private readonly int $seconds)
    {
    }

    /** @throws SourceError */
    public static function open(Target $target, int $seconds = self::STATEMENT_SECONDS): self
    {
        // The client library would take "localhost" as an order to use a socket file.
        $host = 'localhost' === strtolower($target->host) ? '127.0.0.1' : $target->host;
        if (1 === preg_match('/[;\s]/', $host)) {
            throw new SourceError('The host holds a character that no name may have.', 'Check it for spaces and semicolons.');
        }
        try {
            $pdo = match ($target->engine) {
                'sqlite' => self::sqlite($target),
                'postgresql' => self::postgreSql($target, $host, $seconds),
                default => self::mySql($target, $host, $seconds),
            };
        } catch (\PDOException $e) {
            throw self::explain($e, $target, $seconds);
        }

        return new self($pdo, $target, $seconds);
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        try {
            $statement = $this->pdo->prepare($sql);
            $statement->execute($parameters);
        } catch (\PDOException $e) {
            throw self::explain($e, $this->target, $this->seconds);
        }

        return $this->stream($statement);
    }

    /** @return \Generator<array<string, string|null>> */
    private function stream(\PDOStatement $statement): \Generator
    {
        try {
            while (\is_array($row = $statement->fetch(\PDO::FETCH_ASSOC))) {
                /** @var array<string, string|null> $row */
                yield $row;
            }
        } catch (\PDOException $e) {
            throw self::explain($e, $this->target, $this->seconds);
        } finally {
            $statement->closeCursor();
        }
    }

    private static function mySql(Target $target, string $host, int $seconds): \PDO
    {
        $pdo = new \PDO(
            \sprintf('mysql:host=%s;port=%d;charset=utf8mb4', $host, $target->port),
            $target->account,
            $target->secret,
            [
                \PDO::ATTR_TIMEOUT => self::CONNECT_SECONDS,
                \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION,
                \PDO::ATTR_STRINGIFY_FETCHES => true,
                \PDO::ATTR_EMULATE_PREPARES => true,
                \PDO::MYSQL_ATTR_USE_BUFFERED_QUERY => false,
                \PDO::MYSQL_ATTR_MULTI_STATEMENTS => false,
                \PDO::MYSQL_ATTR_LOCAL_INFILE => false,
            ],
        );
        if ('' !== $target->database) {
            $pdo->exec('USE `'.str_replace('`', '``', $target->database).'`');
        }
        $pdo->exec('SET SESSION TRANSACTION READ ONLY');
        $version = $pdo->getAttribute(\PDO::ATTR_SERVER_VERSION);
        $pdo->exec(\is_string($version) && str_contains($version, 'MariaDB')
            ? 'SET SESSION max_statement_time = '.$seconds
            : 'SET SESSION max_execution_time = '.($seconds * 1000));

        return $pdo;
    }

    private static function postgreSql(Target $target, string $host, int $seconds): \PDO
    {
        $quoted = static fn (string $value): string => "'".addcslashes($value, "'\\")."'";
        $dsn = \sprintf('pgsql:host=%s port=%d connect_timeout=%d dbname=%s application_name=fasti', $quoted($host), $target->port, self::CONNECT_SECONDS, $quoted('' === $target->database ? $target->account : $target->database));
        $pdo = new \PDO($dsn, $target->account, $target->secret, [
            \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION,
            \PDO::ATTR_STRINGIFY_FETCHES => true,
            \PDO::ATTR_EMULATE_PREPARES => true,
        ]);
        $pdo->exec('SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY');
        $pdo->exec("SET statement_timeout = '{$seconds}s'; SET search_path = ''; SET client_encoding = 'UTF8'; SET DateStyle = 'ISO'; SET standard_conforming_strings = on; SET jit = off");

        return $pdo;
    }

    private static function sqlite(Target $target): \PDO
    {
        if (!is_file($target->path)) {
            throw new SourceError(\sprintf('There is no file “%s”.', $target->path), 'Check the path, or hand the file in.');
        }
        $head = (string) @file_get_contents($target->path, false, null, 0, 16);
        if ("SQLite format 3\0" !== $head) {
            throw new SourceError(\sprintf('“%s” is not an SQLite database.', basename($target->path)), '' === $head ? 'The file is empty, or may not be read.' : 'It begins otherwise than such a file does; perhaps it is a script or an export. Hand it in as what it is.');
        }
        $pdo = new \PDO('sqlite:'.$target->path, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true, \PDO::SQLITE_ATTR_OPEN_FLAGS => \PDO::SQLITE_OPEN_READONLY]);
        $pdo->exec('PRAGMA query_only = 1; PRAGMA trusted_schema = 0');

        return $pdo;
    }

    private static function explain(\PDOException $e, Target $target, int $seconds): SourceError
    {
        $text = $e->getMessage();
        $at = $target->host.':'.$target->port;
        $said = preg_replace('/^SQLSTATE\[\w+\](?: \[\d+\]|: [^:]+: \d+)?\s*/', '', $text);
        $known = match ($target->engine) {
            'sqlite' => self::sqliteFault($text, $target),
            'postgresql' => self::postgreSqlFault(\is_string($e->errorInfo[0] ?? null) ? $e->errorInfo[0] : (string) $e->getCode(), $text, $target, $at, $seconds),
            default => self::mySqlFault($e->errorInfo[1] ?? $e->getCode(), $text, $target, $at, $seconds),
        };
        $what = $known[2] ?? '';
        [$message, $advice] = $known ?? ['sqlite' === $target->engine ? \sprintf('SQLite could not read “%s”: %s', basename($target->path), $said) : \sprintf('The server at %s answered with an error: %s', $at, $said), ''];

        return new SourceError($message, $advice, $e, $what);
    }

    /** @return array{0: string, 1: string, 2?: string}|null message, advice, and which of the cases that callers tell apart */
    private static function mySqlFault(mixed $code, string $text, Target $target, string $at, int $seconds): ?array
    {
        return match (true) {
            2002 === $code && str_contains($text, 'getaddrinfo') => [\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.'],
            2002 === $code && str_contains($text, 'refused') => [\sprintf('Nothing answers at %s.', $at), 'Check the port, and that the database is running and listens on that address.'],
            2002 === $code => [\sprintf('%s did not answer within %d seconds.', $at, self::CONNECT_SECONDS), 'Check the address, and whether a firewall stands between.'],
            1045 === $code => [\sprintf('The server at %s does not accept this account with this password.', $at), 'Check both; letters count as capital and small.'],
            1044 === $code => [\sprintf('The account “%s” has no rights on the database “%s”.', $target->account, $target->database), 'Ask its administrator for SELECT on it, or leave the database empty to see what may be read.'],
            1049 === $code => [\sprintf('The server at %s has no database “%s”.', $at, $target->database), 'Check the name, or leave it empty to see what there is.'],
            1130 === $code => [\sprintf('The server at %s does not let this machine in.', $at), 'Its administrator can allow the account from here.'],
            1040 === $code || 1203 === $code || 1226 === $code => ['The server has no connection to spare at the moment.', 'Try again in a while.'],
            1969 === $code || 3024 === $code => self::overTime($seconds),
            \in_array($code, [1142, 1143, 1227, 1370], true) => ['The account may not read this.', 'It needs SELECT on what is to be documented; nothing more.'],
            1146 === $code || 1356 === $code => ['This table or view is not there any more, or what it reads is gone.', 'Survey the source again to see what changed.'],
            \in_array($code, [2006, 2013, 1927, 1053], true) => self::lost($at),
            default => null,
        };
    }

    /**
     * By SQLSTATE, as the appendix “PostgreSQL Error Codes” of its manual lists them.
     *
     * @return array{0: string, 1: string, 2?: string}|null
     */
    private static function postgreSqlFault(string $state, string $text, Target $target, string $at, int $seconds): ?array
    {
        return match (true) {
            str_contains($text, 'could not translate host name') => [\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.'],
            str_contains($text, 'Connection refused') => [\sprintf('Nothing answers at %s.', $at), 'Check the port, and that the database is running and listens on that address.'],
            str_contains($text, 'timeout expired') => [\sprintf('%s did not answer within %d seconds.', $at, self::CONNECT_SECONDS), 'Check the address, and whether a firewall stands between.'],
            str_contains($text, 'authentication failed') || str_contains($text, 'no password supplied') || str_contains($text, 'role "') && str_contains($text, 'does not exist') => [\sprintf('The server at %s does not accept this account with this password.', $at), 'Check both; letters count as capital and small.'],
            str_contains($text, 'no pg_hba.conf entry') => [\sprintf('The server at %s does not let this machine or account in.', $at), 'Its administrator can allow the account from here (pg_hba.conf).'],
            str_contains($text, 'database "') && str_contains($text, 'does not exist') => [\sprintf('The server at %s has no database “%s”.', $at, '' === $target->database ? $target->account : $target->database), 'A connection to PostgreSQL reads one database; name it.'],
            str_contains($text, 'permission denied for database') => [\sprintf('The account “%s” may not connect to the database “%s”.', $target->account, $target->database), 'Its owner can GRANT CONNECT ON it.'],
            '57014' === $state => self::overTime($seconds),
            '42501' === $state => ['The account may not read this.', 'It needs SELECT on what is to be documented; nothing more.'],
            '42P01' === $state => ['This table or view is not there any more.', 'Survey the source again to see what changed.'],
            '53300' === $state || '57P03' === $state => ['The server has no connection to spare at the moment, or is just starting.', 'Try again in a while.'],
            str_starts_with($state, '57P') || str_starts_with($state, '08') || str_contains($text, 'server closed the connection') || str_contains($text, 'no connection to the server') || str_contains($text, 'terminating connection') => self::lost($at),
            default => null,
        };
    }

    /** @return array{0: string, 1: string, 2?: string}|null */
    private static function sqliteFault(string $text, Target $target): ?array
    {
        $file = basename($target->path);

        return match (true) {
            str_contains($text, 'malformed') => [\sprintf('The SQLite database “%s” is damaged.', $file), 'Restore it from a copy, or save what is left with the .recover command of the sqlite3 shell.'],
            str_contains($text, 'not a database') => [\sprintf('“%s” is not an SQLite database, or an encrypted one.', $file), 'Hand in the database file itself.'],
            str_contains($text, 'locked') => [\sprintf('Another program is writing to “%s”.', $file), 'Try again in a while.'],
            str_contains($text, 'unable to open') => [\sprintf('“%s” could not be opened.', $file), 'Check that the application may read the file and its folder.'],
            str_contains($text, 'no such table') => ['This table or view is not there any more.', 'Survey the source again to see what changed.'],
            default => null,
        };
    }

    /** @return array{string, string, string} */
    private static function overTime(int $seconds): array
    {
        return [\sprintf('The server needed more than %d seconds for one question, so Fasti gave up on it.', $seconds), 'Choose fewer tables, or try when the server is less busy.', SourceError::OVER_TIME];
    }

    /** @return array{string, string, string} */
    private static function lost(string $at): array
    {
        return [\sprintf('The connection to %s was lost in the middle of reading.', $at), 'Nothing has been changed here. Try again when the server is up.', SourceError::LOST];
    }
}
