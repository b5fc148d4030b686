<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Sql;

use Fasti\Core\Survey\Rows;

/** Rows of a connection that the test has open anyway. */
final readonly class PlainRows implements Rows
{
    public function __construct(private \PDO $pdo)
    {
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        $statement = $this->pdo->prepare($sql);
        $statement->execute($parameters);
        while (\is_array($row = $statement->fetch(\PDO::FETCH_ASSOC))) {
            $read = [];
            foreach ($row as $name => $value) {
                $read[(string) $name] = \is_scalar($value) ? (string) $value : null;
            }
            yield $read;
        }
    }
}
