<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Native;
use Fasti\Core\Wording\Noun;

/** Tables as an engine holds them: types in keys, lengths, what may be empty once. */
final class PhysicalTables
{
    public function __construct(private readonly Physical $all)
    {
    }

    public function table(string $key, WorkedTable $table): Table
    {
        $name = $this->all->tables[$key];
        [$columns, $expressions] = $this->columns($key, $table);
        $made = $this->checks($key, $table, [...$expressions, ...$this->conditions($key, $table)]);
        $primary = [] === $table->primary ? null : new Key($this->primaryName($table, $name), $this->nonEmpty($this->all->named($key, $table->primary)));
        $byName = array_column($columns, null, 'name');
        if (null !== $primary) {
            $line = $table->thing->keys[0]->line ?? ($table->thing->line ?? 0);
            $this->tooLong($table, $primary->columns, $byName, $line, $this->all->capabilities->longestKey);
        }
        [$unique, $indexes] = $this->unique($key, $table, $byName);
        $foreign = [];
        foreach ($table->references as $reference) {
            $foreign[] = $this->all->foreignKey($key, $table, $reference);
        }
        usort($foreign, static fn (ForeignKey $a, ForeignKey $b): int => strcmp((string) $a->name, (string) $b->name));
        foreach ($table->lookups as $lookup) {
            $indexes[] = $this->all->index($key, $table, $lookup['lookup'], $lookup['columns'], $byName);
        }
        if ($this->all->capabilities->foreignKeysIndexed) {
            array_push($indexes, ...Physical::ofForeignKeys($foreign, array_filter([$primary, ...$unique]), $indexes));
        }
        if ([] !== $table->rows) {
            $this->all->rows[$name] = $table->rows;
        }
        $traits = $this->all->capabilities->traits && null !== $table->stored ? array_map(trim(...), explode(',', $table->stored)) : [];

        return new Table(
            $this->all->schemaOf($table->schema), $name, TableType::Table, $table->meaning, $columns, $primary, $unique, $foreign, $indexes, $made,
            $table->triggers,
            storage: $this->all->capabilities->traits ? null : ($table->stored ?? $this->all->capabilities->storage),
            collation: $table->sorted ?? $this->all->worked->design->sorted,
            traits: $traits,
        );
    }

    /**
     * @return array{list<Column>, list<array{string, null, list<string>}>} and the conditions that their types make: expression, none written,
     *     words of its name
     */
    private function columns(string $key, WorkedTable $table): array
    {
        $columns = $checks = [];
        $keyed = self::keyed($table);
        foreach ($table->columns as $columnKey => $column) {
            $own = $this->all->columns[$key][$columnKey];
            $native = $this->all->native($column);
            if (isset($keyed[$columnKey]) && 'native' !== $column->type->kind) {
                $native = $this->inKey($table, $column, $native);
            }
            $this->all->types[$key][$columnKey] = $native->type;
            if ('' !== $native->warning && null !== $column->attribute) {
                $this->all->warn($table, $column->attribute->line, $column->name.': '.$native->warning, '', 'cannot hold');
            }
            $required = $column->required || (\in_array($columnKey, $table->primary, true) && !$this->all->capabilities->emptyKeys);
            $columns[] = new Column(
                $own,
                $native->type,
                !$required,
                $this->all->given($column, $native),
                self::comment($column),
                // An engine that numbers by type does so for every key that is of it.
                $column->numbered || ($this->all->capabilities->numbers === $native->type && [(string) $columnKey] === $table->primary),
                null === $column->computed ? null : new Generated($column->computed, !$column->whenRead),
                $column->whenChanged && $this->all->capabilities->setsChanged ? $this->all->capabilities->now($native->type) : null,
                $column->charset,
                $column->sorted,
            );
            if ($column->whenChanged && !$this->all->capabilities->setsChanged) {
                $this->all->warn(
                    $table,
                    $column->attribute->line ?? ($table->thing->line ?? 0),
                    \sprintf(
                        '%s: nothing here sets it when the row changes. It is set when the row is made; a trigger or whoever writes must do the rest.',
                        $column->name,
                    ),
                    '',
                    'cannot hold',
                );
            }
            foreach ($this->all->checksOf($key, (string) $columnKey, $column, $native, $own) as $check) {
                $checks[] = [$check, null, [$this->all->tables[$key], $own]];
            }
        }

        return [$columns, $checks];
    }

    /** @return list<array{string, array{sql: string, name?: ?string, of?: ?string}, list<string>}> conditions that are written, in the words of the engine */
    private function conditions(string $key, WorkedTable $table): array
    {
        $sql = $this->all->dialect->writing();
        $checks = [];
        foreach ($table->conditions as $condition) {
            $marks = array_map($sql->literal(...), $condition['texts']);
            foreach ($condition['columns'] as $mark => $column) {
                $marks[$mark] = $sql->name($this->all->columns[$key][$column] ?? $column);
            }
            $checks[] = [strtr($condition['sql'], $marks), $condition, [$this->all->tables[$key]]];
        }

        return $checks;
    }

    /**
     * @param list<array{string, array{sql: string, name?: ?string, of?: ?string}|null, list<string>}> $checks
     *
     * @return list<CheckConstraint>
     */
    private function checks(string $key, WorkedTable $table, array $checks): array
    {
        $made = [];
        foreach ($checks as [$expression, $condition, $parts]) {
            $of = null === ($condition['of'] ?? null) ? null : $this->all->columns[$key][$condition['of']];
            $made[] = null !== $of && $this->all->capabilities->ownConditions ? new CheckConstraint($of, $expression, $of)
                : new CheckConstraint((string) $this->all->constraint($table, $condition['name'] ?? null, $parts, 'check'), $expression, $of);
        }
        if ($this->all->capabilities->sorted) {
            usort($made, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));
        }

