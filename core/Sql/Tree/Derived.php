<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A query in place of a table. */
final class Derived extends Source
{
    /**
     * @param list<string> $columns
     */
    public function __construct(
        public readonly Query $query,
        public readonly ?string $alias = null,
        public readonly array $columns = [],
        public readonly bool $lateral = false,
    ) {
    }
}
