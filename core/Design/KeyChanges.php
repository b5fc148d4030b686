<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;

/** Keys, references and indexes of a table that is changed in place. */
final class KeyChanges
{
    private const DROP_FOREIGN_KEYS = 1;
    private const DROP_KEYS = 2;

    public function __construct(private readonly Changes $all)
    {
    }

    /** @param array<string, string> $map */
    public function keys(Table $was, Table $is, array $map): void
    {
        // A column whose type changes takes what leads by it along.
        $retyped = [];
        foreach ($map as $before => $after) {
            if ($was->column($before)?->type !== $is->column($after)?->type) {
                $retyped[] = $after;
            }
        }
        $this->primary($was, $is, self::naming($map));
        $this->unique($was, $is, $map);
        $this->foreignKeys($was, $is, $map, $retyped);
        $this->checks($was, $is, $map, $retyped);
        $this->indexes($was, $is, $map);
    }

    /**
     * @param list<string> $statements
     * @param list<string> $back
     */
    private function drop(Table $is, string $words, array $statements, array $back): void
    {
        $this->all->add(self::DROP_KEYS, $words, $statements, '', $is->name, back: $back);
    }

    /**
     * @param list<string> $statements
     * @param list<string> $back
     */
    private function make(int $order, Table $is, string $words, array $statements, array $back): void
    {
        $this->all->add($order, $words, $statements, ChangeStep::LOCKS, $is->name, back: $back);
    }

    /** @param array<string, string> $map */
    private function unique(Table $was, Table $is, array $map): void
    {
        $named = self::naming($map);
        $sql = $this->all->sql;
        $this->each($was->uniqueKeys, $is->uniqueKeys,
            static fn (Key $a, Key $b): bool => $a->name === $b->name && $named($a->columns) === $b->columns,
            fn (Key $key) => $this->drop(
                $is,
                \sprintf('%s: %s need not be one of its kind', $is->name, implode(', ', $key->columns)),
                [$sql->dropUnique($was, $key)], [$sql->addUnique($was, $key)],
            ),
            fn (Key $key) => $this->make(
                Changes::KEYS,
                $is,
                \sprintf('%s: no two rows have the same %s', $is->name, implode(' and ', $key->columns)),
                [$sql->addUnique($is, $key)], [$sql->dropUnique($is, $key)],
            ),
        );
    }

    /**
     * @param array<string, string> $map
     * @param list<string>          $retyped
     */
    private function foreignKeys(Table $was, Table $is, array $map, array $retyped): void
    {
        $named = self::naming($map);
        $touches = static fn (ForeignKey $lead): bool => [] !== array_intersect($lead->columns, $retyped);
        $this->each($was->foreignKeys, $is->foreignKeys,
            fn (ForeignKey $a, ForeignKey $b): bool => $a->name === $b->name && $named($a->columns) === $b->columns && $this->sameEnd($a, $b)
                && $a->onDelete === $b->onDelete && $a->onUpdate === $b->onUpdate && !$touches($b) && !$this->keyChanges($b) && !$this->standsOn($a, $was, $is),
            fn (ForeignKey $key) => $this->dropForeignKey($was, $key),
            fn (ForeignKey $key) => $this->make(
                Changes::FOREIGN_KEYS,
                $is,
                \sprintf('%s leads to %s by %s', $is->name, $key->references->table, implode(' and ', $key->columns)),
                [$this->all->sql->writing->addForeignKey($is, $key)], [$this->all->sql->dropForeignKey($is, $key)],
            ),
        );
    }

