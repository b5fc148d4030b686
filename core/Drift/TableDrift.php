<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Table;

/** What became of one table, with what became of its columns. */
final readonly class TableDrift
{
    /**
     * @param list<string>      $words   what changed of the table itself: keys, joins, checks, comment
     * @param list<ColumnDrift> $columns
     * @param string            $reason  why a renamed one is taken for the same
     */
    public function __construct(
        public Fate $change,
        public ?Table $before,
        public ?Table $after,
        public array $words = [],
        public array $columns = [],
        public string $reason = '',
    ) {
    }

    public function table(): Table
    {
        return $this->after ?? $this->before ?? throw new \LogicException('A drift has one side at least.');
    }

    /** @return array<string, mixed> the open form: what `fasti:compare --format=json` prints */
    public function toArray(): array
    {
        $table = $this->table();

        return array_filter([
            'change' => $this->change->value,
            'kind' => $table->kind->value,
            'schema' => $table->schema,
            'name' => $table->name,
            'from' => Fate::Renamed === $this->change && null !== $this->before ? ['schema' => $this->before->schema, 'name' => $this->before->name] : null,
            'reason' => $this->reason,
            'words' => $this->words,
            'columns' => array_map(static fn (ColumnDrift $column): array => array_filter([
                'change' => $column->change->value,
                'name' => $column->name(),
                'from' => Fate::Renamed === $column->change ? $column->before?->name : null,
                'reason' => $column->reason,
                'words' => $column->words,
            ]), $this->columns),
        ], static fn (mixed $value): bool => null !== $value && '' !== $value && [] !== $value);
    }
}
