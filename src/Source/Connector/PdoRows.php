<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** A session with a foreign server or database file, over PDO. */
final readonly class PdoRows implements Rows
{
    /** @param \Closure(\PDOException): SourceError $explain */
    public function __construct(private \PDO $pdo, private \Closure $explain)
    {
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        try {
            $statement = $this->pdo->prepare($sql);
            $statement->execute($parameters);
        } catch (\PDOException $e) {
            throw ($this->explain)($e);
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
            throw ($this->explain)($e);
        } finally {
            $statement->closeCursor();
        }
    }
}