    /**
     * @param array<string, string> $map
     * @param list<string>          $retyped
     */
    private function checks(Table $was, Table $is, array $map, array $retyped): void
    {
        $own = $this->all->columns->inline();
        $sql = $this->all->sql;
        // A server that drops conditions with their fields takes one along that speaks of no field at all.
        $drops = $own && $this->dropsFields($was, $is, $map);
        $renamed = array_keys(array_filter($map, static fn (string $after, string $before): bool => $after !== $before, \ARRAY_FILTER_USE_BOTH));
        $gone = array_values(array_diff(array_map(static fn (Column $column): string => $column->name, $was->columns), array_keys($map)));
        $other = array_map(strval(...), [...$retyped, ...$renamed, ...$gone]);
        // One that speaks of a field that changes is taken away before, and comes back.
        $spoken = static fn (CheckConstraint $check): bool => [] !== array_filter(
            $other,
            static fn (string $name): bool => 1 === preg_match('/(?<![\p{L}\p{N}_])'.preg_quote($name, '/').'(?![\p{L}\p{N}_])/u', $check->expression),
        );
        $lost = static fn (CheckConstraint $check): bool => $drops && [] === array_filter(
            $is->columns,
            static fn (Column $column): bool => str_contains($check->expression, $column->name),
        );
        $apart = static fn (CheckConstraint $check): bool => !$own || null === $check->column;
        $this->each(
            array_values(array_filter($was->checks, $apart)),
            array_values(array_filter($is->checks, $apart)),
            static fn (CheckConstraint $a, CheckConstraint $b): bool => !$lost($b) && $a->name === $b->name && $a->expression === $b->expression
                && !$spoken($a),
            fn (CheckConstraint $check) => $this->drop($is, \sprintf('%s: the condition %s goes', $is->name, $check->name), [$sql->dropCheck($was, $check)],
                [$sql->addCheck($was, $check)]),
            fn (CheckConstraint $check) => $this->make(
                Changes::KEYS,
                $is,
                \sprintf('%s: always %s', $is->name, $check->expression),
                [$sql->addCheck($is, $check)], [$sql->dropCheck($is, $check)],
            ),
        );
    }

    /** @param array<string, string> $map */
    private function dropsFields(Table $was, Table $is, array $map): bool
    {
        return \count($map) < \count($was->columns) || [] !== array_filter($was->columns, function (Column $column) use ($was, $is, $map): bool {
            $new = $is->column($map[$column->name] ?? '');

            return null !== $new && $this->all->columns->isAnew($was, $is, $column, $new);
        });
    }

    /** @param array<string, string> $map */
    private function indexes(Table $was, Table $is, array $map): void
    {
        $keys = static fn (Table $table): array => array_filter(
            [$table->primaryKey?->name, ...array_map(static fn (Key $key): ?string => $key->name, $table->uniqueKeys)],
        );
        $implied = static fn (Table $table, Index $index): bool => \in_array($index->name, $keys($table), true) || 'PRIMARY' === strtoupper($index->name);
        // An expression stays what it is as long as its fields do.
        $named = static fn (string $column): string => null !== $was->column($column) || [] !== array_filter(
            $was->columns,
            static fn (Column $one): bool => ($map[$one->name] ?? '') !== $one->name && ColumnChanges::mentions($column, $one->name),
        ) ? $map[$column] ?? "\0".$column : $column;
        $parts = static fn (Index $index, bool $old): array => array_map(
            static fn (IndexPart $part): array => [$old ? $named($part->column) : $part->column, $part->length, $part->descending],
            $index->parts,
        );
        $sql = $this->all->sql;
        $this->each(
            array_values(array_filter($was->indexes, static fn (Index $index): bool => !$implied($was, $index))),
            array_values(array_filter($is->indexes, static fn (Index $index): bool => !$implied($is, $index))),
            static fn (Index $a, Index $b): bool => $a->name === $b->name && $parts($a, true) === $parts($b, false) && $a->unique === $b->unique
                && $a->method === $b->method && $a->where === $b->where && $a->comment === $b->comment,
            fn (Index $index) => $this->drop($is, \sprintf('%s: the index %s goes', $is->name, $index->name), [$sql->dropIndex($was, $index)],
                [$sql->addIndex($was, $index)]),
            fn (Index $index) => $this->make(
                Changes::KEYS,
                $is,
                \sprintf('%s gets the index %s', $is->name, $index->name),
                [$sql->addIndex($is, $index)], [$sql->dropIndex($is, $index)],
            ),
        );
    }

