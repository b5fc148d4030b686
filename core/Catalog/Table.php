<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/**
 * A table or view with everything that belongs to it.
 *
 * `rowEstimate` is the engine's own estimate, `sizeBytes` data and indexes together; both are null where the engine
 * gives none. `definition` is a view's query, null for a table or when the account may not read it.
 */
final readonly class Table
{
    /**
     * @param list<Column>     $columns     in catalog order
     * @param list<Key>        $uniqueKeys
     * @param list<ForeignKey> $foreignKeys
     * @param list<Index>      $indexes
     * @param list<CheckConstraint>      $checks
     * @param list<Trigger>    $triggers
     * @param list<string>     $traits      what else the engine says of it, in short phrases: partitions, parents, policies
     * @param list<DocumentShape>      $shapes      of a collection: the distinct shapes of its documents, the most frequent first
     */
    public function __construct(
        public string $schema,
        public string $name,
        public TableType $kind,
        public string $comment = '',
        public array $columns = [],
        public ?Key $primaryKey = null,
        public array $uniqueKeys = [],
        public array $foreignKeys = [],
        public array $indexes = [],
        public array $checks = [],
        public array $triggers = [],
        public ?int $rowEstimate = null,
        public ?int $sizeBytes = null,
        public ?string $definition = null,
        public ?string $storage = null,
        public ?string $collation = null,
        public array $traits = [],
        public array $shapes = [],
    ) {
    }

    public function column(string $name): ?Column
    {
        foreach ($this->columns as $column) {
            if ($column->name === $name) {
                return $column;
            }
        }

        return null;
    }
}
