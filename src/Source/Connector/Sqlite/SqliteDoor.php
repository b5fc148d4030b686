<?php

declare(strict_types=1);

namespace Fasti\Source\Connector\Sqlite;

use Fasti\Core\Value\Pattern;
use Fasti\Source\Connector\Door;

/** An SQLite database, inside the cage in which it is the only one. Whatever reaches beyond it is closed. */
final class SqliteDoor implements Door
{
    /** Functions that reach beyond the database. */
    private const CLOSED = ['load_extension', 'readfile', 'writefile', 'edit', 'fts3_tokenizer', 'lsdir', 'fsdir', 'zipfile'];
    private const CLOSED_PRAGMAS = ['temp_store_directory', 'data_store_directory', 'writable_schema', 'trusted_schema', 'query_only'];

    private readonly \SQLite3 $database;
    /** @var list<string> */
    private array $columns = [];

    /** @param bool $writes a new database, which is made where it is not there; otherwise one that is only read */
    public function __construct(string $path, bool $writes)
    {
        $this->database = new \SQLite3($path, $writes ? \SQLITE3_OPEN_READWRITE | \SQLITE3_OPEN_CREATE : \SQLITE3_OPEN_READONLY);
        $this->database->enableExceptions(true);
        $this->database->busyTimeout($writes ? 0 : 2000);
        // The engine has the operator, and leaves it to whoever opens a file to say what it does.
        $this->database->createFunction('regexp', static fn (mixed $expression, mixed $text): ?int => \is_scalar($expression) && \is_scalar($text)
            ? (int) (new Pattern((string) $expression))->fits((string) $text) : null, 2);
        $this->database->exec('PRAGMA trusted_schema = 0'.($writes ? '' : '; PRAGMA query_only = 1'));
        $this->database->setAuthorizer(self::allowed(...));
    }

    /** By the codes of sqlite3_set_authorizer(). Another file is never opened; '' is what VACUUM attaches for itself. */
    public static function allowed(int $action, ?string $first, ?string $second): int
    {
        $closed = match ($action) {
            \SQLite3::ATTACH => '' !== (string) $first,
            \SQLite3::FUNCTION => \in_array(strtolower((string) $second), self::CLOSED, true),
            \SQLite3::PRAGMA => null !== $second && \in_array(strtolower((string) $first), self::CLOSED_PRAGMAS, true),
            default => false,
        };

        return $closed ? \SQLite3::DENY : \SQLite3::OK;
    }

    public function rows(string $sql, array $parameters): iterable
    {
        $statement = $this->database->prepare($sql);
        if (false === $statement) {
            throw new \RuntimeException('No statement could be made.');
        }
        foreach ($parameters as $name => $value) {
            $statement->bindValue(':'.$name, $value, \is_int($value) ? \SQLITE3_INTEGER : \SQLITE3_TEXT);
        }
        $result = $statement->execute();
        if (false === $result) {
            throw new \RuntimeException('The statement could not be run.');
        }
        $this->columns = [];
        for ($i = 0; $i < $result->numColumns(); ++$i) {
            $this->columns[] = (string) $result->columnName($i);
        }
        while ([] !== $this->columns && \is_array($row = $result->fetchArray(\SQLITE3_NUM))) {
            yield array_map(static fn (mixed $value): ?string => \is_scalar($value) ? (string) $value : null, array_values($row));
        }
        $result->finalize();
    }

    public function columns(): array
    {
        return $this->columns;
    }

    public function exec(string $sql): void
    {
        $this->database->exec($sql);
    }

    public function code(\Exception $e): array
    {
        return ['', $this->database->lastErrorCode()];
    }
}