    /**
     * Columns under the names that they have afterwards.
     *
     * @param array<string, string> $map
     *
     * @return \Closure(list<string>): list<string>
     */
    private static function naming(array $map): \Closure
    {
        return static fn (array $columns): array => array_map(
            static fn (mixed $column): string => \is_string($column) ? ($map[$column] ?? "\0".$column) : '',
            array_values($columns),
        );
    }

    public function rekeyed(Table $was, Table $is): bool
    {
        $old = $was->primaryKey;
        $new = $is->primaryKey;
        $named = self::naming($this->all->matching->columns[$was->place()->key()]);

        return null !== $old && !(null !== $new && $named($old->columns) === $new->columns
            && ($old->name === $new->name || null !== $this->all->dialect->capabilities()->primary));
    }

    /** @param \Closure(list<string>): list<string> $named */
    private function primary(Table $was, Table $is, \Closure $named): void
    {
        $old = $was->primaryKey;
        $new = $is->primaryKey;
        $same = null !== $old && null !== $new && $named($old->columns) === $new->columns
            && ($old->name === $new->name || null !== $this->all->dialect->capabilities()->primary);
        if ($same || (null === $old && null === $new)) {
            return;
        }
        if (null !== $old) {
            // What leads to it goes first, and comes back by its own table.
            $this->all->add(
                self::DROP_KEYS,
                \sprintf('%s is no longer keyed by %s', $is->name, implode(', ', $old->columns)),
                $this->all->sql->dropPrimary($was, $old),
                '',
                $is->name,
                back: $this->all->sql->addPrimary($was, $old),
            );
        }
        if (null !== $new) {
            $this->all->add(
                Changes::KEYS,
                \sprintf('%s is keyed by %s', $is->name, implode(', ', $new->columns)),
                $this->all->sql->addPrimary($is, $new),
                ChangeStep::LOCKS,
                $is->name,
                back: $this->all->sql->dropPrimary($is, $new),
            );
        }
    }

    /**
     * @template T of object
     *
     * @param list<T>               $was
     * @param list<T>               $is
     * @param \Closure(T, T): bool  $same
     * @param \Closure(T): void     $drop
     * @param \Closure(T): void     $make
     */
    private function each(array $was, array $is, \Closure $same, \Closure $drop, \Closure $make): void
    {
        foreach ($was as $old) {
            if ([] === array_filter($is, static fn (object $new): bool => $same($old, $new))) {
                $drop($old);
            }
        }
        foreach ($is as $new) {
            if ([] === array_filter($was, static fn (object $old): bool => $same($old, $new))) {
                $make($new);
            }
        }
    }

    private function sameEnd(ForeignKey $was, ForeignKey $is): bool
    {
        $key = $was->references->place()->key();
        $map = $this->all->matching->columns[$key] ?? [];

        return ($this->all->matching->tables[$key] ?? '') === $is->references->place()->key()
            && array_map(static fn (string $column): string => $map[$column] ?? "\0", $was->references->columns) === $is->references->columns;
    }

