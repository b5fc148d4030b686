<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\MariaDb;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\ServerConnector;
use Fasti\Source\Sources;

/** MariaDB; MySQL is reached in the same way. */
class MariaDbConnector extends ServerConnector
{
    public function engine(): string
    {
        return 'mariadb';
    }

    protected function opening(string $address, Target $target, int $connect, int $seconds): array
    {
        $place = str_starts_with($address, '/') ? "unix_socket=$address" : \sprintf('host=%s;port=%d', $address, $target->port);
        $first = '' === $target->database ? [] : ['USE '.Dialects::of('mariadb')->quoted($target->database)];

        return ["mysql:$place;charset=utf8mb4", $target->account, $target->secret, [
            \PDO::ATTR_TIMEOUT => $connect,
            \PDO::MYSQL_ATTR_USE_BUFFERED_QUERY => false,
            \PDO::MYSQL_ATTR_MULTI_STATEMENTS => false,
            \PDO::MYSQL_ATTR_LOCAL_INFILE => false,
        ], [
            ...$first,
            'SET SESSION TRANSACTION READ ONLY',
            // Texts are written with doubled backslashes; see MariaDbDialect::literal().
            "SET SESSION sql_mode = REPLACE(@@SESSION.sql_mode, 'NO_BACKSLASH_ESCAPES', '')",
            // Each of the two kin reads the comment that is meant for it.
            \sprintf('SET @fasti = 1 /*M!, SESSION max_statement_time = %d */ /*!50708 , SESSION max_execution_time = %d */', $seconds, $seconds * 1000),
        ]];
    }

    protected function fault(Fault $fault, Target $target, int $seconds): ?array
    {
        $code = $fault->code;
        $text = $fault->text;
        $at = $this->at($target);

        return match (true) {
            2002 === $code && str_contains($text, 'getaddrinfo') => self::noSuchHost($target),
            2002 === $code && str_contains($text, 'refused') => $this->refused($target),
            2002 === $code => $this->mute($target, Sources::AT_ONCE),
            1045 === $code => $this->wrongPassword($target),
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
            \in_array($code, [2006, 2013, 1927, 1053], true) => self::lost($at),
            default => null,
        };
    }
}
