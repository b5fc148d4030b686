<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use Fasti\Core\Survey\Rows;

/** Remembers what a server is asked, and what it says. */
final class Recording implements Rows
{
    /** @var list<array{string, array<string, string|int>, list<string>, list<list<string|null>>}> question, parameters, columns, rows */
    public array $answers = [];

    /** @param list<string> $schemas rows of others, which tests on the same server have made, are left out; all are taken where it is empty */
    public function __construct(private readonly Rows $rows, private readonly array $schemas = [])
    {
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        $columns = $rows = [];
        foreach ($this->rows->rows($sql, $parameters) as $row) {
            if ([] !== $this->schemas && isset($row['s']) && !\in_array($row['s'], $this->schemas, true)) {
                continue;
            }
            $columns = array_map(strval(...), array_keys($row));
            $rows[] = array_values($row);
        }
        $this->answers[] = [$sql, $parameters, $columns, $rows];

        return array_map(static fn (array $row): array => array_combine($columns, $row), $rows);
    }
}
