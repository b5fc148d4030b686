<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A value as of another type. */
final class Cast extends Expression
{
    /**
     * @param string $type as the catalog of the engine would write it
     */
    public function __construct(
        public readonly Expression $value,
        public readonly string $type,
    ) {
    }
}
