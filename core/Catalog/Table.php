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
    use With;

    /**
     * @param list<Column>     $columns     in catalog order
     * @param list<Key>        $uniqueKeys
     * @param list<ForeignKey> $foreignKeys
     * @param list<Index>      $indexes
     * @param list<CheckConstraint>      $checks
     * @param list<Trigger>    $triggers
     * @param list<string>     $traits      what else the engine says of it, in short phrases: partitions, parents, policies
     * @param bool             $planned     it is documented before it exists: a survey does not expect to find it
     * @param bool             $virtual     its rows come from a program rather than from the database's own store
     * @param list<DocumentShape>      $shapes      of a collection: the distinct shapes of its documents, the most frequent first
     */
    public function __construct(
        public string $schema,
        public string $name,
        public TableType $kind,
        public string $comment = '',
        #[ListOf(Column::class)]
        public array $columns = [],
        public ?Key $primaryKey = null,
        #[ListOf(Key::class)]
        public array $uniqueKeys = [],
        #[ListOf(ForeignKey::class)]
        public array $foreignKeys = [],
        #[ListOf(Index::class)]
        public array $indexes = [],
        #[ListOf(CheckConstraint::class)]
        public array $checks = [],
        #[ListOf(Trigger::class)]
        public array $triggers = [],
        #[OfTheMoment]
        public ?int $rowEstimate = null,
        #[OfTheMoment]
        public ?int $sizeBytes = null,
        public ?string $definition = null,
        #[Fact('The engine\'s way of storing the table.', 'Kept as', 'it is kept as %s (was %s)', unsaid: 'usual', ofViews: false)]
        public ?string $storage = null,
        #[Fact('', changed: 'it is sorted as %s (was %s)', unsaid: 'the database is', wasUnsaid: 'the database', silenceTells: false)]
        public ?string $collation = null,
        #[ListOf('string'), WhenSet]
        public array $traits = [],
        #[ListOf(DocumentShape::class), WhenSet, OfTheMoment]
        public array $shapes = [],
        #[WhenSet, Fact(
            'Documented before it exists: no document was read yet.',
            changed: 'it is planned, and not expected to be there',
            ended: 'it is planned no longer: it is there',
        )]
        public bool $planned = false,
        #[WhenSet, Fact(
            'Its rows come from a program rather than from the store of the database itself.',
            changed: 'its rows come from a program now',
            ended: 'its rows do not come from a program any more',
        )]
        public bool $virtual = false,
    ) {
    }

    public function place(): Place
    {
        return new Place($this->schema, $this->name);
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
