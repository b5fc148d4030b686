<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\AlterSql;
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
    public const RENAME = 3;
    private const NEW_TABLES = 4;
    public const NEW_FIELDS = 5;
    public const COPY = 6;
    public const DROP_FIELDS = 8;
    private const DROP_TABLES = 9;
    public const KEYS = 10;
    public const FOREIGN_KEYS = 11;
    private const MEANINGS = 12;
    private const PROGRAMS = 13;
    /** What a table is called while it is made anew. */
    public const BESIDE = 'fasti_new_';

    /** @var list<ChangeStep> in the order in which they are done */
    public array $steps = [];
    /** @var list<string> */
    public array $guesses;
    public readonly Dialect $dialect;
    public readonly AlterSql $sql;
    /** @var array<string, Table> */
    public array $old = [];
    /** @var array<string, Table> */
    public array $new = [];

    public readonly ColumnChanges $columns;
    public readonly KeyChanges $keysOf;
    public readonly Rebuilding $rebuilding;
    public readonly MovedValues $values;

    private function __construct(private readonly Catalog $before, private readonly Catalog $after, public readonly Matching $matching, ?ScriptOptions $options)
    {
        $this->columns = new ColumnChanges($this);
        $this->keysOf = new KeyChanges($this);
        $this->rebuilding = new Rebuilding($this);
        $this->values = new MovedValues($this);
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
                $self->sql->rebuilds() => $self->rebuilding->rebuilt($table, $is),
                default => $self->changed($table, $is),
            };
        }
        foreach ($self->new as $key => $table) {
            if (!$table->kind->isView() && !\in_array($key, $matching->tables, true)) {
                $self->added($table);
            }
        }
        $self->values->moved();
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
        foreach ($this->keysOf->leadsTo($table) as [$from, $lead]) {
            $this->keysOf->dropForeignKey($from, $lead);
        }
        foreach ($table->foreignKeys as $lead) {
            if (!$this->sql->rebuilds()) {
                $this->keysOf->dropForeignKey($table, $lead);
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
                self::FOREIGN_KEYS,
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
        $this->columns->renameColumns($was, $is, $map);
        $before = null;
        foreach ($is->columns as $column) {
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            if (null === $old || $old->generated != $column->generated || $this->columns->cannot($old, $column)) {
                $this->columns->addColumn($is, $column, $before ?? '', $old);
            } else {
                $this->columns->changeColumn($was, $is, $old, $column);
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
        $this->keysOf->keys($was, $is, $map);
        foreach ($this->sql->meanings($this->keysOf->under($was, $is, $map), $is) as $sql) {
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

    /** @var array<string, array<string, string>> key of the place after → column that goes → what it is called until then */
    public array $goingAs = [];

    // ---- keys ----

    /** @var array<string, true> */
    public array $droppedLeads = [];

    // ---- a table that is made anew ----

    // ---- values that move to another table ----

    // ---- words ----

    public function placed(Table $table): string
    {
        return $this->sql->writing->placed(new Place($table->schema, $table->name));
    }

    /**
     * @param list<string>              $sql
     * @param array{string, ?string}|null $field
     */
    public function add(int $phase, string $words, array $sql, string $risk = '', string $table = '', ?array $field = null): void
    {
        $this->steps[] = new ChangeStep($phase, rtrim($words, '.').'.', $sql, $risk, $table, $field);
    }

    /** How much there is to do, in words. */
    public function inWords(): string
    {
        return [] === $this->steps ? 'Nothing has to change.' : Amount::of(\count($this->steps), 'step');
    }
}
