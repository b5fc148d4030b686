<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** All fields, of one source or of all: `*`, `s.*`. */
final class Star extends Expression
{
    /**
     * @param list<string> $names what stands before the star
     */
    public function __construct(
        public readonly array $names = [],
    ) {
    }
}
