<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Several values as one row. */
final class RowOf extends Expression
{
    /**
     * @param list<Expression> $items
     */
    public function __construct(
        public readonly array $items,
    ) {
    }
}