    /** What leads elsewhere needs an index, which may be that of a key or another index that goes. */
    private function standsOn(ForeignKey $lead, Table $was, Table $is): bool
    {
        if (!$this->all->dialect->capabilities()->foreignKeysIndexed) {
            return false;
        }
        $map = $this->all->matching->columns[$was->place()->key()];
        $named = self::naming($map);
        $stay = self::indexed($is, null);
        $led = implode("\n", $named($lead->columns))."\n";
        foreach (array_diff(self::indexed($was, $map), $stay) as $gone) {
            if (str_starts_with(substr($gone, (int) strpos($gone, "\0") + 1), $led)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param array<string, string>|null $map names of columns afterwards; null where they stay
     *
     * @return list<string> what can be found by: name and columns of keys and indexes
     */
    private static function indexed(Table $table, ?array $map): array
    {
        $all = [];
        foreach (array_filter([$table->primaryKey, ...$table->uniqueKeys]) as $key) {
            $all[] = [$key->name ?? '', $key->columns];
        }
        foreach ($table->indexes as $index) {
            $all[] = [$index->name, array_map(static fn (IndexPart $part): string => $part->column, $index->parts)];
        }

        return array_map(static fn (array $one): string => $one[0]."\0".implode("\n", array_map(
            static fn (string $column): string => null === $map ? $column : ($map[$column] ?? "\0".$column),
            $one[1],
        ))."\n", $all);
    }

    /** The key that it leads to goes and comes back, or a column of it is of another type. */
    private function keyChanges(ForeignKey $lead): bool
    {
        $place = $lead->references->place()->key();
        $before = array_search($place, $this->all->matching->tables, true);
        $is = $this->all->new[$place] ?? null;
        if (false === $before || null === $is) {
            return true;
        }
        $was = $this->all->old[$before];
        $back = array_flip($this->all->matching->columns[$before]);
        foreach ($lead->references->columns as $column) {
            if (($was->column($back[$column] ?? '')->type ?? '') !== ($is->column($column)->type ?? '')) {
                return true;
            }
        }
        $keys = static fn (Table $table, \Closure $named): array => array_map(
            static fn (Key $key): array => [$key->name, $named($key->columns)],
            array_values(
                array_filter(
                    [$table->primaryKey, ...$table->uniqueKeys],
                    static fn (?Key $key): bool => null !== $key && $named($key->columns) === $lead->references->columns,
                ),
            ),
        );

        return $keys($was, self::naming($this->all->matching->columns[$before])) !== $keys($is, self::naming(array_combine(
            array_map(static fn (Column $column): string => $column->name, $is->columns),
            array_map(static fn (Column $column): string => $column->name, $is->columns),
        )));
    }

    /** @return list<array{Table, ForeignKey}> what leads to a table from one that stays */
    public function leadsTo(Table $table): array
    {
        $found = [];
        foreach ($this->all->old as $key => $other) {
            foreach ($other->foreignKeys as $lead) {
                if ($lead->references->place()->key() === $table->place()->key() && !isset($this->all->matching->tables[$key])
                    && $other !== $table && !$this->all->sql->rebuilds()) {
                    $found[] = [$other, $lead];
                }
            }
        }

        return $found;
    }

    public function dropForeignKey(Table $table, ForeignKey $lead): void
    {
        $key = $table->place()->key()."\0".$lead->name.implode(',', $lead->columns);
        if (!isset($this->all->droppedLeads[$key])) {
            $this->all->droppedLeads[$key] = true;
            $this->all->add(self::DROP_FOREIGN_KEYS, \sprintf(
                '%s no longer leads to %s by %s',
                $table->name,
                $lead->references->table,
                implode(' and ', $lead->columns),
            ), [
                $this->all->sql->dropForeignKey($table, $lead),
            ], '', $table->name, back: [$this->all->sql->writing->addForeignKey($table, $lead)]);
        }
    }

    /**
     * A table as it was, under the names of what it becomes.
     *
     * @param array<string, string> $map
     */
    public function under(Table $was, Table $is, array $map): Table
    {
        return $was->with(name: $is->name, columns: array_map(function (Column $column) use ($was, $is, $map): Column {
            $new = $is->column($map[$column->name] ?? '');
            // One that is made anew has lost its comment.
            $anew = null !== $new && $this->all->columns->isAnew($was, $is, $column, $new);

            return $column->with(name: $map[$column->name] ?? $column->name, comment: $anew ? '' : $column->comment);
        }, $was->columns));
    }
}
