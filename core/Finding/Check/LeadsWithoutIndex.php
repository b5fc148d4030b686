<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;

final class LeadsWithoutIndex implements CatalogCheck
{
    public function name(): string
    {
        return 'leads-without-index';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Looking up the rows that belong to one of the other table reads the whole of this one, and so does deleting there.';
    }

    public function mend(): string
    {
        return 'Have an index made over the fields that lead elsewhere.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'join').' no index at the end that refers';
    }

    public function of(Catalog $catalog): iterable
    {
        foreach (Checked::tables($catalog) as $table) {
            $indexes = array_map(static fn ($index): array => null !== $index->where ? [] : array_map(static fn ($part): string => $part->column,
                $index->parts), $table->indexes);
            foreach (array_filter([$table->primaryKey, ...$table->uniqueKeys]) as $key) {
                $indexes[] = $key->columns;
            }
            foreach ($table->foreignKeys as $key) {
                $columns = array_values(array_filter($key->columns, is_string(...)));
                $begins = array_filter($indexes, static fn (array $index): bool => [] === array_diff($columns, \array_slice($index, 0, \count($columns))));
                if ([] === $begins && '' === $key->reason && '' !== $table->storage
                    && 0 !== \count($table->indexes) + \count($table->uniqueKeys) + (null === $table->primaryKey ? 0 : 1)) {
                    yield new Finding('', \sprintf('No index begins with %s, which leads to %s', implode(', ', $columns), $key->references->table),
                        $table->place(), $columns[0] ?? null);
                }
            }
        }
    }
}
