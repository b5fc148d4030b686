<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

/** A connection to a source, in the process that has nothing else to do; see Serving. */
interface Door
{
    /**
     * Gives rows, each as a list of texts, under the names of the columns.
     *
     * @param array<string, string|int> $parameters
     *
     * @return iterable<mixed> of list<string|null>
     *
     * @throws \Exception
     */
    public function rows(string $sql, array $parameters): iterable;

    /** @return list<string> of the columns of the question that was asked last */
    public function columns(): array;

    /** Runs statements that give no rows. */
    public function exec(string $sql): void;

    /** @return array{string, int} SQLSTATE and number of what an exception says */
    public function code(\Exception $e): array;
}
