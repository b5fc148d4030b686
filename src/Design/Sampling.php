<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Privacy\Masking;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** Some rows of each table of a source that fit together: none leads to one that is not among them. */
final readonly class Sampling
{
    public const MOST = 400;

    /**
     * @param array<string, string> $closed FieldPlace::key() → why its values may not be copied: secrets are made up without being read where
     *                                      no key or reference needs them, everything else that is closed is masked
     *
     * @return array<string, list<array<string, ?string>>> rows by the key of the place of their table
     *
     * @throws SourceError
     */
    public static function of(Rows $rows, Catalog $catalog, array $closed = []): array
    {
        $closed = self::led($catalog, $closed);
        $asking = Dialects::ofCatalog($catalog)->asking() ?? throw new SourceError('Files hold no rows that could be copied.', '');
        $sample = [];
        foreach (ScriptSql::ordered($catalog) as $table) {
            $key = $table->place()->key();
            $names = array_map(static fn (Column $column): string => self::isUnread($table, $column->name, $closed[$key."\0".$column->name] ?? '')
                ? \sprintf('CASE WHEN %1$s IS NULL THEN NULL ELSE 1 END AS %1$s', $asking->name($column->name))
                : $asking->name($column->name), self::stored($table));
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
                if (isset($sample[$key])) {
                    $sample[$key] = $kept;
                }
            }
        } while ($gone > 0);

        return self::masked($catalog, $sample, $closed);
    }

    /**
     * What is closed at one end of a reference is closed at the other.
     *
     * @param array<string, string> $closed
     *
     * @return array<string, string>
     */
    private static function led(Catalog $catalog, array $closed): array
    {
        do {
            $before = \count($closed);
            foreach ($catalog->tables as $table) {
                foreach ($table->foreignKeys as $lead) {
                    foreach ($lead->columns as $i => $column) {
                        $ends = [$table->place()->key()."\0".$column, $lead->references->place()->key()."\0".($lead->references->columns[$i] ?? '')];
                        foreach ([[0, 1], [1, 0]] as [$one, $other]) {
                            if (isset($closed[$ends[$one]])) {
                                $closed[$ends[$other]] ??= $closed[$ends[$one]];
                            }
                        }
                    }
                }
            }
        } while (\count($closed) > $before);

        return $closed;
    }

    /** Whether a secret is not read at all: nothing but the field itself depends on what it is. */
    private static function isUnread(Table $table, string $column, string $reason): bool
    {
        if (!Privacy::isSecret($reason)) {
            return false;
        }
        $needed = [];
        foreach ([...array_filter([$table->primaryKey]), ...$table->uniqueKeys, ...$table->foreignKeys] as $key) {
            array_push($needed, ...$key->columns);
        }
        foreach ($table->indexes as $index) {
            array_push($needed, ...array_map(static fn (IndexPart $part): string => $part->column, $index->parts));
        }

        return !\in_array($column, $needed, true);
    }

    /**
     * @param array<string, list<array<string, ?string>>> $sample
     * @param array<string, string>                      $closed
     *
     * @return array<string, list<array<string, ?string>>>
     */
    private static function masked(Catalog $catalog, array $sample, array $closed): array
    {
        $masking = new Masking();
        $dialect = Dialects::ofCatalog($catalog);
        foreach ($catalog->tables as $table) {
            $key = $table->place()->key();
            foreach (self::stored($table) as $column) {
                $reason = $closed[$key."\0".$column->name] ?? '';
                if ('' === $reason || !isset($sample[$key])) {
                    continue;
                }
                $type = $dialect->typeOf($column);
                $unread = self::isUnread($table, $column->name, $reason);
                $others = array_values(array_unique(array_filter(array_column($sample[$key], $column->name), is_string(...))));
                foreach ($sample[$key] as $i => $row) {
                    $value = $row[$column->name] ?? null;
                    if (null !== $value) {
                        $sample[$key][$i][$column->name] = $unread ? self::madeUp($type, $i) : $masking->of($value, $type, $others);
                    }
                }
            }
        }

        return array_map(array_values(...), $sample);
    }

    /** A value in the place of a secret that nobody has read. */
    private static function madeUp(Type $type, int $row): string
    {
        $text = 'made-up-'.$row;

        return match (true) {
            [] !== $type->members => $type->members[0],
            $type->family->isNumeric() => (string) ($row % 100),
            TypeFamily::Flag === $type->family => '0',
            TypeFamily::Time === $type->family => '2000-01-01',
            TypeFamily::Document === $type->family => '{}',
            'uuid' === $type->name => \sprintf('00000000-0000-4000-a000-%012d', $row),
            null !== $type->length && $type->length > 0 => str_pad(substr($text, -$type->length), 'char' === $type->name ? $type->length : 0, 'x'),
            default => $text,
        };
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
