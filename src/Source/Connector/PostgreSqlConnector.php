<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\Target;

final class PostgreSqlConnector extends ServerConnector
{
    public function engine(): string
    {
        return 'postgresql';
    }

    protected function opened(string $host, Target $target, int $seconds): \PDO
    {
        $quoted = static fn (string $value): string => "'".addcslashes($value, "'\\")."'";
        $database = $quoted('' === $target->database ? $target->account : $target->database);
        $dsn = \sprintf(
            'pgsql:host=%s port=%d connect_timeout=%d dbname=%s application_name=fasti',
            $quoted($host),
            $target->port,
            self::CONNECT_SECONDS,
            $database,
        );
        $pdo = new \PDO($dsn, $target->account, $target->secret, [
            \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION,
            \PDO::ATTR_STRINGIFY_FETCHES => true,
            \PDO::ATTR_EMULATE_PREPARES => true,
        ]);
        $pdo->exec('SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY');
        $pdo->exec("SET statement_timeout = '{$seconds}s'; SET search_path = ''; SET client_encoding = 'UTF8'; SET DateStyle = 'ISO'; SET standard_conforming_strings = on; SET jit = off");

        return $pdo;
    }

    /** By SQLSTATE, as the appendix “PostgreSQL Error Codes” of its manual lists them. */
    protected function fault(\PDOException $e, Target $target, int $seconds): ?array
    {
        $state = \is_string($e->errorInfo[0] ?? null) ? $e->errorInfo[0] : (string) $e->getCode();
        $text = $e->getMessage();
        $says = static fn (string ...$words): bool => [] === array_filter($words, static fn (string $word): bool => !str_contains($text, $word));
        $at = self::at($target);
        $database = '' === $target->database ? $target->account : $target->database;

        return match (true) {
            $says('could not translate host name') => self::noSuchHost($target),
            $says('Connection refused') => self::refused($target),
            $says('timeout expired') => self::silent($target),
            $says('authentication failed'), $says('no password supplied'), $says('role "', 'does not exist') => self::wrongPassword($target),
            $says('no pg_hba.conf entry') => [
                \sprintf('The server at %s does not let this machine or account in.', $at),
                'Its administrator can allow the account from here (pg_hba.conf).',
            ],
            $says('database "', 'does not exist') => [
                \sprintf('The server at %s has no database “%s”.', $at, $database),
                'A connection to PostgreSQL reads one database; name it.',
            ],
            $says('permission denied for database') => [
                \sprintf('The account “%s” may not connect to the database “%s”.', $target->account, $target->database),
                'Its owner can GRANT CONNECT ON it.',
            ],
            '57014' === $state => self::overTime($seconds),
            '42501' === $state => self::mayNotRead(),
            '42P01' === $state => ['This table or view is not there any more.', 'Survey the source again to see what changed.'],
            '53300' === $state || '57P03' === $state => ['The server has no connection to spare at the moment, or is just starting.', 'Try again in a while.'],
            str_starts_with($state, '57P') || str_starts_with($state, '08') => self::lost($target),
            $says('server closed the connection'), $says('no connection to the server'), $says('terminating connection') => self::lost($target),
            default => null,
        };
    }
}
