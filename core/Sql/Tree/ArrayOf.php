<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A list of values. */
final class ArrayOf extends Expression
{
    /**
     * @param list<Expression> $items
     */
    public function __construct(
        public readonly array $items,
    ) {
    }
}
