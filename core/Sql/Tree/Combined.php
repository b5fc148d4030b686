<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Rows of two queries together: UNION, INTERSECT, EXCEPT. */
final class Combined extends Body
{
    /**
     * @param string $kind UNION, INTERSECT or EXCEPT
     */
    public function __construct(
        public readonly string $kind,
        public readonly bool $all,
        public readonly Body $left,
        public readonly Body $right,
    ) {
    }
}
