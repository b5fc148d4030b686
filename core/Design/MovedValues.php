<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;

/** Values that move to another table. */
final class MovedValues
{
    public function __construct(private readonly Changes $all)
    {
    }

    /** What a field held that goes, and a new table holds under the same name, is copied there. */
    public function moved(): void
    {
        foreach ($this->all->new as $newKey => $table) {
            if ($table->kind->isView() || \in_array($newKey, $this->all->matching->tables, true)) {
                continue;
            }
            foreach ($table->foreignKeys as $lead) {
                $oldKey = array_search($lead->references->place()->key(), $this->all->matching->tables, true);
                if (false !== $oldKey) {
                    $this->movedFrom($this->all->old[$oldKey], (string) $oldKey, $table, $lead);
                }
            }
        }
    }

    private function movedFrom(Table $was, string $oldKey, Table $table, ForeignKey $lead): void
    {
        $map = $this->all->matching->columns[$oldKey];
        $back = array_flip($map);
        $is = $this->all->new[$this->all->matching->tables[$oldKey]];
        $key = array_map(static fn (string $column): ?string => $back[$column] ?? null, $lead->references->columns);
        if (\in_array(null, $key, true)) {
            return;
        }
        $from = array_map(strval(...), $key);
        $takes = $this->takes($was, $map, $table, $lead->columns);
        if ([] === $takes) {
            return;
        }
        $rebuilds = $this->all->sql->rebuilds();
        // In place, what stays has its new name already by then; a table that is made anew is read as it was.
        $source = $rebuilds ? $was : $is;
        $going = $rebuilds ? [] : $this->all->goingAs[$is->place()->key()] ?? [];
        $writing = $this->all->sql->writing;
        $names = array_map(static fn (string $column): string => $rebuilds ? $column : ($map[$column] ?? $column), $from);
        $held = [];
        foreach ($takes as $name => $column) {
            $now = $going[$column->name] ?? $column->name;
            $held[$name] = $this->all->sql->cast($writing->name($now), $column->with(name: $now), $table->column($name) ?? $column)->sql;
        }
        $first = $takes[array_key_first($takes)]->name;
        $this->all->add(
            Changes::COPY,
            \sprintf(
                'What %s held as %s goes into %s',
                $was->name,
                implode(' and ', array_map(static fn (Column $column): string => $column->name, $takes)),
                $table->name,
            ),
            [\sprintf(
                'INSERT INTO %s (%s) SELECT %s FROM %s WHERE %s IS NOT NULL',
                $this->all->placed($table),
                implode(', ', array_map($writing->name(...), [...$lead->columns, ...array_keys($held)])),
                implode(', ', [...array_map($writing->name(...), $names), ...array_values($held)]),
                $this->all->placed($source),
                $writing->name($going[$first] ?? $first),
            )],
            '',
            $table->name,
        );
        foreach ($takes as $column) {
            $this->notLost($was->name, $column->name);
        }
    }

    /**
     * Which columns of a new table hold what columns held that are gone; none where it needs others.
     *
     * @param array<string, string> $map
     * @param list<string>          $leading
     *
     * @return array<string, Column>
     */
    private function takes(Table $was, array $map, Table $table, array $leading): array
    {
        $takes = [];
        foreach ($table->columns as $column) {
            if (\in_array($column->name, $leading, true) || $column->autoNumbered || null !== $column->generated) {
                continue;
            }
            $gone = $this->goneFor($was, $map, $table, $column);
            if (null !== $gone) {
                $takes[$column->name] = $gone;
            } elseif (!$column->nullable && null === $column->default) {
                return [];
            }
        }

        return $takes;
    }

    /**
     * @param array<string, string> $map
     */
    private function goneFor(Table $was, array $map, Table $table, Column $column): ?Column
    {
        $words = static fn (string $name): string => Names::key($name);
        foreach ($was->columns as $old) {
            if (isset($map[$old->name]) || null !== $old->generated) {
                continue;
            }
            if ($words($old->name) === $words($column->name)) {
                return $old;
            }
            // Both lead to the same: a parent of which there may be several from now on.
            foreach ($was->foreignKeys as $lead) {
                foreach ($table->foreignKeys as $new) {
                    if ([$old->name] === $lead->columns && [$column->name] === $new->columns
                        && ($this->all->matching->tables[$lead->references->place()->key()] ?? '') === $new->references->place()->key()) {
                        return $old;
                    }
                }
            }
        }

        return null;
    }

    /** A field that goes loses nothing where its values were copied before. */
    private function notLost(string $table, string $column): void
    {
        $this->all->steps = array_map(static fn (ChangeStep $step): ChangeStep => [$table, $column] === $step->field && Changes::DROP_FIELDS === $step->phase
            ? new ChangeStep(
                $step->phase, \sprintf('%s.%s goes; its values are elsewhere by then', $table, $column), $step->sql, '', $step->table, $step->field,
            ) : $step, $this->all->steps);
    }
}
