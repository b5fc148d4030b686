<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** A primary or unique key: its columns in key order. */
final readonly class Key
{
    /** @param non-empty-list<string> $columns */
    public function __construct(
        public ?string $name,
        #[ListOf('string')]
        public array $columns,
    ) {
        if ([] === $columns) {
            throw new \InvalidArgumentException('A key has one column at least.');
        }
    }
}
