<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Cast;

/** Fields that come, go, and become other ones, with their values. */
final class ColumnChanges
{
    private const CHANGE = 7;

    public function __construct(private readonly Changes $all)
    {
    }

    /** @param array<string, string> $map */
    public function renameColumns(Table $was, Table $is, array $map): void
    {
        $renamed = array_filter($map, static fn (string $after, string $before): bool => $after !== $before, \ARRAY_FILTER_USE_BOTH);
        // A new name may be that of another field that is renamed, or goes: both pass by a name of their own.
        $taken = array_map(static fn (Column $column): string => $column->name, $was->columns);
        $clash = [] !== array_intersect($renamed, $taken);
        foreach ($clash ? array_diff($taken, array_keys($map)) : [] as $gone) {
            if (\in_array($gone, $renamed, true)) {
                $this->all->add(
                    Changes::RENAME,
                    \sprintf('%s.%s makes room for another', $is->name, $gone),
                    [$this->all->sql->renameColumn($is, $gone, $gone.'_going')],
                );
                $this->all->goingAs[$is->place()->key()][$gone] = $gone.'_going';
            }
        }
        foreach ($clash ? $renamed : [] as $before => $after) {
            $this->all->add(
                Changes::RENAME,
                \sprintf('%s.%s is renamed by way of another name', $is->name, $before),
                [$this->all->sql->renameColumn($is, (string) $before, Changes::BESIDE.$after)],
            );
        }
        foreach ($renamed as $before => $after) {
            $this->all->add(
                Changes::RENAME,
                \sprintf('%s.%s is called %s', $is->name, $before, $after),
                [$this->all->sql->renameColumn($is, $clash ? Changes::BESIDE.$after : (string) $before, $after)],
                '',
                $is->name,
                [$was->name, (string) $before],
            );
        }
    }

    /** No value of the one type is one of the other. */
    public function cannot(Column $was, Column $is): bool
    {
        return $was->type !== $is->type && $this->all->sql->cast($this->all->sql->writing->name($is->name), $was->with(name: $is->name), $is)->none;
    }

    /** @param string $after the column behind which it stands */
    public function addColumn(Table $is, Column $column, string $after, ?Column $instead): void
    {
        $bare = $is->with(checks: array_values(array_filter($is->checks, static fn (CheckConstraint $check): bool => $check->column !== $column->name)));
        if (null !== $instead) {
            // What is computed cannot be changed into what is not, or otherwise.
            $required = !$column->nullable && null === $column->generated && null === $column->default && !$column->autoNumbered;
            $this->all->add(Changes::DROP_FIELDS - 1, \sprintf('%s.%s is made anew', $is->name, $column->name), [
                $this->all->sql->dropColumn($is, $column->name), $this->all->sql->addColumn($bare, $required ? $column->with(nullable: true) : $column, $after),
            ], null === $instead->generated ? ChangeStep::LOSES : '', $is->name, [$is->name, $instead->name]);
            if ($required) {
                $this->refill($is, $column, $is->name.'.'.$column->name);
                $this->all->add(
                    Changes::KEYS - 1, \sprintf('%s.%s is required', $is->name, $column->name), $this->all->sql->required($bare, $column), '', $is->name,
                );
            }

            return;
        }
        $plain = null !== $column->generated || $column->autoNumbered;
        if ($column->nullable || $plain || null !== $column->default) {
            $this->all->add(
                Changes::NEW_FIELDS, \sprintf('%s.%s comes', $is->name, $column->name), [$this->all->sql->addColumn($bare, $column, $after)], '', $is->name,
            );
            $this->fill($is, $column, false);

            return;
        }
        $this->all->add(
            Changes::NEW_FIELDS,
            \sprintf('%s.%s comes', $is->name, $column->name),
            [$this->all->sql->addColumn($bare, $column->with(nullable: true), $after)],
            '',
            $is->name,
        );
        // A parent may have got another key by then.
        $leads = [] !== array_filter($is->foreignKeys, static fn (ForeignKey $lead): bool => \in_array($column->name, $lead->columns, true));
        if ($leads) {
            $this->refill($is, $column, $is->name.'.'.$column->name);
        } else {
            $this->fill($is, $column, true);
        }
        $this->all->add(
            $leads ? Changes::KEYS - 1 : self::CHANGE,
            \sprintf('%s.%s is required', $is->name, $column->name),
            $this->all->sql->required($bare, $column),
            '',
            $is->name,
        );
    }

