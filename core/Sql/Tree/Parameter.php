<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A place for a value, or a variable: `?`, `:from`, `$1`, `@last`. */
final class Parameter extends Expression
{
    public function __construct(
        public readonly string $text,
    ) {
    }
}
