<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** An operator with what it works on: `+` (of two or more), `AND`, `NOT`, `LIKE`, `BETWEEN`, `IS NULL`, `IN`, `= ANY`, `COLLATE`, `AT TIME ZONE`. */
final class Operation extends Expression
{
    /**
     * @param list<Expression> $operands
     */
    public function __construct(
        public readonly string $sign,
        public readonly array $operands,
    ) {
    }
}
