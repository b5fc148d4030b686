<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** A read-only session with a foreign MariaDB server. Rows are streamed, and each statement has a time limit. */
final class PdoRows implements Rows
{
    private const CONNECT_SECONDS = 2;
    private const STATEMENT_SECONDS = 120;

    private function __construct(private readonly \PDO $pdo, private readonly Target $target)
    {
    }

    /** @throws SourceError */
    public static function open(Target $target): self
    {
        // The client library would take "localhost" as an order to use a socket file.
        $host = 'localhost' === strtolower($target->host) ? '127.0.0.1' : $target->host;
        if (1 === preg_match('/[;\s]/', $host)) {
            throw new SourceError('The host holds a character that no name may have.', 'Check it for spaces and semicolons.');
        }
        try {
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
                ? 'SET SESSION max_statement_time = '.self::STATEMENT_SECONDS
                : 'SET SESSION max_execution_time = '.(self::STATEMENT_SECONDS * 1000));
        } catch (\PDOException $e) {
            throw self::explain($e, $target);
        }

        return new self($pdo, $target);
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        try {
            $statement = $this->pdo->prepare($sql);
            $statement->execute($parameters);
        } catch (\PDOException $e) {
            throw self::explain($e, $this->target);
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
            throw self::explain($e, $this->target);
        } finally {
            $statement->closeCursor();
        }
    }

    private static function explain(\PDOException $e, Target $target): SourceError
    {
        $code = $e->errorInfo[1] ?? $e->getCode();
        $text = $e->getMessage();
        $at = $target->host.':'.$target->port;
        [$message, $advice] = match (true) {
            2002 === $code && str_contains($text, 'getaddrinfo') => [\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.'],
            2002 === $code && str_contains($text, 'refused') => [\sprintf('Nothing answers at %s.', $at), 'Check the port, and that the database is running and listens on that address.'],
            2002 === $code => [\sprintf('%s did not answer within %d seconds.', $at, self::CONNECT_SECONDS), 'Check the address, and whether a firewall stands between.'],
            1045 === $code => [\sprintf('The server at %s does not accept this account with this password.', $at), 'Check both; letters count as capital and small.'],
            1044 === $code => [\sprintf('The account “%s” has no rights on the database “%s”.', $target->account, $target->database), 'Ask its administrator for SELECT on it, or leave the database empty to see what may be read.'],
            1049 === $code => [\sprintf('The server at %s has no database “%s”.', $at, $target->database), 'Check the name, or leave it empty to see what there is.'],
            1130 === $code => [\sprintf('The server at %s does not let this machine in.', $at), 'Its administrator can allow the account from here.'],
            1040 === $code || 1203 === $code || 1226 === $code => ['The server has no connection to spare at the moment.', 'Try again in a while.'],
            1969 === $code || 3024 === $code => [\sprintf('The server needed more than %d seconds for one question, so Fasti gave up on it.', self::STATEMENT_SECONDS), 'Choose fewer schemas, or try when the server is less busy.'],
            \in_array($code, [1142, 1143, 1227, 1370], true) => ['The account may not read the catalog of the server.', 'It needs SELECT on what is to be documented; nothing more.'],
            \in_array($code, [2006, 2013, 1927, 1053], true) => [\sprintf('The connection to %s was lost in the middle of reading.', $at), 'Nothing has been changed here. Try again when the server is up.'],
            default => [\sprintf('The server at %s answered with an error: %s', $at, preg_replace('/^SQLSTATE\[\w+\](?: \[\d+\]|: [^:]+:)?\s*/', '', $text)), ''],
        };

        return new SourceError($message, $advice, $e);
    }
}
