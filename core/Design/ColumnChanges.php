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
                    back: [$this->all->sql->renameColumn($is, $gone.'_going', $gone)],
                );
                $this->all->goingAs[$is->place()->key()][$gone] = $gone.'_going';
            }
        }
        foreach ($clash ? $renamed : [] as $before => $after) {
            $this->all->add(
                Changes::RENAME,
                \sprintf('%s.%s is renamed by way of another name', $is->name, $before),
                [$this->all->sql->renameColumn($is, (string) $before, Changes::BESIDE.$after)],
                back: [$this->all->sql->renameColumn($is, Changes::BESIDE.$after, (string) $before)],
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
                [$this->all->sql->renameColumn($is, $after, $clash ? Changes::BESIDE.$after : (string) $before)],
            );
        }
    }

    /** It is taken away and made again, since what it holds cannot be changed into what it is to hold. */
    public function isAnew(Table $was, Table $is, Column $old, Column $column): bool
    {
        return $this->isComputedAnew($was, $is, $old, $column) || (null === $old->generated) !== (null === $column->generated) || $this->cannot($old, $column);
    }

    /** It is computed, before and after, and otherwise than before; or of fields that are changed under it. */
    public function isComputedAnew(Table $was, Table $is, ?Column $old, ?Column $column): bool
    {
        if (null === $old?->generated || null === $column?->generated) {
            return false;
        }

        return $old->generated != $column->generated || $old->type !== $column->type || $this->readsChanged($was, $is, $column, []);
    }

    /** @param list<string> $within */
    private function readsChanged(Table $was, Table $is, Column $column, array $within): bool
    {
        $map = $this->all->matching->columns[$was->place()->key()] ?? [];
        foreach ($is->columns as $other) {
            if ($other === $column || \in_array($other->name, $within, true) || !self::mentions((string) $column->generated?->expression, $other->name)) {
                continue;
            }
            $old = $was->column((string) array_search($other->name, $map, true));
            $changed = null === $old || $old->name !== $other->name || $old->type !== $other->type || $old->generated != $other->generated
                || [$old->collation, $old->charset] !== [$other->collation, $other->charset];
            if ($changed || null !== $other->generated && $this->readsChanged($was, $is, $other, [...$within, $column->name])) {
                return true;
            }
        }

        return false;
    }

    public static function mentions(string $expression, string $name): bool
    {
        return 1 === preg_match('/(?<![\p{L}\p{N}_])'.preg_quote($name, '/').'(?![\p{L}\p{N}_])/ui', $expression);
    }

    /**
     * What is computed goes before the fields that it is computed of are touched.
     *
     * @param array<string, string> $map
     */
    public function dropComputed(Table $was, Table $is, array $map): void
    {
        $going = array_filter($was->columns, fn (Column $old): bool => null !== $old->generated && (
            !isset($map[$old->name]) || null === $is->column($map[$old->name])?->generated
            || $this->isComputedAnew($was, $is, $old, $is->column($map[$old->name]))
        ));
        foreach (self::ordered(array_values($going), true) as $old) {
            $comes = isset($map[$old->name]);
            $this->all->add(
                Changes::RENAME, \sprintf($comes ? '%s.%s is computed anew at the end' : '%s.%s goes, which is computed', $was->name, $old->name),
                [$this->all->sql->dropColumn($is, $old->name)], '', $is->name, [$was->name, $old->name],
                [$this->all->sql->addColumn($was->with(name: $is->name, checks: []), $old, null)],
            );
        }
    }

    /**
     * And comes after all of them.
     *
     * @param array<string, string> $map
     */
    public function addComputed(Table $was, Table $is, array $map): void
    {
        $back = array_map(strval(...), array_flip($map));
        $coming = array_filter($is->columns, function (Column $column) use ($was, $is, $back): bool {
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;

            return null !== $column->generated && (null === $old || $this->isAnew($was, $is, $old, $column));
        });
        $bare = $is->with(checks: []);
        $pending = array_map(static fn (Column $column): string => $column->name, $coming);
        foreach (self::ordered(array_values($coming), false) as $column) {
            $pending = array_diff($pending, [$column->name]);
            $after = '';
            foreach ($is->columns as $one) {
                if ($one === $column) {
                    break;
                }
                $after = \in_array($one->name, $pending, true) ? $after : $one->name;
            }
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            $statements = [$this->all->sql->addColumn($this->inline() ? $is : $bare, $column, $after)];
            if (null !== $old && null === $old->generated) {
                array_unshift($statements, $this->all->sql->dropColumn($is, $column->name));
            }
            $this->all->add(
                Changes::KEYS - 1, \sprintf('%s.%s is computed', $is->name, $column->name), $statements,
                null !== $old && null === $old->generated ? ChangeStep::LOSES : '', $is->name, null === $old ? null : [$was->name, $old->name],
                null !== $old && null === $old->generated ? [] : [$this->all->sql->dropColumn($is, $column->name)],
            );
        }
    }

    /**
     * Computed fields, each after those that it is computed of; or the other way round.
     *
     * @param list<Column> $columns
     *
     * @return list<Column>
     */
    private static function ordered(array $columns, bool $last): array
    {
        $ordered = [];
        while ([] !== $columns) {
            $ready = array_filter($columns, static fn (Column $one): bool => [] === array_filter($columns, static fn (Column $other): bool => $other !== $one
                && self::mentions((string) $one->generated?->expression, $other->name)));
            $ready = [] === $ready ? $columns : $ready;
            $ordered = [...$ordered, ...array_values($ready)];
            $columns = array_filter($columns, static fn (Column $one): bool => !\in_array($one, $ready, true));
        }

        return $last ? array_reverse($ordered) : $ordered;
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
                back: [$this->all->sql->dropColumn($is, $column->name)],
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
            back: [$this->all->sql->dropColumn($is, $column->name)],
        );
        // A parent may have got another key by then.
        $leads = [] !== array_filter($is->foreignKeys, static fn (ForeignKey $lead): bool => \in_array($column->name, $lead->columns, true));
        if ($leads) {
            $this->refill($is, $column, $is->name.'.'.$column->name, Changes::KEYS - 1);
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

    /**
     * @param bool $asked nothing has been changed yet when it is asked
     *
     * @return array{string, bool} the SQL of what rows get that are there, and whether somebody has said so
     */
    public function filling(Table $is, Column $column, bool $asked = false): array
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
                return [$asked ? $this->firstBefore($lead, $lead->references->columns[$at]) : $this->firstOf($lead, $lead->references->columns[$at]), false];
            }
        }

        return [self::firstAllowed($is, $column) ?? $this->all->sql->plainest($column), false];
    }

    /** The first of the values that a condition of the table lists for a field, as SQL; null where none does. */
    private static function firstAllowed(Table $is, Column $column): ?string
    {
        foreach ($is->checks as $check) {
            $listed = '/(?<![\p{L}\p{N}_])'.preg_quote($column->name, '/')
                .'["`)]*(?:::text)? (?:IN|in|= ANY) \(+(?:ARRAY\[)?(\'(?:[^\'\\\\]|\'\')*\'|-?\d+)(?=::|[,)\]])/u';
            if (1 === preg_match($listed, $check->expression, $m)) {
                return $m[1];
            }
        }

        return null;
    }

    /** The same, as long as nothing is changed: of a key that is still to come one knows only whether there is a row. */
    private function firstBefore(ForeignKey $lead, string $column): string
    {
        $before = array_search($lead->references->place()->key(), $this->all->matching->tables, true);
        if (false === $before) {
            return 'NULL';
        }
        $there = array_search($column, $this->all->matching->columns[$before], true);
        $table = $this->all->placed($this->all->old[$before]);
        if (false === $there) {
            return $this->all->sql->rebuilds() ? 'NULL' : "(SELECT MIN(1) FROM $table)";
        }

        return $this->all->sql->someOf($this->all->sql->writing->name((string) $there), $table);
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
        $whole = $column;
        $column = $this->all->keysOf->rekeyed($was, $is) && $this->inline() ? $column->with(autoNumbered: false) : $column;
        $typed = self::isTyped($old, $column);
        $other = $typed || $this->isSaidOtherwise($was, $is, $old, $column);
        if (!$other && $old->nullable === $column->nullable) {
            return;
        }
        $label = $is->name.'.'.$column->name;
        $cast = $this->cast($was, $is, $old, $column);
        // What does not fit has been stopped or taken out by then.
        $gaps = null !== $cast->loses && RowQuestion::VALUE === $this->all->fate("cast:$was->name.$old->name");
        $required = !$column->nullable && ($old->nullable || $gaps);
        $bare = $this->inline() ? $is : $is->with(checks: []);
        if ($other) {
            $words = $typed ? \sprintf('%s is %s', $label, $column->type) : \sprintf('%s is said otherwise', $label);
            $then = $required ? $column->with(nullable: true) : $column;
            $statements = $this->all->sql->changeColumn($bare, $old->with(name: $column->name), $then, $cast);
            if ([] !== $statements) {
                $back = $this->all->sql->changeColumn($bare, $then, $old->with(name: $column->name), new Cast($this->all->sql->writing->name($column->name)));
                $this->all->add(self::CHANGE, $words, $statements, $typed ? ChangeStep::LOCKS : '', $is->name, [$was->name, $old->name], $back);
            }
        }
        if ($required) {
            if ($gaps || RowQuestion::VALUE === $this->all->fate("required:$was->name.$old->name")) {
                $this->refill($is, $whole, $label);
            }
            $this->all->add(
                Changes::KEYS - 1, \sprintf('%s is required', $label), $this->all->sql->required($bare, $column), '', $is->name,
                back: $this->all->sql->required($bare, $column->with(nullable: true)),
            );
        } elseif (!$other) {
            $this->all->add(
                self::CHANGE, \sprintf('%s may be empty', $label), $this->all->sql->required($bare, $column), '', $is->name,
                back: $this->all->sql->required($bare, $column->with(nullable: false)),
            );
        }
        $this->number($is, $old, $column, $label);
    }

    private static function isTyped(Column $old, Column $column): bool
    {
        return [$old->type, $old->collation, $old->charset] !== [$column->type, $column->collation, $column->charset];
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
        if (null !== $cast->loses && RowQuestion::VALUE === $this->all->fate("cast:$was->name.$old->name")) {
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
    private function refill(Table $is, Column $column, string $label, int $phase = Changes::DROP_FIELDS): void
    {
        [$value, $said] = $this->filling($is, $column);
        $name = $this->all->sql->writing->name($column->name);
        $this->all->add(
            $phase,
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
        $all[] = null === $cast->outside ? $this->update($is, $name, $cast->sql, $cast->loses) : $this->update($is, $name, 'NULL', $cast->outside);

        return $all;
    }
}