        return $made;
    }

    /**
     * @param array<string, Column> $byName
     *
     * @return array{list<Key>, list<Index>} unique keys, and indexes that guard those which may be empty
     */
    private function unique(string $key, WorkedTable $table, array $byName): array
    {
        $sql = $this->all->dialect->writing();
        $unique = $guards = [];
        foreach ($table->unique as $each) {
            $named = $this->all->named($key, array_values(array_filter($each['columns'], static fn (string $column): bool => isset($table->columns[$column]))));
            if ([] === $named) {
                continue;
            }
            $own = new Key($this->all->constraint($table, $each['name'], [$this->all->tables[$key], ...$named], 'key'), $named);
            $line = $table->columns[$each['columns'][0]]->attribute->line ?? ($table->thing->line ?? 0);
            $this->tooLong($table, $named, $byName, $line, $this->all->capabilities->longestUnique);
            $empty = array_values(array_filter($named, static fn (string $column): bool => $byName[$column]->nullable));
            if ([] === $empty || !$this->onceEmpty($key, $table, $each, $empty)) {
                $unique[] = $own;
                continue;
            }
            // Rows that are empty there are none of its business, as everywhere else.
            $guards[] = new Index(
                (string) $own->name,
                array_map(static fn (string $column): IndexPart => new IndexPart($column), $named),
                true,
                where: implode(' AND ', array_map(static fn (string $column): string => $sql->name($column).' IS NOT NULL', $empty)),
            );
        }

        return [$unique, $guards];
    }

    /** @return array<string, true> keys of the columns that are in a key, or lead to one */
    private static function keyed(WorkedTable $table): array
    {
        $keyed = $table->primary;
        foreach ($table->unique as $unique) {
            array_push($keyed, ...$unique['columns']);
        }
        foreach ($table->references as $reference) {
            array_push($keyed, ...$reference->columns);
        }

        return array_fill_keys($keyed, true);
    }

    private function inKey(WorkedTable $table, WorkedColumn $column, Native $native): Native
    {
        $possible = $this->all->dialect->types()->inKey($native);
        if (null === $possible) {
            $this->all->warn(
                $table,
                $column->attribute->line ?? ($table->thing->line ?? 0),
                \sprintf('%s is in a key, where no %s can be.', $column->name, $native->type),
                'Tell rows apart by something else.',
                'cannot hold',
                true,
            );
        }

        return $possible ?? $native;
    }

    /**
     * @param list<string>          $named
     * @param array<string, Column> $columns
     */
    private function tooLong(WorkedTable $table, array $named, array $columns, int $line, ?int $most): void
    {
        $bytes = 0;
        foreach ($named as $name) {
            $length = isset($columns[$name]) ? $this->all->dialect->typeOf($columns[$name]) : null;
            $bytes += TypeFamily::Text === $length?->family ? 4 * ($length->length ?? 0) : 8;
        }
        if (null !== $most && $bytes > $most) {
            $this->all->warn(
                $table,
                $line,
                \sprintf('%s is told apart by %d bytes; a key has at most %d here.', $table->name, $bytes, $most),
                'Tell rows apart by less, or give the thing a number of its own.',
                'cannot hold',
                true,
            );
        }
    }

    /**
     * Whether a unique key must be guarded so that more than one row may be empty in it. A key that others lead to cannot be; nor is one
     * that was taken from such an engine as it stands.
     *
     * @param array{columns: list<string>, name: ?string, why: ?Why} $unique
     * @param non-empty-list<string>                                 $empty
     */
    private function onceEmpty(string $key, WorkedTable $table, array $unique, array $empty): bool
    {
        $line = $table->thing->line ?? 0;
        if ($this->all->capabilities->partsCompared && \count($unique['columns']) > 1) {
            $this->all->warn(
                $table,
                $line,
                \sprintf(
                    'Two %s that are equal in all but %s, which is empty in both, are refused here.',
                    mb_strtolower(Noun::plural($table->name)),
                    implode(' and ', $empty),
                ),
                'Require it, or tell rows apart by less.',
                'cannot hold',
            );
        }
        if (!$this->all->capabilities->oneEmpty || (null !== $unique['name'] && $this->all->worked->design->engine === $this->all->dialect->name())) {
            return false;
        }
        foreach ($this->all->worked->tables as $other) {
            foreach ($other->references as $reference) {
                if ($reference->to === $key && [] === array_diff($reference->toColumns, $unique['columns'])) {
                    $this->all->warn(
                        $table,
                        $line,
                        \sprintf('One %s only may be without %s here, because others lead to it.', mb_strtolower($table->name), implode(' and ', $empty)),
                        'Require it, or let them lead to the key.',
                        'cannot hold',
                    );

                    return false;
                }
            }
        }

        return true;
    }

    private function primaryName(WorkedTable $table, string $name): ?string
    {
        if (null !== $this->all->capabilities->primary) {
            return $this->all->capabilities->primary;
        }
        if (null !== $table->primaryName) {
            return '' === $table->primaryName ? null : $table->primaryName;
        }

        return $this->all->capabilities->primaryNamed ? $this->all->constraint($table, null, [$name], 'pkey') : null;
    }

    /**
     * @template T
     *
     * @param list<T> $list
     *
     * @return non-empty-list<T>
     */
    public function nonEmpty(array $list): array
    {
        return [] === $list ? throw new \LogicException('A key has a column at least.') : $list;
    }

    private static function comment(WorkedColumn $column): string
    {
        $unit = $column->attribute->unit ?? '';

        return match (true) {
            '' === $unit => $column->meaning,
            '' === $column->meaning => 'in '.$unit,
            default => $column->meaning.' (in '.$unit.')',
        };
    }
}
