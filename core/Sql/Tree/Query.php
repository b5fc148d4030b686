<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** A whole query, with what it names beforehand and how its rows are ordered and cut. */
final class Query extends Body
{
    /**
     * @param list<Named> $with
     * @param list<Sorted> $order
     */
    public function __construct(
        public readonly array $with,
        public readonly bool $recursive,
        public readonly Body $body,
        public readonly array $order = [],
        public readonly ?Expression $limit = null,
        public readonly ?Expression $skip = null,
        public readonly bool $ties = false,
    ) {
    }
}
