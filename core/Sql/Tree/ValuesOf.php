<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Rows that stand in the text itself. */
final class ValuesOf extends Body
{
    /**
     * @param list<list<Expression>> $rows
     */
    public function __construct(
        public readonly array $rows,
    ) {
    }
}
