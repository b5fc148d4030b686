<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A foreign key with its referential actions in SQL's words (`NO ACTION`, `CASCADE`, …). */
final readonly class ForeignKey
{
    /** @param non-empty-list<string> $columns */
    public function __construct(
        public ?string $name,
        public array $columns,
        public Reference $references,
        public string $onDelete = 'NO ACTION',
        public string $onUpdate = 'NO ACTION',
    ) {
        if (\count($columns) !== \count($references->columns)) {
            throw new \InvalidArgumentException(\sprintf('Foreign key %s pairs %d columns with %d.', $name ?? '', \count($columns), \count($references->columns)));
        }
    }
}
