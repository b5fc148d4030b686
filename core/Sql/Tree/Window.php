<?php

declare(strict_types=1);

namespace Fasti\Core\Sql\Tree;

/** The rows that a function looks at beside its own. */
final class Window extends Node
{
    /**
     * @param ?string $name of the window that it stands for or builds on
     * @param list<Expression> $partition
     * @param list<Sorted> $order
     * @param list<Expression> $bounds
     */
    public function __construct(
        public readonly ?string $name,
        public readonly array $partition,
        public readonly array $order,
        public readonly array $bounds = [],
    ) {
    }
}
