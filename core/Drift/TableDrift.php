<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\OpenForm;
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

    /** The same, to be kept and handed out. */
    public function item(): DriftItem
    {
        $table = $this->table();

        return new DriftItem(
            $this->change,
            $table->kind->value,
            $table->schema,
            $table->name,
            Fate::Renamed === $this->change ? $this->before?->place() : null,
            $this->reason,
            $this->words,
            array_map(static fn (ColumnDrift $column): DriftColumn => new DriftColumn(
                $column->change,
                $column->name(),
                Fate::Renamed === $column->change ? $column->before->name ?? '' : '',
                $column->reason,
                $column->words,
            ), $this->columns),
        );
    }

    /** @return array<string, mixed> what `fasti:compare --format=json` prints */
    public function toArray(): array
    {
        return OpenForm::of($this->item());
    }
}
