<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\AlterSql;
use Fasti\Core\Dialect\Cast;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Wording\Amount;

/**
 * What would have to change so that what there is becomes what was designed, rows kept: what is new is added before values are copied
 * into it, and nothing goes before that. Both catalogs write expressions as their engine does; a design is read from its script first.
 */
final class Changes
{
    private const DROP_PROGRAMS = 0;
    private const DROP_LEADS = 1;
    private const DROP_KEYS = 2;
    private const RENAME = 3;
    private const NEW_TABLES = 4;
    private const NEW_FIELDS = 5;
    private const COPY = 6;
    private const CHANGE = 7;
    private const DROP_FIELDS = 8;
    private const DROP_TABLES = 9;
    private const KEYS = 10;
    private const LEADS = 11;
    private const MEANINGS = 12;
    private const PROGRAMS = 13;
    /** What a table is called while it is made anew. */
    private const BESIDE = 'fasti_new_';

    /** @var list<ChangeStep> in the order in which they are done */
    public array $steps = [];
    /** @var list<string> */
    public array $guesses;
    private readonly Dialect $dialect;
    private readonly AlterSql $sql;
    /** @var array<string, Table> */
    private array $old = [];
    /** @var array<string, Table> */
    private array $new = [];

    private function __construct(private readonly Catalog $before, private readonly Catalog $after, public readonly Matching $matching, ?ScriptOptions $options)
    {
        $this->dialect = Dialects::ofCatalog($after);
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, [...$before->tables, ...$after->tables]));
        $this->sql = $this->dialect->altering($options ?? new ScriptOptions(places: \count($schemas) > 1));
        $this->guesses = $matching->guesses;
        foreach ($before->tables as $table) {
            $this->old[$table->place()->key()] = $table;
        }
        foreach ($after->tables as $table) {
            $this->new[$table->place()->key()] = $table;
        }
    }

    public static function between(Catalog $before, Catalog $after, Matching $matching, ?ScriptOptions $options = null): self
    {
        $self = new self($before, $after, $matching, $options);
        $self->programs();
        foreach ($self->old as $key => $table) {
            if ($table->kind->isView()) {
                continue;
            }
            $is = isset($matching->tables[$key]) ? $self->new[$matching->tables[$key]] : null;
            match (true) {
                null === $is => $self->gone($table),
                $self->sql->rebuilds() => $self->rebuilt($table, $is),
                default => $self->changed($table, $is),
            };
        }
        foreach ($self->new as $key => $table) {
            if (!$table->kind->isView() && !\in_array($key, $matching->tables, true)) {
                $self->added($table);
            }
        }
        $self->moved();
        usort($self->steps, static fn (ChangeStep $a, ChangeStep $b): int => $a->phase <=> $b->phase);

        return $self;
    }

    /** @return list<ChangeStep> those that lose something, that somebody must say more of, and that lock: named first */
    public function warnings(): array
    {
        $order = [ChangeStep::LOSES => 0, ChangeStep::ASKS => 1, ChangeStep::LOCKS => 2];
        $found = array_values(array_filter($this->steps, static fn (ChangeStep $step): bool => '' !== $step->risk));
        usort($found, static fn (ChangeStep $a, ChangeStep $b): int => $order[$a->risk] <=> $order[$b->risk]);

        return $found;
    }

    /** @return list<string> */
    public function statements(): array
    {
        $all = array_merge(...array_map(static fn (ChangeStep $step): array => $step->sql, $this->steps));
        if ([] === $all) {
            return [];
        }
        [$first, $last] = $this->sql->frame();

        return array_values(array_filter([...explode(";\n", $first), ...$all, ...explode(";\n", $last)], static fn (string $sql): bool => '' !== $sql));
    }

    /** The script, with what each step does above it. */
    public function script(): string
    {
        if ([] === $this->steps) {
            return "-- Nothing has to change.\n";
        }
        $text = '';
        foreach ($this->warnings() as $step) {
            $text .= '-- '.['loses' => 'Loses values', 'asks' => 'Nobody has said it', 'locks' => 'Locks a table'][$step->risk].': '.$step->words."\n";
        }
        [$first, $last] = $this->sql->frame();
        $text .= ('' === $text ? '' : "\n").('' === $first ? '' : "$first;\n\n");
        foreach ($this->steps as $step) {
            if ([] !== $step->sql) {
                $text .= '-- '.str_replace("\n", ' ', $step->words)."\n".implode('', array_map(static fn (string $sql): string => "$sql;\n", $step->sql))."\n";
            }
        }

        return $text.('' === $last ? '' : "$last;\n");
    }

    // ---- what goes and comes as a whole ----

    private function gone(Table $table): void
    {
        foreach ($this->leadsTo($table) as [$from, $lead]) {
            $this->dropLead($from, $lead);
        }
        foreach ($table->foreignKeys as $lead) {
            if (!$this->sql->rebuilds()) {
                $this->dropLead($table, $lead);
            }
        }
        $this->add(
            self::DROP_TABLES,
            \sprintf('%s goes, with its rows', $table->name),
            ['DROP TABLE '.$this->placed($table)],
            ChangeStep::LOSES,
            $table->name,
            [
                $table->name, null,
            ]);
    }

    private function added(Table $table): void
    {
        $bare = $this->sql->rebuilds() ? $table : $table->with(foreignKeys: []);
        $statements = array_map(static fn ($statement): string => $statement->sql, $this->sql->writing->table($bare, $bare->foreignKeys));
        $this->add(self::NEW_TABLES, \sprintf('%s comes', $table->name), $statements, '', $table->name);
        foreach ($this->sql->rebuilds() ? [] : $table->foreignKeys as $lead) {
            $this->add(
                self::LEADS,
                \sprintf('%s leads to %s', $table->name, $lead->references->table),
                [$this->sql->writing->addForeignKey($table, $lead)],
                '',
                $table->name,
            );
        }
    }

    /** Views and triggers go first and come back last: what they read may be changed in between. */
    private function programs(): void
    {
        $views = static fn (Catalog $catalog): array => array_filter($catalog->tables, static fn (Table $table): bool => $table->kind->isView());
        $same = static fn (Table $a, ?Table $b): bool => null !== $b && $a->definition === $b->definition && $a->kind === $b->kind;
        $touched = $this->touched();
        $dropped = [];
        foreach (array_reverse($views($this->before)) as $view) {
            $is = $this->new[$view->place()->key()] ?? null;
            $reads = [] !== array_filter(
                $touched,
                static fn (string $name): bool => 1 === preg_match('/(?<![\w])'.preg_quote($name, '/').'(?![\w])/u', (string) $view->definition),
            );
            if (!$same($view, $is) || $reads) {
                $dropped[$view->place()->key()] = true;
                $words = null === $is ? \sprintf('The view %s goes', $view->name) : \sprintf('The view %s is made anew at the end', $view->name);
                $this->add(self::DROP_PROGRAMS, $words, [$this->sql->writing->dropView($view)], '', $view->name, [$view->name, null]);
            }
        }
        foreach ($views($this->after) as $view) {
            $was = $this->old[$view->place()->key()] ?? null;
            if (null === $was || isset($dropped[$view->place()->key()])) {
                $statements = array_map(static fn ($statement): string => $statement->sql, $this->sql->writing->view($view));
                $this->add(self::PROGRAMS, \sprintf('The view %s comes%s', $view->name, null === $was ? '' : ' back'), $statements, '', $view->name);
            }
        }
    }

    /** @return list<string> names of tables that are changed in a way that views may notice */
    private function touched(): array
    {
        $names = [];
        foreach ($this->old as $key => $table) {
            $is = isset($this->matching->tables[$key]) ? $this->new[$this->matching->tables[$key]] : null;
            if (!$table->kind->isView() && (null === $is || $this->sql->rebuilds() || $is->name !== $table->name || $is->columns != $table->columns)) {
                $names[] = $table->name;
            }
        }

        return $names;
    }

    // ---- a table that is changed in place ----

    private function changed(Table $was, Table $is): void
    {
        $map = $this->matching->columns[$was->place()->key()];
        $back = array_flip($map);
        foreach ($was->triggers as $trigger) {
            if ($was->name !== $is->name || true !== $this->sameTrigger($trigger, $is->triggers)) {
                $this->add(self::DROP_PROGRAMS, \sprintf('The trigger %s goes', $trigger->name), [$this->sql->dropTrigger($was, $trigger)], '', $was->name);
            }
        }
        foreach ($is->triggers as $trigger) {
            if ($was->name !== $is->name || true !== $this->sameTrigger($trigger, $was->triggers)) {
                $this->add(self::PROGRAMS, \sprintf('The trigger %s comes', $trigger->name), [$this->sql->writing->trigger($is, $trigger)], '', $is->name);
            }
        }
        if ($was->name !== $is->name) {
            $this->add(
                self::RENAME,
                \sprintf('%s is called %s', $was->name, $is->name),
                [$this->sql->renameTable($was, $is->name)],
                '',
                $is->name,
                [
                    $was->name, null,
                ]);
        }
        $this->renameColumns($was, $is, $map);
        $before = null;
        foreach ($is->columns as $column) {
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            if (null === $old || $old->generated != $column->generated || $this->cannot($old, $column)) {
                $this->addColumn($is, $column, $before ?? '', $old);
            } else {
                $this->changeColumn($was, $is, $old, $column);
            }
            $before = $column->name;
        }
        foreach ($was->columns as $column) {
            if (!isset($map[$column->name])) {
                $this->add(
                    self::DROP_FIELDS,
                    \sprintf('%s.%s goes, with its values', $was->name, $column->name),
                    [$this->sql->dropColumn($is, $column->name)],
                    null === $column->generated ? ChangeStep::LOSES : '',
                    $is->name,
                    [$was->name, $column->name],
                );
            }
        }
        $this->keys($was, $is, $map);
        foreach ($this->sql->meanings($this->under($was, $is, $map), $is) as $sql) {
            $this->add(self::MEANINGS, \sprintf('What %s means is written down', $is->name), [$sql], '', $is->name);
        }
        foreach ($this->sql->stored($was, $is) as $sql) {
            $this->add(self::MEANINGS, \sprintf('%s is stored otherwise', $is->name), [$sql], ChangeStep::LOCKS, $is->name);
        }
    }

    /** @param list<\Fasti\Core\Catalog\Trigger> $among */
    private function sameTrigger(\Fasti\Core\Catalog\Trigger $trigger, array $among): bool
    {
        foreach ($among as $other) {
            if ($other->name === $trigger->name) {
                return $other->timing === $trigger->timing && $other->event === $trigger->event && $other->body === $trigger->body;
            }
        }

        return false;
    }

    /** @param array<string, string> $map */
    private function renameColumns(Table $was, Table $is, array $map): void
    {
        $renamed = array_filter($map, static fn (string $after, string $before): bool => $after !== $before, \ARRAY_FILTER_USE_BOTH);
        // A new name may be that of another field that is renamed, or goes: both pass by a name of their own.
        $taken = array_map(static fn (Column $column): string => $column->name, $was->columns);
        $clash = [] !== array_intersect($renamed, $taken);
        foreach ($clash ? array_diff($taken, array_keys($map)) : [] as $gone) {
            if (\in_array($gone, $renamed, true)) {
                $this->add(self::RENAME, \sprintf('%s.%s makes room for another', $is->name, $gone), [$this->sql->renameColumn($is, $gone, $gone.'_going')]);
                $this->goingAs[$is->place()->key()][$gone] = $gone.'_going';
            }
        }
        foreach ($clash ? $renamed : [] as $before => $after) {
            $this->add(
                self::RENAME,
                \sprintf('%s.%s is renamed by way of another name', $is->name, $before),
                [$this->sql->renameColumn($is, (string) $before, self::BESIDE.$after)],
            );
        }
        foreach ($renamed as $before => $after) {
            $this->add(
                self::RENAME,
                \sprintf('%s.%s is called %s', $is->name, $before, $after),
                [$this->sql->renameColumn($is, $clash ? self::BESIDE.$after : (string) $before, $after)],
                '',
                $is->name,
                [$was->name, (string) $before],
            );
        }
    }

    /** @var array<string, array<string, string>> key of the place after → column that goes → what it is called until then */
    private array $goingAs = [];

    /** No value of the one type is one of the other. */
    private function cannot(Column $was, Column $is): bool
    {
        return $was->type !== $is->type && $this->sql->cast($this->sql->writing->name($is->name), $was->with(name: $is->name), $is)->none;
    }

    /** @param string $after the column behind which it stands */
    private function addColumn(Table $is, Column $column, string $after, ?Column $instead): void
    {
        $bare = $is->with(checks: array_values(array_filter($is->checks, static fn (CheckConstraint $check): bool => $check->column !== $column->name)));
        if (null !== $instead) {
            // What is computed cannot be changed into what is not, or otherwise.
            $required = !$column->nullable && null === $column->generated && null === $column->default && !$column->autoNumbered;
            $this->add(self::DROP_FIELDS - 1, \sprintf('%s.%s is made anew', $is->name, $column->name), [
                $this->sql->dropColumn($is, $column->name), $this->sql->addColumn($bare, $required ? $column->with(nullable: true) : $column, $after),
            ], null === $instead->generated ? ChangeStep::LOSES : '', $is->name, [$is->name, $instead->name]);
            if ($required) {
                $this->refill($is, $column, $is->name.'.'.$column->name);
                $this->add(self::KEYS - 1, \sprintf('%s.%s is required', $is->name, $column->name), $this->sql->required($bare, $column), '', $is->name);
            }

            return;
        }
        $plain = null !== $column->generated || $column->autoNumbered;
        if ($column->nullable || $plain || null !== $column->default) {
            $this->add(self::NEW_FIELDS, \sprintf('%s.%s comes', $is->name, $column->name), [$this->sql->addColumn($bare, $column, $after)], '', $is->name);
            $this->fill($is, $column, false);

            return;
        }
        $this->add(
            self::NEW_FIELDS,
            \sprintf('%s.%s comes', $is->name, $column->name),
            [$this->sql->addColumn($bare, $column->with(nullable: true), $after)],
            '',
            $is->name,
        );
        // A parent may have got another key by then.
        $leads = [] !== array_filter($is->foreignKeys, static fn (ForeignKey $lead): bool => \in_array($column->name, $lead->columns, true));
        $leads ? $this->refill($is, $column, $is->name.'.'.$column->name) : $this->fill($is, $column, true);
        $this->add(
            $leads ? self::KEYS - 1 : self::CHANGE,
            \sprintf('%s.%s is required', $is->name, $column->name),
            $this->sql->required($bare, $column),
            '',
            $is->name,
        );
    }

    private function fill(Table $is, Column $column, bool $required): void
    {
        [$value, $said] = $this->filling($is, $column);
        $name = $this->sql->writing->name($column->name);
        if ($said && !$required) {
            $this->add(self::COPY, \sprintf('Rows that are there get %s as %s', $value, $column->name), [$this->update($is, $name, $value, '')], '', $is->name);
        } elseif ($required) {
            $this->add(
                self::COPY,
                $said ? \sprintf('Rows of %s without %s get %s', $is->name, $column->name, $value)
                    : \sprintf('Rows of %s must have %s, and nobody has said what those get that are there: they get %s', $is->name, $column->name, $value),
                [$this->update($is, $name, $value, "$name IS NULL")],
                $said ? '' : ChangeStep::ASKS,
                $is->name,
            );
        }
    }

    /** @return array{string, bool} the SQL of what rows get that are there, and whether somebody has said so */
    private function filling(Table $is, Column $column): array
    {
        $filled = $this->matching->filled[$is->place()->key()][$column->name] ?? null;
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

        return [$this->sql->plainest($column), false];
    }

    /** Some parent that is there: who plans the change has to say which. */
    private function firstOf(ForeignKey $lead, string $column): string
    {
        $place = $lead->references->place()->key();
        $before = array_search($place, $this->matching->tables, true);
        $far = $this->new[$place] ?? null;
        // A table that is made anew is still called as it was while rows are copied.
        if ($this->sql->rebuilds() && false !== $before) {
            $there = array_search($column, $this->matching->columns[$before], true);
            if (false === $there) {
                return 'NULL';
            }
            [$column, $far] = [(string) $there, $this->old[$before]];
        }

        return $this->sql->someOf($this->sql->writing->name($column), null === $far ? $lead->references->table : $this->placed($far));
    }

    private function changeColumn(Table $was, Table $is, Column $old, Column $column): void
    {
        // While a table has no key, nothing in it is numbered: its key says it again.
        $column = $this->rekeyed($was, $is) && $this->inline() ? $column->with(autoNumbered: false) : $column;
        $label = $is->name.'.'.$column->name;
        $now = $old->with(name: $column->name);
        $typed = $old->type !== $column->type || $old->collation !== $column->collation || $old->charset !== $column->charset;
        $required = !$column->nullable && $old->nullable;
        $checks = static fn (Table $table, string $name): array => array_values(array_map(
            static fn (CheckConstraint $check): string => $check->expression,
            array_filter($table->checks, static fn (CheckConstraint $check): bool => $check->column === $name),
        ));
        $said = $old->comment !== $column->comment && !$this->says($was, $is);
        $other = $typed || $old->default !== $column->default || $old->autoNumbered !== $column->autoNumbered || $old->onUpdate !== $column->onUpdate || $said
            || ($this->inline() && $checks($was, $old->name) !== $checks($is, $column->name));
        if (!$other && $old->nullable === $column->nullable) {
            return;
        }
        $cast = new Cast($this->sql->writing->name($column->name));
        if ($typed && $old->type !== $column->type) {
            $cast = $this->sql->cast($this->sql->writing->name($column->name), $now, $column);
            if (null !== $cast->loses) {
                $this->add(
                    self::COPY,
                    \sprintf('%s is %s and no longer %s: %s', $label, $column->type, $old->type, $cast->words),
                    $this->fitted($is, $now, $column, $cast),
                    ChangeStep::LOSES,
                    $is->name,
                    [$was->name, $old->name],
                );
                $required = $required || !$column->nullable;
            }
        }
        $bare = $this->inline() ? $is : $is->with(checks: []);
        if ($other) {
            $words = $typed ? \sprintf('%s is %s', $label, $column->type) : \sprintf('%s is said otherwise', $label);
            $statements = $this->sql->changeColumn($bare, $now, $required && !$this->sql->rebuilds() ? $column->with(nullable: true) : $column, $cast);
            if ([] !== $statements) {
                $this->add(self::CHANGE, $words, $statements, $typed ? ChangeStep::LOCKS : '', $is->name, [$was->name, $old->name]);
            }
        }
        $numbers = $column->autoNumbered && !$old->autoNumbered && null === $column->default ? $this->sql->numbers($is, $column) : [];
        if ($required) {
            $this->refill($is, $column, $label);
            $this->add(self::KEYS - 1, \sprintf('%s is required', $label), $this->sql->required($bare, $column), '', $is->name);
        } elseif ($old->nullable !== $column->nullable
            && (!$other || [] === array_filter([$this->says($was, $is)], static fn (bool $whole): bool => !$whole))) {
            $this->add(self::CHANGE, \sprintf('%s may be empty', $label), $this->sql->required($bare, $column), '', $is->name);
        }
        if ([] !== $numbers) {
            $this->add(self::KEYS - 1, \sprintf('%s is numbered by the database', $label), $numbers, '', $is->name);
        }
    }

    /** What sets itself whenever a row changes stays as it is: nobody has changed the row. */
    private function update(Table $is, string $name, string $value, string $where): string
    {
        $stays = '';
        foreach ($is->columns as $column) {
            $own = $this->sql->writing->name($column->name);
            if (null !== $column->onUpdate && $own !== $name) {
                $stays .= ", $own = $own";
            }
        }

        return \sprintf('UPDATE %s SET %s = %s%s%s', $this->placed($is), $name, $value, $stays, '' === $where ? '' : " WHERE $where");
    }

    /** What is left empty after a change gets something where it must have it. */
    private function refill(Table $is, Column $column, string $label): void
    {
        [$value, $said] = $this->filling($is, $column);
        $name = $this->sql->writing->name($column->name);
        $this->add(
            self::DROP_FIELDS,
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
    private function inline(): bool
    {
        return $this->dialect->manners()->ownConditions;
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
        $name = $this->sql->writing->name($column->name);
        $all = [];
        if (!$was->nullable) {
            $all[] = $this->sql->required($is->with(checks: [], primaryKey: null), $was->with(nullable: true, autoNumbered: false))[0];
        }
        $all[] = $this->update($is, $name, $cast->sql, $cast->loses);

        return $all;
    }

    // ---- keys ----

    /** @param array<string, string> $map */
    private function keys(Table $was, Table $is, array $map): void
    {
        $named = self::naming($map);
        // A column whose type changes takes what leads by it along.
        $retyped = [];
        foreach ($map as $before => $after) {
            if ($was->column($before)?->type !== $is->column($after)?->type) {
                $retyped[$after] = true;
            }
        }
        $touches = static fn (ForeignKey $lead): bool => [] !== array_intersect($lead->columns, array_keys($retyped));
        $this->primary($was, $is, $named);
        $this->each($was->uniqueKeys, $is->uniqueKeys,
            static fn (Key $a, Key $b): bool => $a->name === $b->name && $named($a->columns) === $b->columns,
            fn (Key $key) => $this->add(
                self::DROP_KEYS,
                \sprintf('%s: %s need not be one of its kind', $is->name, implode(', ', $key->columns)),
                [$this->sql->dropUnique($was, $key)],
                '',
                $is->name,
            ),
            fn (Key $key) => $this->add(
                self::KEYS,
                \sprintf('%s: no two rows have the same %s', $is->name, implode(' and ', $key->columns)),
                [$this->sql->addUnique($is, $key)],
                ChangeStep::LOCKS,
                $is->name,
            ),
        );
        $this->each($was->foreignKeys, $is->foreignKeys,
            fn (ForeignKey $a, ForeignKey $b): bool => $a->name === $b->name && $named($a->columns) === $b->columns && $this->sameEnd($a, $b)
                && $a->onDelete === $b->onDelete && $a->onUpdate === $b->onUpdate && !$touches($b) && !$this->keyChanges($b) && !$this->standsOn($a, $was, $is),
            fn (ForeignKey $key) => $this->dropLead($was, $key),
            fn (ForeignKey $key) => $this->add(
                self::LEADS,
                \sprintf('%s leads to %s by %s', $is->name, $key->references->table, implode(' and ', $key->columns)),
                [$this->sql->writing->addForeignKey($is, $key)],
                ChangeStep::LOCKS,
                $is->name,
            ),
        );
        $own = $this->inline();
        // A server that drops conditions with their fields takes one along that speaks of no field at all.
        $drops = \count($map) < \count($was->columns) || [] !== array_filter($was->columns, function (Column $column) use ($is, $map): bool {
            $new = $is->column($map[$column->name] ?? '');

            return null !== $new && ($column->generated != $new->generated || $this->cannot($column, $new));
        });
        $other = [
            ...array_keys($retyped),
            ...array_keys(array_filter($map, static fn (string $after, string $before): bool => $after !== $before, \ARRAY_FILTER_USE_BOTH)),
        ];
        $other = [...$other, ...array_values(array_diff(array_map(static fn (Column $column): string => $column->name, $was->columns), array_keys($map)))];
        // One that speaks of a field that changes is taken away before, and comes back.
        $spoken = static fn (CheckConstraint $check): bool => [] !== array_filter(
            $other,
            static fn (int|string $name): bool => 1 === preg_match(
                '/(?<![\p{L}\p{N}_])'.preg_quote((string) $name, '/').'(?![\p{L}\p{N}_])/u',
                $check->expression,
            ),
        );
        $lost = static fn (CheckConstraint $check): bool => $own && $drops && [] === array_filter(
            $is->columns,
            static fn (Column $column): bool => str_contains($check->expression, $column->name),
        );
        $this->each(
            array_values(array_filter($was->checks, static fn (CheckConstraint $check): bool => !$own || null === $check->column)),
            array_values(array_filter($is->checks, static fn (CheckConstraint $check): bool => !$own || null === $check->column)),
            static fn (CheckConstraint $a, CheckConstraint $b): bool => !$lost($b) && $a->name === $b->name && $a->expression === $b->expression
                && !$spoken($a),
            fn (CheckConstraint $check) => $this->add(
                self::DROP_KEYS,
                \sprintf('%s: the condition %s goes', $is->name, $check->name),
                [$this->sql->dropCheck($was, $check)],
                '',
                $is->name,
            ),
            fn (CheckConstraint $check) => $this->add(
                self::KEYS,
                \sprintf('%s: always %s', $is->name, $check->expression),
                [$this->sql->addCheck($is, $check)],
                ChangeStep::LOCKS,
                $is->name,
            ),
        );
        $keys = static fn (Table $table): array => array_filter(
            [$table->primaryKey?->name, ...array_map(static fn (Key $key): ?string => $key->name, $table->uniqueKeys)],
        );
        $implied = static fn (Table $table, Index $index): bool => \in_array($index->name, $keys($table), true) || 'PRIMARY' === strtoupper($index->name);
        $parts = static fn (Index $index, bool $old): array => array_map(
            static fn (IndexPart $part): array => [$old ? ($map[$part->column] ?? $part->column) : $part->column, $part->length, $part->descending],
            $index->parts,
        );
        $this->each(
            array_values(array_filter($was->indexes, static fn (Index $index): bool => !$implied($was, $index))),
            array_values(array_filter($is->indexes, static fn (Index $index): bool => !$implied($is, $index))),
            static fn (Index $a, Index $b): bool => $a->name === $b->name && $parts($a, true) === $parts($b, false) && $a->unique === $b->unique
                && $a->method === $b->method
                && $a->where === $b->where && $a->comment === $b->comment,
            fn (Index $index) => $this->add(
                self::DROP_KEYS,
                \sprintf('%s: the index %s goes', $is->name, $index->name),
                [$this->sql->dropIndex($was, $index)],
                '',
                $is->name,
            ),
            fn (Index $index) => $this->add(
                self::KEYS,
                \sprintf('%s gets the index %s', $is->name, $index->name),
                [$this->sql->addIndex($is, $index)],
                ChangeStep::LOCKS,
                $is->name,
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

    private function rekeyed(Table $was, Table $is): bool
    {
        [$old, $new] = [$was->primaryKey, $is->primaryKey];
        $named = self::naming($this->matching->columns[$was->place()->key()]);

        return null !== $old && !(null !== $new && $named($old->columns) === $new->columns
            && ($old->name === $new->name || null !== $this->dialect->manners()->primary));
    }

    /** @param \Closure(list<string>): list<string> $named */
    private function primary(Table $was, Table $is, \Closure $named): void
    {
        [$old, $new] = [$was->primaryKey, $is->primaryKey];
        $same = null !== $old && null !== $new && $named($old->columns) === $new->columns
            && ($old->name === $new->name || null !== $this->dialect->manners()->primary);
        if ($same || (null === $old && null === $new)) {
            return;
        }
        if (null !== $old) {
            // What leads to it goes first, and comes back by its own table.
            $this->add(
                self::DROP_KEYS,
                \sprintf('%s is no longer keyed by %s', $is->name, implode(', ', $old->columns)),
                $this->sql->dropPrimary($was, $old),
                '',
                $is->name,
            );
        }
        if (null !== $new) {
            $this->add(
                self::KEYS,
                \sprintf('%s is keyed by %s', $is->name, implode(', ', $new->columns)),
                $this->sql->addPrimary($is, $new),
                ChangeStep::LOCKS,
                $is->name,
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
        $map = $this->matching->columns[$key] ?? [];

        return ($this->matching->tables[$key] ?? '') === $is->references->place()->key()
            && array_map(static fn (string $column): string => $map[$column] ?? "\0", $was->references->columns) === $is->references->columns;
    }

    /** What leads elsewhere needs an index, which may be that of a key or another index that goes. */
    private function standsOn(ForeignKey $lead, Table $was, Table $is): bool
    {
        if (!$this->dialect->manners()->leadsIndexed) {
            return false;
        }
        $map = $this->matching->columns[$was->place()->key()];
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
        $before = array_search($place, $this->matching->tables, true);
        $is = $this->new[$place] ?? null;
        if (false === $before || null === $is) {
            return true;
        }
        $was = $this->old[$before];
        $back = array_flip($this->matching->columns[$before]);
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

        return $keys($was, self::naming($this->matching->columns[$before])) !== $keys($is, self::naming(array_combine(
            array_map(static fn (Column $column): string => $column->name, $is->columns),
            array_map(static fn (Column $column): string => $column->name, $is->columns),
        )));
    }

    /** @return list<array{Table, ForeignKey}> what leads to a table from one that stays */
    private function leadsTo(Table $table): array
    {
        $found = [];
        foreach ($this->old as $key => $other) {
            foreach ($other->foreignKeys as $lead) {
                if ($lead->references->place()->key() === $table->place()->key() && !isset($this->matching->tables[$key])
                    && $other !== $table && !$this->sql->rebuilds()) {
                    $found[] = [$other, $lead];
                }
            }
        }

        return $found;
    }

    /** @var array<string, true> */
    private array $droppedLeads = [];

    private function dropLead(Table $table, ForeignKey $lead): void
    {
        $key = $table->place()->key()."\0".$lead->name.implode(',', $lead->columns);
        if (!isset($this->droppedLeads[$key])) {
            $this->droppedLeads[$key] = true;
            $this->add(self::DROP_LEADS, \sprintf('%s no longer leads to %s by %s', $table->name, $lead->references->table, implode(' and ', $lead->columns)), [
                $this->sql->dropForeignKey($table, $lead),
            ], '', $table->name);
        }
    }

    /**
     * A table as it was, under the names of what it becomes.
     *
     * @param array<string, string> $map
     */
    private function under(Table $was, Table $is, array $map): Table
    {
        return $was->with(name: $is->name, columns: array_map(function (Column $column) use ($is, $map): Column {
            $new = $is->column($map[$column->name] ?? '');
            // One that is made anew has lost its comment.
            $anew = null !== $new && ($column->generated != $new->generated || $this->cannot($column, $new));

            return $column->with(name: $map[$column->name] ?? $column->name, comment: $anew ? '' : $column->comment);
        }, $was->columns));
    }

    // ---- a table that is made anew ----

    private function rebuilt(Table $was, Table $is): void
    {
        $map = $this->matching->columns[$was->place()->key()];
        $bare = static fn (Table $table): Table => $table->with(comment: '', rowEstimate: null, sizeBytes: null, columns: array_map(
            static fn (Column $column): Column => $column->with(comment: ''),
            $table->columns,
        ));
        if ($bare($was) == $bare($is)) {
            return;
        }
        $back = array_flip($map);
        $columns = $values = [];
        foreach ($is->columns as $column) {
            if (null !== $column->generated) {
                continue;
            }
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            $value = $this->carried($was, $is, $old, $column);
            if (null !== $value) {
                $columns[] = $this->sql->writing->name($column->name);
                $values[] = $value;
            }
        }
        foreach ($was->columns as $column) {
            if (!isset($map[$column->name]) && null === $column->generated) {
                $this->add(
                    self::DROP_FIELDS,
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
                $this->add(
                    self::RENAME,
                    \sprintf('%s.%s is called %s', $is->name, $before, $after),
                    [],
                    '',
                    $is->name,
                    [$was->name, $before],
                );
            }
        }
        if ($was->name !== $is->name) {
            $this->add(self::RENAME, \sprintf('%s is called %s', $was->name, $is->name), [], '', $is->name, [$was->name, null]);
        }
        $beside = $is->with(name: self::BESIDE.$is->name, indexes: [], triggers: []);
        $made = array_map(static fn ($statement): string => $statement->sql, $this->sql->writing->table($beside, $is->foreignKeys));
        $copy = [] === $columns ? [] : [
            \sprintf('INSERT INTO %s (%s) SELECT %s FROM %s', $this->placed($beside), implode(', ', $columns), implode(', ', $values), $this->placed($was)),
        ];
        $this->add(
            self::NEW_FIELDS,
            \sprintf('%s is made anew beside itself, and its rows are copied', $is->name),
            [...$made, ...$copy],
            ChangeStep::LOCKS,
            $is->name,
        );
        $this->add(self::DROP_FIELDS, \sprintf('%s takes the place of the old one', $is->name), [
            'DROP TABLE '.$this->placed($was), $this->sql->renameTable($beside, $is->name),
        ], '', $is->name);
        $again = [];
        foreach ($this->sql->writing->table($is, $is->foreignKeys) as $n => $statement) {
            if (0 !== $n) {
                $again[] = $statement->sql;
            }
        }
        foreach ($is->triggers as $trigger) {
            $again[] = $this->sql->writing->trigger($is, $trigger);
        }if ([] !== $again) {
            $this->add(self::KEYS, \sprintf('%s gets its indexes and triggers', $is->name), $again, '', $is->name);
        }
    }

    private function carried(Table $was, Table $is, ?Column $old, Column $column): ?string
    {
        [$filling, $said] = $this->filling($is, $column);
        $label = $is->name.'.'.$column->name;
        if (null === $old || null !== $old->generated) {
            if ($column->autoNumbered || (!$said && $column->nullable)) {
                return null;
            }
            $this->add(self::NEW_FIELDS, \sprintf('%s comes', $label), [], '', $is->name);
            if (!$said) {
                $this->add(
                    self::COPY,
                    \sprintf('Rows of %s must have %s, and nobody has said what those get that are there: they get %s', $is->name, $column->name, $filling),
                    [],
                    ChangeStep::ASKS,
                    $is->name,
                );
            }

            return $filling;
        }
        $name = $this->sql->writing->name($old->name);
        $cast = $old->type === $column->type ? new Cast($name) : $this->sql->cast($name, $old, $column);
        if (null !== $cast->loses) {
            $this->add(
                self::COPY,
                \sprintf('%s is %s and no longer %s: %s', $label, $column->type, $old->type, $cast->words),
                [],
                ChangeStep::LOSES,
                $is->name,
                [$was->name, $old->name],
            );
        }
        if (!$column->nullable && !$column->autoNumbered && ($old->nullable || null !== $cast->loses)) {
            if (!$said) {
                $this->add(
                    self::COPY,
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

    // ---- values that move to another table ----

    /** What a field held that goes, and a new table holds under the same name, is copied there. */
    private function moved(): void
    {
        foreach ($this->new as $newKey => $table) {
            if ($table->kind->isView() || \in_array($newKey, $this->matching->tables, true)) {
                continue;
            }
            foreach ($table->foreignKeys as $lead) {
                $oldKey = array_search($lead->references->place()->key(), $this->matching->tables, true);
                if (false !== $oldKey) {
                    $this->movedFrom($this->old[$oldKey], (string) $oldKey, $table, $lead);
                }
            }
        }
    }

    private function movedFrom(Table $was, string $oldKey, Table $table, ForeignKey $lead): void
    {
        $map = $this->matching->columns[$oldKey];
        $back = array_flip($map);
        $is = $this->new[$this->matching->tables[$oldKey]];
        $key = array_map(static fn (string $column): ?string => $back[$column] ?? null, $lead->references->columns);
        if (\in_array(null, $key, true)) {
            return;
        }
        $columns = $lead->columns;
        $from = array_map(strval(...), $key);
        $takes = [];
        foreach ($table->columns as $column) {
            if (\in_array($column->name, $columns, true) || $column->autoNumbered || null !== $column->generated) {
                continue;
            }
            $gone = $this->goneFor($was, $map, $table, $column);
            if (null !== $gone) {
                $takes[$column->name] = $gone;
            }
        }
        $needs = array_filter($table->columns, static fn (Column $column): bool => !$column->nullable && null === $column->default && !$column->autoNumbered
            && null === $column->generated && !\in_array($column->name, $columns, true) && !isset($takes[$column->name]));
        if ([] === $takes || [] !== $needs) {
            return;
        }
        $rebuilds = $this->sql->rebuilds();
        // In place, what stays has its new name already by then; a table that is made anew is read as it was.
        $source = $rebuilds ? $was : $is;
        $names = [];
        foreach ($from as $column) {
            $names[] = $rebuilds ? $column : ($map[$column] ?? $column);
        }
        $held = [];
        foreach ($takes as $name => $column) {
            $now = $rebuilds ? $column->name : ($this->goingAs[$is->place()->key()][$column->name] ?? $column->name);
            $held[$name] = $this->sql->cast($this->sql->writing->name($now), $column->with(name: $now), $table->column($name) ?? $column)->sql;
        }
        $target = array_map($this->sql->writing->name(...), [...$columns, ...array_keys($held)]);
        $first = array_key_first($takes);
        $where = $this->sql->writing->name(
            $rebuilds ? $takes[$first]->name : ($this->goingAs[$is->place()->key()][$takes[$first]->name] ?? $takes[$first]->name),
        );
        $this->add(
            self::COPY,
            \sprintf(
                'What %s held as %s goes into %s',
                $was->name,
                implode(' and ', array_map(static fn (Column $column): string => $column->name, $takes)),
                $table->name,
            ),
            [\sprintf(
                'INSERT INTO %s (%s) SELECT %s FROM %s WHERE %s IS NOT NULL', $this->placed($table), implode(', ', $target),
                implode(', ', [...array_map($this->sql->writing->name(...), $names), ...array_values($held)]), $this->placed($source), $where,
            )],
            '',
            $table->name,
        );
        foreach ($takes as $column) {
            $this->notLost($was->name, $column->name);
        }
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
                        && ($this->matching->tables[$lead->references->place()->key()] ?? '') === $new->references->place()->key()) {
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
        $this->steps = array_map(static fn (ChangeStep $step): ChangeStep => [$table, $column] === $step->field && self::DROP_FIELDS === $step->phase
            ? new ChangeStep(
                $step->phase, \sprintf('%s.%s goes; its values are elsewhere by then', $table, $column), $step->sql, '', $step->table, $step->field,
            ) : $step, $this->steps);
    }

    // ---- words ----

    private function placed(Table $table): string
    {
        return $this->sql->writing->placed(new Place($table->schema, $table->name));
    }

    /**
     * @param list<string>              $sql
     * @param array{string, ?string}|null $field
     */
    private function add(int $phase, string $words, array $sql, string $risk = '', string $table = '', ?array $field = null): void
    {
        $this->steps[] = new ChangeStep($phase, rtrim($words, '.').'.', $sql, $risk, $table, $field);
    }

    /** How much there is to do, in words. */
    public function inWords(): string
    {
        return [] === $this->steps ? 'Nothing has to change.' : Amount::of(\count($this->steps), 'step');
    }
}
