<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A member of a composite value: `(place).street`, all of them with `*`. */
final class Member extends Expression
{
    public function __construct(
        public readonly Expression $base,
        public readonly string $name,
    ) {
    }
}
