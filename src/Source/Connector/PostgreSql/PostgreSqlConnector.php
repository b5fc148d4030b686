<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\PostgreSql;

use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\ServerConnector;
use Fasti\Source\Sources;

class PostgreSqlConnector extends ServerConnector
{
    public function engine(): string
    {
        return 'postgresql';
    }

    protected function opening(string $address, Target $target, int $connect, int $seconds): array
    {
        $quoted = static fn (string $value): string => "'".addcslashes($value, "'\\")."'";
        $dsn = \sprintf(
            'pgsql:%s=%s port=%d connect_timeout=%d dbname=%s application_name=fasti',
            str_starts_with($address, '/') ? 'host' : 'hostaddr',
            $quoted($address),
            $target->port,
            max(2, $connect),
            $quoted('' === $target->database ? $target->account : $target->database),
        );

        return [$dsn, $target->account, $target->secret, [], [
            'SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY',
            "SET statement_timeout = '{$seconds}s'; SET search_path = ''; SET client_encoding = 'UTF8'; SET DateStyle = 'ISO'",
            'SET standard_conforming_strings = on; SET jit = off',
        ]];
    }

    /** By SQLSTATE, as the appendix “PostgreSQL Error Codes” of its manual lists them. */
    protected function fault(Fault $fault, Target $target, int $seconds): ?array
    {
        $state = $fault->state;
        $says = $fault->says(...);
        $at = $this->at($target);
        $database = '' === $target->database ? $target->account : $target->database;

        return match (true) {
            $says('could not translate host name') => self::noSuchHost($target),
            $says('Connection refused') => $this->refused($target),
            $says('timeout expired') => $this->mute($target, Sources::AT_ONCE),
            $says('authentication failed'), $says('no password supplied'), $says('role "', 'does not exist') => $this->wrongPassword($target),
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
            str_starts_with($state, '57P') || str_starts_with($state, '08') => self::lost($at),
            $says('server closed the connection'), $says('no connection to the server'), $says('terminating connection') => self::lost($at),
            default => null,
        };
    }
}
