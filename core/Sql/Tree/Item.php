<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** One column of the rows that a query gives. */
final class Item extends Node
{
    public function __construct(
        public readonly Expression $value,
        public readonly ?string $name = null,
    ) {
    }
}