    private function fill(Table $is, Column $column, bool $required): void
    {
        [$value, $said] = $this->filling($is, $column);
        $name = $this->all->sql->writing->name($column->name);
        if ($said && !$required) {
            $this->all->add(
                Changes::COPY, \sprintf('Rows that are there get %s as %s', $value, $column->name), [$this->update($is, $name, $value, '')], '', $is->name,
            );
        } elseif ($required) {
            $this->all->add(
                Changes::COPY,
                $said ? \sprintf('Rows of %s without %s get %s', $is->name, $column->name, $value)
                    : \sprintf('Rows of %s must have %s, and nobody has said what those get that are there: they get %s', $is->name, $column->name, $value),
                [$this->update($is, $name, $value, "$name IS NULL")],
                $said ? '' : ChangeStep::ASKS,
                $is->name,
            );
        }
    }

    /** @return array{string, bool} the SQL of what rows get that are there, and whether somebody has said so */
    public function filling(Table $is, Column $column): array
    {
        $filled = $this->all->matching->filled[$is->place()->key()][$column->name] ?? null;
        if (null !== $filled) {
            return [$filled, true];
        }
        if (null !== $column->default) {
            return [$column->default, true];
        }
        foreach ($is->foreignKeys as $lead) {
            $at = array_search($column->name, $lead->columns, true);
            if (false !== $at) {
                return [$this->firstOf($lead, $lead->references->columns[$at]), false];
            }
        }

        return [$this->all->sql->plainest($column), false];
    }

    /** Some parent that is there: who plans the change has to say which. */
    private function firstOf(ForeignKey $lead, string $column): string
    {
        $place = $lead->references->place()->key();
        $before = array_search($place, $this->all->matching->tables, true);
        $far = $this->all->new[$place] ?? null;
        // A table that is made anew is still called as it was while rows are copied.
        if ($this->all->sql->rebuilds() && false !== $before) {
            $there = array_search($column, $this->all->matching->columns[$before], true);
            if (false === $there) {
                return 'NULL';
            }
            $column = (string) $there;
            $far = $this->all->old[$before];
        }

        return $this->all->sql->someOf($this->all->sql->writing->name($column), null === $far ? $lead->references->table : $this->all->placed($far));
    }

    public function changeColumn(Table $was, Table $is, Column $old, Column $column): void
    {
        // While a table has no key, nothing in it is numbered: its key says it again.
        $column = $this->all->keysOf->rekeyed($was, $is) && $this->inline() ? $column->with(autoNumbered: false) : $column;
        $typed = [$old->type, $old->collation, $old->charset] !== [$column->type, $column->collation, $column->charset];
        $other = $typed || $this->isSaidOtherwise($was, $is, $old, $column);
        if (!$other && $old->nullable === $column->nullable) {
            return;
        }
        $label = $is->name.'.'.$column->name;
        $cast = $this->cast($was, $is, $old, $column);
        $required = !$column->nullable && ($old->nullable || null !== $cast->loses);
        $bare = $this->inline() ? $is : $is->with(checks: []);
        if ($other) {
            $words = $typed ? \sprintf('%s is %s', $label, $column->type) : \sprintf('%s is said otherwise', $label);
            $then = $required && !$this->all->sql->rebuilds() ? $column->with(nullable: true) : $column;
            $statements = $this->all->sql->changeColumn($bare, $old->with(name: $column->name), $then, $cast);
            if ([] !== $statements) {
                $this->all->add(self::CHANGE, $words, $statements, $typed ? ChangeStep::LOCKS : '', $is->name, [$was->name, $old->name]);
            }
        }
        if ($required) {
            $this->refill($is, $column, $label);
            $this->all->add(Changes::KEYS - 1, \sprintf('%s is required', $label), $this->all->sql->required($bare, $column), '', $is->name);
        } elseif ($old->nullable !== $column->nullable && (!$other || !$this->says($was, $is))) {
            $this->all->add(self::CHANGE, \sprintf('%s may be empty', $label), $this->all->sql->required($bare, $column), '', $is->name);
        }
        $this->number($is, $old, $column, $label);
    }

