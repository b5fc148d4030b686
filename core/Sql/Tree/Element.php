<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** An element of a list, or a piece of it. */
final class Element extends Expression
{
    public function __construct(
        public readonly Expression $base,
        public readonly ?Expression $from,
        public readonly ?Expression $to = null,
        public readonly bool $slice = false,
    ) {
    }
}
