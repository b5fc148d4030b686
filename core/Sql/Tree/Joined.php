<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** Two sources side by side. */
final class Joined extends Source
{
    /**
     * @param string $kind INNER, LEFT, RIGHT, FULL, CROSS, APPLY (each row of the left with rows made for it) or OUTER APPLY
     * @param list<string> $using
     */
    public function __construct(
        public readonly string $kind,
        public readonly Source $left,
        public readonly Source $right,
        public readonly ?Expression $on = null,
        public readonly array $using = [],
        public readonly bool $natural = false,
        public readonly ?string $alias = null,
        public readonly ?string $usingAlias = null,
    ) {
    }
}
