<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A table, a view or a named query. */
final class TableRef extends Source
{
    /**
     * @param non-empty-list<string> $names with what stands before it
     * @param list<string> $columns names given to its columns
     */
    public function __construct(
        public readonly array $names,
        public readonly ?string $alias = null,
        public readonly array $columns = [],
    ) {
    }
}
