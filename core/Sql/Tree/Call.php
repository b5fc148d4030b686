<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A function with its arguments. */
final class Call extends Expression
{
    /**
     * @param non-empty-list<string> $names     with the schema, where it is said
     * @param list<Expression>       $arguments
     * @param bool                   $star      `count(*)`
     * @param list<Sorted>           $order     the order within an aggregate
     * @param bool                   $within    that order is WITHIN GROUP
     * @param ?string                $type      of the value, where the call says it (RETURNING, AS)
     */
    public function __construct(
        public readonly array $names,
        public readonly array $arguments,
        public readonly bool $star = false,
        public readonly bool $distinct = false,
        public readonly array $order = [],
        public readonly ?Expression $filter = null,
        public readonly ?Window $over = null,
        public readonly bool $within = false,
        public readonly ?string $type = null,
    ) {
    }
}
