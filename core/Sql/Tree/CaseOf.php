<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** One of several values, by conditions. */
final class CaseOf extends Expression
{
    /**
     * @param list<array{Expression, Expression}> $whens condition and value
     */
    public function __construct(
        public readonly ?Expression $subject,
        public readonly array $whens,
        public readonly ?Expression $else,
    ) {
    }
}
