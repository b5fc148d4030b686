<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * An index of any kind, those that back a key included. `method` is the engine's word, in lower case (`btree`, `fulltext`); `where` is the condition of a
 * partial index.
 */
final readonly class Index
{
    /** @param list<IndexPart> $parts */
    public function __construct(
        public string $name,
        #[ListOf(IndexPart::class)]
        public array $parts,
        public bool $unique = false,
        public string $method = 'btree',
        public string $comment = '',
        #[WhenSet]
        public ?string $where = null,
    ) {
    }
}
