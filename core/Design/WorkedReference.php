<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** How rows of one worked table find rows of another. */
final class WorkedReference
{
    /**
     * @param list<string> $columns   keys of columns
     * @param list<string> $toColumns keys of columns of the other
     */
    public function __construct(
        public array $columns,
        public string $to,
        public array $toColumns,
        public ?string $name = null,
        public string $onDelete = 'RESTRICT',
        public string $onUpdate = 'NO ACTION',
        public ?DesignJoin $join = null,
        public string $role = '',
        public ?Why $why = null,
    ) {
    }
}
