<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;

/** What is asked of the rows of a table before a planned change touches it: which of them cannot stay as they are. */
final class RowQuestions
{
    private readonly RowsAfter $after;
    /** @var array<string, string> column after → column before */
    private readonly array $back;

    /** @param array<string, string> $map column before → column after */
    private function __construct(private readonly Changes $all, private readonly Table $was, private readonly Table $is, private readonly array $map)
    {
        $this->back = array_map(strval(...), array_flip($map));
        $this->after = new RowsAfter($all, $was, $is, $this->back);
    }

    /**
     * Of a table that stays, in place or made anew.
     *
     * @param array<string, string> $map
     */
    public static function ofTable(Changes $all, Table $was, Table $is, array $map): void
    {
        $self = new self($all, $was, $is, $map);
        foreach ($was->columns as $column) {
            $self->column($column);
        }
        foreach ($is->columns as $column) {
            $self->filled($column);
        }
        foreach (array_filter([$is->primaryKey, ...$is->uniqueKeys]) as $key) {
            $self->unique($key);
        }
        foreach ($is->foreignKeys as $lead) {
            $self->reference($lead);
        }
        foreach ($is->checks as $check) {
            $self->check($check);
        }
    }

    /** Of one that goes. */
    public static function ofGone(Changes $all, Table $was): void
    {
        $all->ask(new RowQuestion(
            "gone:$was->name", 'go with their table', $was->place(), '1 = 1', '', RowQuestion::LOST, [RowQuestion::LOST, RowQuestion::STOP],
        ));
    }

    private function name(string $column): string
    {
        return $this->all->sql->writing->name($column);
    }

    /** @param list<string> $fates */
    private function ask(string $key, string $words, string $where, string $sets, string $fate, array $fates, string ...$value): void
    {
        $this->all->ask(new RowQuestion($key, $words, $this->was->place(), $where, $sets, $fate, $fates, array_values($value), $this->after->plain));
        $this->after->plain = true;
    }

    private function column(Column $old): void
    {
        $label = $this->was->name.'.'.$old->name;
        $name = $this->name($old->name);
        $column = isset($this->map[$old->name]) ? $this->is->column($this->map[$old->name]) : null;
        if (null !== $old->generated) {
            return;
        }
        $cast = null === $column || $old->type === $column->type ? null : $this->all->sql->cast($name, $old, $column);
        if (null === $column || null !== $column->generated || true === $cast?->none) {
            $this->ask(
                "gone:$label", \sprintf('have “%s”, which goes', $old->name), "$name IS NOT NULL", '',
                RowQuestion::LOST, [RowQuestion::LOST, RowQuestion::STOP],
            );

            return;
        }
        [$filling, $said] = $this->all->columns->filling($this->is, $column, true);
        $get = \sprintf('they get %s%s', $filling, $said ? '' : ', since nobody has said another value');
        if (null !== $cast?->loses) {
            $list = [] !== $this->all->dialect->typeOf($column)->members;
            $kept = $column->nullable || str_contains($cast->words, 'cut off');
            $this->ask(
                "cast:$label", \sprintf('have “%s” that does not fit %s', $old->name, $column->type), "($name IS NOT NULL AND ($cast->loses))",
                $cast->words.($kept ? '' : "; $get"),
                $list && !$said ? RowQuestion::STOP : RowQuestion::VALUE, [RowQuestion::VALUE, RowQuestion::STOP, RowQuestion::OUT],
            );
        }
        if ($old->nullable && !$column->nullable && !$column->autoNumbered) {
            $this->ask(
                "required:$label", \sprintf('have no “%s”, which is required', $old->name), "$name IS NULL", $get, RowQuestion::VALUE,
                [RowQuestion::VALUE, RowQuestion::STOP, RowQuestion::OUT],
            );
        }
    }

    /** What is new and required gets a value, if there is one: of a key that nothing has yet there is none. */
    private function filled(Column $column): void
    {
        if ($column->nullable || $column->autoNumbered || null !== $column->generated || isset($this->back[$column->name])) {
            return;
        }
        [$filling] = $this->all->columns->filling($this->is, $column, true);
        if ('NULL' === $filling || str_contains($filling, 'SELECT')) {
            $this->ask(
                "required:{$this->is->name}.$column->name",
                \sprintf('have no “%s”, which is required, and there is nothing yet that they could lead to', $column->name),
                "$filling IS NULL", '', RowQuestion::STOP, [RowQuestion::STOP, RowQuestion::OUT],
            );
        }
    }

    /** Whether the values of a field are those that stood there, each still another where it was another. */
    private function stays(string $column): bool
    {
        $new = $this->is->column($column);
        $old = isset($this->back[$column]) ? $this->was->column($this->back[$column]) : null;
        if (null === $new || null === $old || $old->generated != $new->generated || ($old->nullable && !$new->nullable)) {
            return false;
        }
        $cast = $old->type === $new->type ? null : $this->all->sql->cast($this->name($old->name), $old, $new);

        return [$old->collation, $old->charset] === [$new->collation, $new->charset] && (null === $cast || (null === $cast->loses && !$cast->none));
    }

    /** @param list<string> $columns */
    private function allStay(array $columns): bool
    {
        return [] === array_filter($columns, fn (string $column): bool => !$this->stays($column));
    }

    /**
     * @param list<string> $columns
     *
     * @return list<string>|null what they will hold; null where nobody can say
     */
    private function values(array $columns): ?array
    {
        $values = [];
        foreach ($columns as $column) {
            $values[] = $value = $this->after->value($column);
            if (null === $value) {
                return null;
            }
        }

        return array_values(array_filter($values, is_string(...)));
    }

