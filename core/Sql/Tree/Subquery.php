<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A query in place of a value: one value, whether there is any row, or a list of its values. */
final class Subquery extends Expression
{
    /**
     * @param string $how '' one value, EXISTS, ARRAY, MULTISET
     */
    public function __construct(
        public readonly Query $query,
        public readonly string $how = '',
    ) {
    }
}
