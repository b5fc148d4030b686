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
    /** Nothing has been touched yet. */
    private const FIRST = -2;
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
    /** What rows are kept as that are taken out. */
    public const OUT = 'fasti_left_out_';

    /** @var list<ChangeStep> in the order in which they are done */
    public array $steps = [];
    /** @var list<string> */
    public array $guesses;
    /** @var list<string> what says names of before and cannot be followed, in sentences */
    public readonly array $left;
    /** As it is to be, with new names wherever somebody still says old ones. */
    public readonly Catalog $after;
    public readonly Dialect $dialect;
    public readonly AlterSql $sql;
    /** @var array<string, Table> */
    public array $old = [];
    /** @var array<string, Table> */
    public array $new = [];

    /** @var array<string, RowQuestion> what is asked of the rows that are there, by key */
    public array $questions = [];

    public readonly ColumnChanges $columns;
    public readonly KeyChanges $keysOf;
    public readonly Rebuilding $rebuilding;
    public readonly MovedValues $values;

    /** @param array<string, string> $fates key of a question → what somebody has chosen for such rows */
    private function __construct(
        private readonly Catalog $before,
        Catalog $after,
        public readonly Matching $matching,
        ?ScriptOptions $options,
        private readonly array $fates,
    ) {
        $this->columns = new ColumnChanges($this);
        $this->keysOf = new KeyChanges($this);
        $this->rebuilding = new Rebuilding($this);
        $this->values = new MovedValues($this);
        $this->dialect = Dialects::ofCatalog($after);
        $schemas = array_unique(array_map(static fn (Table $table): string => $table->schema, [...$before->tables, ...$after->tables]));
        $this->sql = $this->dialect->altering($options ?? new ScriptOptions(places: \count($schemas) > 1));
        $following = new Following($before, $after, $matching, $this->sql->writing, $this->dialect->grammar());
        $this->after = $following->followed();
        $this->left = $following->left;
        $this->guesses = [...$matching->guesses, ...$following->typed];
        foreach ($before->tables as $table) {
            $this->old[$table->place()->key()] = $table;
        }
        foreach ($this->after->tables as $table) {
            $this->new[$table->place()->key()] = $table;
        }
    }

    /** @param array<string, string> $fates key of a question → one of its fates; where none is said, its own */
    public static function between(Catalog $before, Catalog $after, Matching $matching, ?ScriptOptions $options = null, array $fates = []): self
    {
        $self = new self($before, $after, $matching, $options, $fates);
        $self->questions();
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

    // ---- rows that cannot stay as they are ----

    /** Asks it, with what somebody has chosen. */
    public function ask(RowQuestion $question): void
    {
        $chosen = $this->fates[$question->key] ?? $question->fate;
        $this->questions[$question->key] = \in_array($chosen, $question->fates, true) ? $question->with($chosen) : $question;
    }

    /** What is to happen to rows; '' where nothing was asked. */
    public function fate(string $key): string
    {
        return $this->questions[$key]->fate ?? '';
    }

    private function questions(): void
    {
        foreach ($this->old as $key => $table) {
            $is = isset($this->matching->tables[$key]) ? $this->new[$this->matching->tables[$key]] : null;
            if ($table->kind->isView()) {
                continue;
            }
            if (null === $is) {
                RowQuestions::ofGone($this, $table);
            } else {
                RowQuestions::ofTable($this, $table, $is, $this->matching->columns[$key]);
            }
        }
        foreach ($this->questions as $question) {
            $this->leadingTo($question);
        }
        $this->decided();
    }

    /** What is done about such rows before anything else. */
    private function decided(): void
    {
        foreach ($this->questions as $question) {
            if (RowQuestion::STOP === $question->fate) {
                $this->add(
                    self::FIRST, \sprintf('Stops, and nothing has been touched, where rows of %s %s', $question->table->name, $question->words),
                    $this->stopping($question), '', $question->table->name,
                );
            }
        }
        $n = 0;
        // What leads to rows that are taken out was asked after them, and goes before them.
        foreach (array_reverse($this->questions) as $question) {
            $placed = $this->sql->writing->placed($question->table);
            if (RowQuestion::OUT === $question->fate) {
                $kept = $this->sql->writing->placed(new Place($question->table->schema, self::OUT.++$n));
                $words = \sprintf('Rows of %s that %s are taken out, and kept in %s', $question->table->name, $question->words, self::OUT.$n);
                $this->add(self::FIRST + 1, $words, [
                    "CREATE TABLE $kept AS SELECT * FROM $placed WHERE $question->where", "DELETE FROM $placed WHERE $question->where",
                ], ChangeStep::LOSES, $question->table->name);
            } elseif (RowQuestion::VALUE === $question->fate && [] !== $question->value) {
                $this->add(
                    self::FIRST + 1, \sprintf('Rows of %s that %s: %s', $question->table->name, $question->words, $question->sets),
                    array_map(static fn (string $sql): string => str_replace('%s', $question->where, $sql), $question->value),
                    ChangeStep::LOSES, $question->table->name,
                );
            }
        }
    }

    /** Rows that lead to rows that are taken out would go with them, or keep them from going. */
    private function leadingTo(RowQuestion $out): void
    {
        $within = RowQuestion::OUT === $out->fate ? $this->old : [];
        foreach ($within as $table) {
            foreach ($table->foreignKeys as $lead) {
                $name = fn (string $of, string $column): string => $this->sql->writing->name($of).'.'.$this->sql->writing->name($column);
                $key = \sprintf('leads:%s.%s to %s', $table->name, implode(',', $lead->columns), $out->key);
                if ($lead->references->place()->key() !== $out->table->key() || isset($this->questions[$key]) || \strlen($key) > 300) {
                    continue;
                }
                $from = array_map(static fn (string $column): string => $name($table->name, $column), $lead->columns);
                $to = array_map(static fn (string $column): string => $name($out->table->name, $column), $lead->references->columns);
                $this->ask(new RowQuestion(
                    $key, \sprintf('lead to rows of %s that are taken out', $out->table->name), $table->place(),
                    (1 === \count($from) ? $from[0] : '('.implode(', ', $from).')').' IN (SELECT '.implode(', ', $to).' FROM '
                        .$this->sql->writing->placed($out->table)." WHERE $out->where)",
                    '', RowQuestion::STOP, [RowQuestion::STOP, RowQuestion::OUT], plain: $out->plain,
                ));
                $this->leadingTo($this->questions[$key]);
            }
        }
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
            $risk = ['loses' => 'Loses values', 'asks' => 'Nobody has said it', 'locks' => 'Locks a table'][$step->risk];
            $text .= "-- $risk: ".self::inLine($step->words)."\n";
        }
        foreach ($this->questions as $question) {
            $text .= \sprintf("-- Rows of %s that %s: %s. They are found by: %s;\n", $question->table->name, self::inLine($question->words),
                $question->then(), self::inLine($this->finding($question)));
        }
        [$first, $last] = $this->sql->frame();
        $text .= ('' === $text ? '' : "\n").('' === $first ? '' : "$first;\n\n");
        foreach ($this->steps as $step) {
            if ([] !== $step->sql) {
                $text .= '-- '.self::inLine($step->words)."\n".implode('', array_map(static fn (string $sql): string => "$sql;\n", $step->sql))
                    .('' === $first ? self::wayBack($step) : '')."\n";
            }
        }

        return $text.('' === $last ? '' : "$last;\n");
    }

    /** A remark ends with its line, and nothing that somebody wrote goes on behind it. */
    private static function inLine(string $text): string
    {
        return (string) preg_replace('/[\r\n\x{2028}\x{2029}]+/u', ' ', $text);
    }

    /** Where an engine keeps what is done when a later step fails, each says how it is undone by hand. */
    private static function wayBack(ChangeStep $step): string
    {
        return implode('', array_map(static fn (string $sql): string => '-- Way back: '.self::inLine($sql).";\n", $step->back));
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
        $this->add(self::NEW_TABLES, \sprintf('%s comes', $table->name), $statements, '', $table->name, back: ['DROP TABLE '.$this->placed($table)]);
        foreach ($this->sql->rebuilds() ? [] : $table->foreignKeys as $lead) {
            $this->add(
                self::FOREIGN_KEYS,
                \sprintf('%s leads to %s', $table->name, $lead->references->table),
                [$this->sql->writing->addForeignKey($table, $lead)],
                '',
                $table->name,
                back: [$this->sql->dropForeignKey($table, $lead)],
            );
        }
    }

    /** Views go first, those that read others before them, and come back last: what they read may be changed in between. */
    private function programs(): void
    {
        $grammar = $this->dialect->grammar();
        $old = new ViewOrder($this->before, $grammar);
        $new = new ViewOrder($this->after, $grammar);
        $same = static fn (Table $a, ?Table $b): bool => null !== $b && $a->definition === $b->definition && $a->kind === $b->kind;
        $touched = $this->touched();
        foreach ($old->views as $key => $view) {
            if (!$same($view, $this->new[$key] ?? null)) {
                $touched[$key] = true;
            }
        }
        $dropped = array_intersect_key($old->views, $touched + $old->reading($touched));
        foreach (array_reverse($dropped) as $key => $view) {
            $words = \sprintf(isset($this->new[$key]) ? 'The view %s is made anew at the end' : 'The view %s goes', $view->name);
            $this->add(
                self::DROP_PROGRAMS, $words, [$this->sql->writing->dropView($view)], '', $view->name, [$view->name, null], $this->made($view),
            );
        }
        foreach ($new->views as $key => $view) {
            $was = $this->old[$key] ?? null;
            if (null === $was || isset($dropped[$key])) {
                $words = \sprintf('The view %s comes%s', $view->name, null === $was ? '' : ' back');
                $this->add(self::PROGRAMS, $words, $this->made($view), '', $view->name, back: [$this->sql->writing->dropView($view)]);
            }
        }
    }

    /** @return list<string> */
    private function made(Table $view): array
    {
        return array_values(array_map(static fn ($statement): string => $statement->sql, $this->sql->writing->view($view)));
    }

    /** @return array<string, true> keys of tables that are changed in a way that views may notice */
    private function touched(): array
    {
        $touched = [];
        foreach ($this->old as $key => $table) {
            $is = isset($this->matching->tables[$key]) ? $this->new[$this->matching->tables[$key]] : null;
            if (!$table->kind->isView() && (null === $is || $this->sql->rebuilds() || $is->name !== $table->name || $is->columns != $table->columns)) {
                $touched[$key] = true;
            }
        }

        return $touched;
    }

    // ---- a table that is changed in place ----

    private function changed(Table $was, Table $is): void
    {
        $map = $this->matching->columns[$was->place()->key()];
        foreach ($was->triggers as $trigger) {
            if ($was->name !== $is->name || true !== $this->sameTrigger($trigger, $is->triggers)) {
                $this->add(self::DROP_PROGRAMS, \sprintf('The trigger %s goes', $trigger->name), [$this->sql->dropTrigger($was, $trigger)], '', $was->name,
                    back: [$this->sql->writing->trigger($was, $trigger)]);
            }
        }
        foreach ($is->triggers as $trigger) {
            if ($was->name !== $is->name || true !== $this->sameTrigger($trigger, $was->triggers)) {
                $this->add(self::PROGRAMS, \sprintf('The trigger %s comes', $trigger->name), [$this->sql->writing->trigger($is, $trigger)], '', $is->name,
                    back: [$this->sql->dropTrigger($is, $trigger)]);
            }
        }
        if ($was->name !== $is->name) {
            $this->add(
                self::RENAME,
                \sprintf('%s is called %s', $was->name, $is->name),
                [$this->sql->renameTable($was, $is->name)],
                '',
                $is->name,
                [$was->name, null],
                [$this->sql->renameTable($was->with(name: $is->name), $was->name)],
            );
        }
        $this->fields($was, $is, $map);
        foreach ($this->sql->meanings($this->keysOf->under($was, $is, $map), $is) as $sql) {
            $this->add(self::MEANINGS, \sprintf('What %s means is written down', $is->name), [$sql], '', $is->name);
        }
        foreach ($this->sql->stored($was, $is) as $sql) {
            $this->add(self::MEANINGS, \sprintf('%s is stored otherwise', $is->name), [$sql], ChangeStep::LOCKS, $is->name);
        }
    }

    /** @param array<string, string> $map */
    private function fields(Table $was, Table $is, array $map): void
    {
        $back = array_flip($map);
        $this->columns->dropComputed($was, $is, $map);
        $this->columns->renameColumns($was, $is, $map);
        $before = null;
        foreach ($is->columns as $column) {
            $old = isset($back[$column->name]) ? $was->column($back[$column->name]) : null;
            if (null !== $column->generated && (null === $old || $this->columns->isAnew($was, $is, $old, $column))) {
                continue;
            }
            if (null === $old || $this->columns->isAnew($was, $is, $old, $column)) {
                $this->columns->addColumn($is, $column, $before ?? '', $old);
            } else {
                $this->columns->changeColumn($was, $is, $old, $column);
            }
            $before = $column->name;
        }
        $this->columns->addComputed($was, $is, $map);
        foreach ($was->columns as $column) {
            if (!isset($map[$column->name]) && null === $column->generated) {
                $this->add(
                    self::DROP_FIELDS,
                    \sprintf('%s.%s goes, with its values', $was->name, $column->name),
                    [$this->sql->dropColumn($is, $column->name)],
                    ChangeStep::LOSES,
                    $is->name,
                    [$was->name, $column->name],
                );
            }
        }
        // Keys and conditions of what is made again are made again, too.
        $this->keysOf->keys($was, $is, array_filter($map, function (string $after, int|string $before) use ($was, $is): bool {
            $old = $was->column((string) $before);
            $new = $is->column($after);

            return null !== $old && null !== $new && !$this->columns->isAnew($was, $is, $old, $new);
        }, \ARRAY_FILTER_USE_BOTH));
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
     * @param list<string>                $back  statements that undo it
     */
    public function add(int $phase, string $words, array $sql, string $risk = '', string $table = '', ?array $field = null, array $back = []): void
    {
        $this->steps[] = new ChangeStep($phase, rtrim($words, '.').'.', $sql, $risk, $table, $field, $back);
    }

    /** @return list<string> statements that fail where there is such a row */
    public function stopping(RowQuestion $question): array
    {
        return $this->sql->stops($question->table, $question->where, "$question->key: rows");
    }

    /** The same for as long as the same is asked of the rows. */
    public function fingerprint(): string
    {
        return hash('xxh128', serialize(array_map(static fn (RowQuestion $one): string => $one->where, $this->questions)));
    }

    /** How the rows of a question are found, or counted. */
    public function finding(RowQuestion $question, bool $count = false): string
    {
        return 'SELECT '.($count ? 'COUNT(*) AS found' : '*').' FROM '.$this->sql->writing->placed($question->table)." WHERE $question->where";
    }

    /** How much there is to do, in words. */
    public function inWords(): string
    {
        return [] === $this->steps ? 'Nothing has to change.' : Amount::of(\count($this->steps), 'step');
    }
}
