<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** What rows are ordered by. */
final class Sorted extends Node
{
    public function __construct(
        public readonly Expression $by,
        public readonly bool $descending = false,
    ) {
    }
}
