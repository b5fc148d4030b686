<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * A foreign key with its referential actions in SQL's words (`NO ACTION`, `CASCADE`, …). One with a `reason` is not
 * declared anywhere: it was worked out from what collections hold, and the reason says how.
 */
final readonly class ForeignKey
{
    /** @param non-empty-list<string> $columns */
    public function __construct(
        public ?string $name,
        #[ListOf('string')]
        public array $columns,
        public Reference $references,
        public string $onDelete = 'NO ACTION',
        public string $onUpdate = 'NO ACTION',
        #[WhenSet]
        public string $reason = '',
    ) {
        if ([] === $columns) {
            throw new \InvalidArgumentException('A foreign key has one column at least.');
        }
        if (\count($columns) !== \count($references->columns)) {
            throw new \InvalidArgumentException(\sprintf(
                'Foreign key %s pairs %d columns with %d.',
                $name ?? '',
                \count($columns),
                \count($references->columns),
            ));
        }
    }
}
