<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** Some rows of each table of a source that fit together: none leads to one that is not among them. */
final readonly class Sampling
{
    public const MOST = 400;

    /**
     * @return array<string, list<array<string, ?string>>> rows by the key of the place of their table
     *
     * @throws SourceError
     */
    public static function of(Rows $rows, Catalog $catalog): array
    {
        $asking = Dialects::ofCatalog($catalog)->asking() ?? throw new SourceError('Files hold no rows that could be copied.', '');
        $sample = [];
        foreach (ScriptSql::ordered($catalog) as $table) {
            $names = array_map(static fn (Column $column): string => $asking->name($column->name), self::stored($table));
            $key = $table->place()->key();
            $sample[$key] = [];
            $sql = \sprintf('SELECT %s FROM %s LIMIT %d', implode(', ', $names), $asking->table($table->place()), self::MOST);
            foreach ([] === $names ? [] : $rows->rows($sql) as $row) {
                $sample[$key][] = array_map(static fn (mixed $value): ?string => \is_scalar($value) ? (string) $value : null, $row);
            }
        }
        do {
            $gone = 0;
            foreach ($catalog->tables as $table) {
                $key = $table->place()->key();
                $kept = array_values(array_filter($sample[$key] ?? [], static fn (array $row): bool => self::fits($row, $table, $sample)));
                $gone += \count($sample[$key] ?? []) - \count($kept);
                isset($sample[$key]) && $sample[$key] = $kept;
            }
        } while ($gone > 0);

        return $sample;
    }

    /** @return list<Column> */
    public static function stored(Table $table): array
    {
        return array_values(array_filter($table->columns, static fn (Column $column): bool => null === $column->generated));
    }

    /**
     * @param array<string, ?string>                      $row
     * @param array<string, list<array<string, ?string>>> $sample
     */
    private static function fits(array $row, Table $table, array $sample): bool
    {
        foreach ($table->foreignKeys as $lead) {
            if (!self::leads($row, $lead, $sample)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param array<string, ?string>                      $row
     * @param array<string, list<array<string, ?string>>> $sample
     */
    private static function leads(array $row, ForeignKey $lead, array $sample): bool
    {
        $there = $sample[$lead->references->place()->key()] ?? null;
        if (null === $there || [] !== array_filter($lead->columns, static fn (string $column): bool => null === ($row[$column] ?? null))) {
            return true;
        }
        foreach ($there as $parent) {
            $same = true;
            foreach ($lead->columns as $i => $column) {
                $same = $same && ($parent[$lead->references->columns[$i]] ?? null) === $row[$column];
            }
            if ($same) {
                return true;
            }
        }

        return false;
    }

    /**
     * Statements that put the rows in, each on its own.
     *
     * @param array<string, list<array<string, ?string>>> $sample
     *
     * @return iterable<string>
     */
    public static function statements(Catalog $catalog, array $sample, ScriptOptions $options): iterable
    {
        $writing = Dialects::ofCatalog($catalog)->writing($options);
        foreach ($catalog->tables as $table) {
            foreach ($sample[$table->place()->key()] ?? [] as $row) {
                $values = array_map(static fn (?string $value): string => null === $value ? 'NULL' : $writing->literal($value), $row);
                yield \sprintf(
                    'INSERT INTO %s (%s) VALUES (%s)',
                    $writing->placed($table->place()),
                    implode(', ', array_map($writing->name(...), array_keys($row))),
                    implode(', ', $values),
                );
            }
        }
    }
}
