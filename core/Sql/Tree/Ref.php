<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A field by its name, with what stands before it: `schema.table.field`. */
final class Ref extends Expression
{
    /**
     * @param non-empty-list<string> $names folded as the dialect does it
     * @param bool $quoted whether the last of them is
     */
    public function __construct(
        public readonly array $names,
        public readonly bool $quoted = false,
    ) {
    }
}
