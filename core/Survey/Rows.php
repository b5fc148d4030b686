<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

/** The one port through which a foreign database is read. Implementations only ever read. */
interface Rows
{
    /**
     * @param array<string, string|int> $parameters named, without the colon
     *
     * @return iterable<array<string, string|null>> each value as the server writes it, in column order
     *
     * @throws SourceError
     */
    public function rows(string $sql, array $parameters = []): iterable;
}