    private function number(Table $is, Column $old, Column $column, string $label): void
    {
        $numbers = $column->autoNumbered && !$old->autoNumbered && null === $column->default ? $this->all->sql->numbers($is, $column) : [];
        if ([] !== $numbers) {
            $this->all->add(Changes::KEYS - 1, \sprintf('%s is numbered by the database', $label), $numbers, '', $is->name);
        }
    }

    /** How values become those of another type; what that loses is said. */
    private function cast(Table $was, Table $is, Column $old, Column $column): Cast
    {
        $name = $this->all->sql->writing->name($column->name);
        if ($old->type === $column->type) {
            return new Cast($name);
        }
        $now = $old->with(name: $column->name);
        $cast = $this->all->sql->cast($name, $now, $column);
        if (null !== $cast->loses) {
            $this->all->add(
                Changes::COPY,
                \sprintf('%s.%s is %s and no longer %s: %s', $is->name, $column->name, $column->type, $old->type, $cast->words),
                $this->fitted($is, $now, $column, $cast),
                ChangeStep::LOSES,
                $is->name,
                [$was->name, $old->name],
            );
        }

        return $cast;
    }

    private function isSaidOtherwise(Table $was, Table $is, Column $old, Column $column): bool
    {
        $checks = static fn (Table $table, string $name): array => array_values(array_map(
            static fn (CheckConstraint $check): string => $check->expression,
            array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column === $name),
        ));

        return $old->default !== $column->default || $old->autoNumbered !== $column->autoNumbered || $old->onUpdate !== $column->onUpdate
            || ($old->comment !== $column->comment && !$this->says($was, $is))
            || ($this->inline() && $checks($was, $old->name) !== $checks($is, $column->name));
    }

    /** What sets itself whenever a row changes stays as it is: nobody has changed the row. */
    private function update(Table $is, string $name, string $value, string $where): string
    {
        $stays = '';
        foreach ($is->columns as $column) {
            $own = $this->all->sql->writing->name($column->name);
            if (null !== $column->onUpdate && $own !== $name) {
                $stays .= ", $own = $own";
            }
        }

        return \sprintf('UPDATE %s SET %s = %s%s%s', $this->all->placed($is), $name, $value, $stays, '' === $where ? '' : " WHERE $where");
    }

    /** What is left empty after a change gets something where it must have it. */
    private function refill(Table $is, Column $column, string $label): void
    {
        [$value, $said] = $this->filling($is, $column);
        $name = $this->all->sql->writing->name($column->name);
        $this->all->add(
            Changes::DROP_FIELDS,
            $said ? \sprintf('Rows without %s get %s', $label, $value) : \sprintf(
                '%s is required, and nobody has said what rows get that have none: they get %s',
                $label,
                $value,
            ),
            [$this->update($is, $name, $value, "$name IS NULL")],
            $said ? '' : ChangeStep::ASKS,
            $is->name,
        );
    }

    /** Meanings are statements of their own. */
    private function says(Table $was, Table $is): bool
    {
        return !$this->inline();
    }

    /** What is said of a column is said of it as a whole. */
    public function inline(): bool
    {
        return $this->all->dialect->capabilities()->ownConditions;
    }

    /**
     * Where a column is changed as a whole, what would not fit is made to fit before.
     *
     * @return list<string>
     */
    private function fitted(Table $is, Column $was, Column $column, Cast $cast): array
    {
        if (!$this->inline() || null === $cast->loses) {
            return [];
        }
        $name = $this->all->sql->writing->name($column->name);
        $all = [];
        if (!$was->nullable) {
            $all[] = $this->all->sql->required($is->with(checks: [], primaryKey: null), $was->with(nullable: true, autoNumbered: false))[0];
        }
        $all[] = $this->update($is, $name, $cast->sql, $cast->loses);

        return $all;
    }
}
