<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\Target;

/** MariaDB; MySQL is reached in the same way. */
class MariaDbConnector extends ServerConnector
{
    public function engine(): string
    {
        return 'mariadb';
    }

    protected function opened(string $host, Target $target, int $seconds): \PDO
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

    protected function fault(\PDOException $e, Target $target, int $seconds): ?array
    {
        $code = $e->errorInfo[1] ?? $e->getCode();
        $text = $e->getMessage();
        $at = self::at($target);

        return match (true) {
            2002 === $code && str_contains($text, 'getaddrinfo') => self::noSuchHost($target),
            2002 === $code && str_contains($text, 'refused') => self::refused($target),
            2002 === $code => self::silent($target),
            1045 === $code => self::wrongPassword($target),
            1044 === $code => [
                \sprintf('The account “%s” has no rights on the database “%s”.', $target->account, $target->database),
                'Ask its administrator for SELECT on it, or leave the database empty to see what may be read.',
            ],
            1049 === $code => [
                \sprintf('The server at %s has no database “%s”.', $at, $target->database),
                'Check the name, or leave it empty to see what there is.',
            ],
            1130 === $code => [\sprintf('The server at %s does not let this machine in.', $at), 'Its administrator can allow the account from here.'],
            \in_array($code, [1040, 1203, 1226], true) => ['The server has no connection to spare at the moment.', 'Try again in a while.'],
            1969 === $code || 3024 === $code => self::overTime($seconds),
            \in_array($code, [1142, 1143, 1227, 1370], true) => self::mayNotRead(),
            1146 === $code || 1356 === $code => [
                'This table or view is not there any more, or what it reads is gone.',
                'Survey the source again to see what changed.',
            ],
            \in_array($code, [2006, 2013, 1927, 1053], true) => self::lost($target),
            default => null,
        };
    }
}
