<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Dialect\PostgreSql\PostgreSqlReader;
use Fasti\Core\Dialect\Sqlite\SqliteReader;
use Fasti\Core\Files\FilesReader;
use Fasti\Core\Survey\MariaDbReader;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** Opens sources for reading. */
final readonly class Sources
{
    public function __construct(private Vault $vault)
    {
    }

    /** @throws SourceError */
    public function reader(Target $target): Reader
    {
        return match ($target->engine) {
            'mariadb', 'mysql' => new MariaDbReader(PdoRows::open($target), $target->database),
            'postgresql' => new PostgreSqlReader(PdoRows::open($target)),
            'sqlite' => new SqliteReader(PdoRows::open($target)),
            default => FilesReader::open($target->path, $target->dialect),
        };
    }

    /**
     * A session for questions to the data, or null for files, which are read as they are.
     *
     * @throws SourceError
     */
    public function rows(Target $target, int $seconds): ?Rows
    {
        return 'files' === $target->engine ? null : PdoRows::open($target, $seconds);
    }

    public function target(Source $source): Target
    {
        $connection = $source->connection;
        try {
            $secret = $this->vault->open($connection->sealedSecret);
        } catch (\RuntimeException $e) {
            throw new SourceError($e->getMessage(), '', $e);
        }

        return new Target($connection->engine, $connection->host, $connection->port, $connection->database, $connection->account, $secret, $connection->path, $connection->dialect);
    }
}
