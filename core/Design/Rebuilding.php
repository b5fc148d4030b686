<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Cast;

/** A table that is made anew, since its engine cannot change it. */
final class Rebuilding
{
    public function __construct(private readonly Changes $all)
    {
    }

    public function rebuilt(Table $was, Table $is): void
    {
        $bare = static fn (Table $table): Table => $table->with(comment: '', rowEstimate: null, sizeBytes: null, columns: array_map(
            static fn (Column $column): Column => $column->with(comment: ''),
            $table->columns,
        ), triggers: array_map(
            static fn (Trigger $trigger): Trigger => new Trigger($trigger->name, $trigger->timing, $trigger->event, $trigger->body),
            $table->triggers,
        ));
        if ($bare($was) == $bare($is)) {
            return;
        }
        $map = $this->all->matching->columns[$was->place()->key()];
        $this->said($was, $is, $map);
        $beside = $is->with(name: Changes::BESIDE.$is->name, indexes: [], triggers: []);
        $made = array_map(static fn ($statement): string => $statement->sql, $this->all->sql->writing->table($beside, $is->foreignKeys));
        $this->all->add(
            Changes::NEW_FIELDS,
            \sprintf('%s is made anew beside itself, and its rows are copied', $is->name),
            [...$made, ...$this->copy($was, $is, $beside, array_flip($map))],
            ChangeStep::LOCKS,
            $is->name,
        );
        $this->all->add(Changes::DROP_FIELDS, \sprintf('%s takes the place of the old one', $is->name), [
            'DROP TABLE '.$this->all->placed($was), $this->all->sql->renameTable($beside, $is->name),
        ], '', $is->name);
        $again = [];
        foreach ($this->all->sql->writing->table($is, $is->foreignKeys) as $n => $statement) {
            if (0 !== $n) {
                $again[] = $statement->sql;
            }
        }
        foreach ($is->triggers as $trigger) {
            $again[] = $this->all->sql->writing->trigger($is, $trigger);
        }
        if ([] !== $again) {
            $this->all->add(Changes::KEYS, \sprintf('%s gets its indexes and triggers', $is->name), $again, '', $is->name);
        }
    }

    /**
     * What happens to fields on the way, of which no statement speaks.
     *
     * @param array<string, string> $map
     */
    private function said(Table $was, Table $is, array $map): void
    {
        foreach ($was->columns as $column) {
            if (!isset($map[$column->name]) && null === $column->generated) {
                $this->all->add(
                    Changes::DROP_FIELDS,
                    \sprintf('%s.%s goes, with its values', $was->name, $column->name),
                    [],
                    ChangeStep::LOSES,
                    $is->name,
                    [$was->name, $column->name],
                );
            }
        }
        foreach ($map as $before => $after) {
            if ($before !== $after) {
                $words = \sprintf('%s.%s is called %s', $is->name, $before, $after);
                $this->all->add(Changes::RENAME, $words, [], '', $is->name, [$was->name, $before]);
            }
        }
        if ($was->name !== $is->name) {
            $this->all->add(Changes::RENAME, \sprintf('%s is called %s', $was->name, $is->name), [], '', $is->name, [$was->name, null]);
        }
    }

    /**
     * @param array<string, string> $back
     *
     * @return list<string>
     */
    private function copy(Table $was, Table $is, Table $beside, array $back): array
    {
        $columns = $values = [];
        foreach ($is->columns as $column) {
            if (null !== $column->generated) {
                continue;
            }
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            $value = $this->carried($was, $is, $old, $column);
            if (null !== $value) {
                $columns[] = $this->all->sql->writing->name($column->name);
                $values[] = $value;
            }
        }

        return [] === $columns ? [] : [\sprintf(
            'INSERT INTO %s (%s) SELECT %s FROM %s',
            $this->all->placed($beside),
            implode(', ', $columns),
            implode(', ', $values),
            $this->all->placed($was),
        )];
    }

    private function carried(Table $was, Table $is, ?Column $old, Column $column): ?string
    {
        [$filling, $said] = $this->all->columns->filling($is, $column);
        $label = $is->name.'.'.$column->name;
        if (null === $old || null !== $old->generated) {
            if ($column->autoNumbered || (!$said && $column->nullable)) {
                return null;
            }
            $this->all->add(Changes::NEW_FIELDS, \sprintf('%s comes', $label), [], '', $is->name);
            if (!$said) {
                $this->all->add(
                    Changes::COPY,
                    \sprintf('Rows of %s must have %s, and nobody has said what those get that are there: they get %s', $is->name, $column->name, $filling),
                    [],
                    ChangeStep::ASKS,
                    $is->name,
                );
            }

            return $filling;
        }
        $name = $this->all->sql->writing->name($old->name);
        $cast = $old->type === $column->type ? new Cast($name) : $this->all->sql->cast($name, $old, $column);
        $gaps = $cast->none || null !== $cast->loses && RowQuestion::VALUE === $this->all->fate("cast:$was->name.$old->name");
        if ($gaps) {
            $this->all->add(
                Changes::COPY,
                \sprintf('%s is %s and no longer %s: %s', $label, $column->type, $old->type, $cast->words),
                [],
                ChangeStep::LOSES,
                $is->name,
                [$was->name, $old->name],
            );
        }
        $empty = $old->nullable && RowQuestion::VALUE === $this->all->fate("required:$was->name.$old->name");
        if (!$column->nullable && !$column->autoNumbered && ($empty || $gaps)) {
            if (!$said) {
                $this->all->add(
                    Changes::COPY,
                    \sprintf('%s is required, and nobody has said what rows get that have none: they get %s', $label, $filling),
                    [],
                    ChangeStep::ASKS,
                    $is->name,
                );
            }

            return "COALESCE($cast->sql, $filling)";
        }

        return $cast->sql;
    }
}
