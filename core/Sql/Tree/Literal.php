<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A value that stands in the text itself. */
final class Literal extends Expression
{
    /**
     * @param string $kind text, national, number, null, bool, bits, bytes, interval, or typed where a type stands before the text
     */
    public function __construct(
        public readonly string $kind,
        public readonly string $text,
        public readonly ?string $type = null,
    ) {
    }
}
