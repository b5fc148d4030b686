<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A query that is given a name for others: a common table expression. */
final class Named extends Node
{
    /**
     * @param list<string> $columns
     * @param list<string> $added columns that SEARCH and CYCLE add
     */
    public function __construct(
        public readonly string $name,
        public readonly array $columns,
        public readonly Query $query,
        public readonly array $added = [],
    ) {
    }
}
