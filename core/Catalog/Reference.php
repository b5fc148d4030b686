<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** The far end of a foreign key: the columns it points to, in the order of the foreign key's own columns. */
final readonly class Reference
{
    /** @param non-empty-list<string> $columns */
    public function __construct(
        public string $schema,
        public string $table,
        #[ListOf('string')]
        public array $columns,
    ) {
    }

    public function place(): Place
    {
        return new Place($this->schema, $this->table);
    }
}