    private function unique(Key $key): void
    {
        $before = array_map(fn (string $column): string => $this->back[$column] ?? "\0", $key->columns);
        foreach ($this->allStay($key->columns) ? array_filter([$this->was->primaryKey, ...$this->was->uniqueKeys]) : [] as $old) {
            if ([] === array_diff($old->columns, $before)) {
                return;
            }
        }
        $values = $this->values($key->columns);
        if (null === $values || [] === $values || \in_array('NULL', $values, true)) {
            return;
        }
        $table = $this->all->placed($this->was);
        $given = implode(' AND ', array_map(static fn (string $value): string => "$value IS NOT NULL", $values));
        $names = array_map(static fn (int $i): string => "v$i", array_keys($values));
        $list = implode(', ', $names);
        $each = implode(', ', array_map(static fn (string $value, string $name): string => "$value AS $name", $values, $names));
        $this->ask(
            "unique:{$this->is->name}.".implode(',', $key->columns),
            \sprintf('have the same %s as another', implode(' and ', array_map(static fn (string $one): string => "“{$one}”", $key->columns))),
            "($given AND EXISTS (SELECT 1 FROM (SELECT $list FROM (SELECT $each FROM $table) fasti_row GROUP BY $list HAVING COUNT(*) > 1) fasti_same WHERE "
                .implode(' AND ', array_map(static fn (string $value, string $name): string => "fasti_same.$name = $value", $values, $names)).'))',
            '', RowQuestion::STOP, [RowQuestion::STOP],
        );
    }

    private function reference(ForeignKey $lead): void
    {
        $place = $lead->references->place()->key();
        $parent = array_search($place, $this->all->matching->tables, true);
        $values = $this->values($lead->columns);
        // A table that is new is filled on the way; what is empty leads nowhere, and what gets some row that is there leads to that.
        if (false === $parent || null === $values || [] === $values || \in_array('NULL', $values, true) || $this->getsSome($lead)) {
            return;
        }
        $far = $this->all->old[$parent];
        $there = array_map(strval(...), array_flip($this->all->matching->columns[$parent]));
        $keys = array_map(static fn (string $column): ?string => $there[$column] ?? null, $lead->references->columns);
        if (\in_array(null, $keys, true) || $this->heldBefore($lead, $far, array_values(array_filter($keys, is_string(...))))) {
            return;
        }
        $where = [];
        foreach ($values as $i => $value) {
            $where[] = 'fasti_parent.'.$this->name((string) $keys[$i]).' = '.$value;
        }
        $given = implode(' AND ', array_map(static fn (string $value): string => "$value IS NOT NULL", $values));
        $emptied = $this->emptied($lead);
        $this->ask(
            "reference:{$this->is->name}.".implode(',', $lead->columns),
            \sprintf('lead by %s to no row of %s', implode(' and ', array_map(static fn (string $one): string => "“{$one}”", $lead->columns)),
                $lead->references->table),
            "($given AND NOT EXISTS (SELECT 1 FROM ".$this->all->placed($far).' fasti_parent WHERE '.implode(' AND ', $where).'))',
            'they lead nowhere', RowQuestion::STOP, [RowQuestion::STOP, ...[] === $emptied ? [] : [RowQuestion::VALUE], RowQuestion::OUT], ...$emptied,
        );
    }

    private function getsSome(ForeignKey $lead): bool
    {
        foreach ($lead->columns as $name) {
            $column = $this->is->column($name);
            if (null === $column || isset($this->back[$name]) || $this->all->columns->filling($this->is, $column, true)[1]) {
                return false;
            }
        }

        return true;
    }

    /** @return list<string> the statement by which they lead nowhere; none where they must lead somewhere */
    private function emptied(ForeignKey $lead): array
    {
        $set = [];
        foreach ($lead->columns as $column) {
            $old = isset($this->back[$column]) ? $this->was->column($this->back[$column]) : null;
            if (null === $old || !$old->nullable || true !== $this->is->column($column)?->nullable) {
                return [];
            }
            $set[] = $this->name($old->name).' = NULL';
        }

        return ['UPDATE '.$this->all->placed($this->was).' SET '.implode(', ', $set).' WHERE %s'];
    }

    /**
     * The same reference was there, and its fields stay what they are.
     *
     * @param list<string> $keys
     */
    private function heldBefore(ForeignKey $lead, Table $far, array $keys): bool
    {
        if (!$this->allStay($lead->columns)) {
            return false;
        }
        $before = array_map(fn (string $column): string => $this->back[$column] ?? "\0", $lead->columns);
        foreach ($this->was->foreignKeys as $old) {
            if ($old->columns === $before && $old->references->place()->key() === $far->place()->key() && $old->references->columns === array_values($keys)) {
                return true;
            }
        }

        return false;
    }

    private function check(CheckConstraint $check): void
    {
        $spoken = array_values(array_filter(
            array_map(static fn (Column $column): string => $column->name, $this->is->columns),
            static fn (string $name): bool => ColumnChanges::mentions($check->expression, $name),
        ));
        foreach ($this->allStay($spoken) ? $this->was->checks : [] as $old) {
            if (Following::replaced($old->expression, $this->map, $this->all->dialect->grammar() ?? new Grammar(), $this->all->sql->writing)
                === $check->expression || $old->expression === $check->expression) {
                return;
            }
        }
        $expression = $this->after->expression($check->expression);
        if (null !== $expression) {
            $this->ask(
                "check:{$this->is->name}.$check->name", \sprintf('break “%s”, by which always %s', $check->name, $check->expression), "NOT ($expression)",
                '', RowQuestion::STOP, [RowQuestion::STOP, RowQuestion::OUT],
            );
        }
    }
}
