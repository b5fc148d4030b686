<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\TypeText;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Item;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\TableRef;

/**
 * What still says the names of before, in views, conditions, computed fields and triggers, says the new ones. Text that nobody has to touch
 * stays letter for letter as it is.
 */
final class Following
{
    /** @var list<string> what cannot be followed, in sentences */
    public array $left = [];
    /** @var list<string> which fields take the type of the key that they lead to, in sentences */
    public array $typed = [];
    private readonly Grammar $grammar;
    private ?Readings $old = null;
    private ?Readings $new = null;
    /** @var array<string, string> key of a place under its old name → key of the place after */
    private array $tables = [];
    /** @var array<string, array<string, string>> key of a place under its old name → old name of a field → its name after */
    private array $columns = [];

    public function __construct(
        private readonly Catalog $before,
        private readonly Catalog $after,
        private readonly Matching $matching,
        private readonly ScriptSql $writing,
        ?Grammar $grammar,
    ) {
        $this->grammar = $grammar ?? new Grammar();
        foreach ($after->tables as $table) {
            if (!$table->kind->isView()) {
                $this->named($table->place()->key());
            }
        }
    }

    /** What a table and its fields were called: as it was said, even where a change that stopped half way has renamed some already. */
    private function named(string $is): void
    {
        $was = array_search($is, $this->matching->tables, true);
        $taken = array_search($is, $this->matching->taken, true);
        $old = match (true) {
            false !== $taken => $taken,
            false !== $was => $was,
            default => $is,
        };
        $this->tables[$old] = $is;
        $this->columns[$old] = false === $was ? [] : array_map(strval(...), $this->matching->columns[$was]);
        foreach ($this->matching->formerly[$is] ?? [] as $after => $before) {
            unset($this->columns[$old][$after]);
            $this->columns[$old][$before] = $after;
        }
    }

    /** The structure of after under the names of before. */
    private function underOldNames(): Catalog
    {
        $tables = [];
        foreach ($this->after->tables as $table) {
            $old = array_search($table->place()->key(), $this->tables, true);
            $names = false === $old ? [] : array_map(strval(...), array_flip($this->columns[$old]));
            [$schema, $name] = false === $old ? [$table->schema, $table->name] : explode("\0", (string) $old, 2);
            $tables[] = $table->with(schema: $schema, name: $name, columns: array_map(
                static fn (Column $column): Column => $column->with(name: $names[$column->name] ?? $column->name), $table->columns,
            ));
        }

        return $this->after->with(tables: $tables);
    }

    /** The catalog of after, with new names wherever it says old ones. */
    public function followed(): Catalog
    {
        $tables = [];
        foreach ($this->after->tables as $table) {
            $tables[] = $table->kind->isView() ? $table : $this->table($table);
        }
        $tables = $this->childrenFollow($tables);
        // Views are read over tables that are whole already.
        $tables = array_map(fn (Table $table): Table => $table->kind->isView() ? $this->view($table) : $table, $tables);
        $followed = $this->after->with(tables: $tables);
        $readings = new Readings($followed, $this->grammar);

        return $followed->with(tables: array_map(static fn (Table $table): Table => !$table->kind->isView() || null === $table->definition ? $table
            : $table->with(columns: $readings->columnsOf($table)), $tables));
    }

    // ---- what a table says of its own fields ----

    private function table(Table $table): Table
    {
        $table = $this->typed($table);
        $renamed = $this->renamed($table);
        if ([] === $renamed) {
            return $table;
        }

        $said = fn (string $sql): string => self::replaced($sql, $renamed, $this->grammar, $this->writing);
        $told = fn (string $sql): string => self::replaced($sql, $renamed, $this->grammar, $this->writing, ['NEW', 'OLD']);

        return $table->with(
            columns: array_map(static fn (Column $column): Column => null === $column->generated ? $column : $column->with(
                generated: new Generated($said($column->generated->expression), $column->generated->stored),
            ), $table->columns),
            checks: array_map(static fn (CheckConstraint $check): CheckConstraint => new CheckConstraint(
                $check->name, $said($check->expression), $check->column,
            ), $table->checks),
            indexes: array_map(static fn (Index $index): Index => null === $index->where ? $index : new Index(
                $index->name, $index->parts, $index->unique, $index->method, $index->comment, $said($index->where),
            ), $table->indexes),
            triggers: array_map(static fn (Trigger $trigger): Trigger => new Trigger(
                $trigger->name, $trigger->timing, $trigger->event, $told($trigger->body), $told($trigger->statement),
            ), $table->triggers),
        );
    }

    /**
     * What leads to a key is of its type: some engines refuse anything else, and all compare more slowly.
     *
     * @param list<Table> $tables
     *
     * @return list<Table>
     */
    private function childrenFollow(array $tables): array
    {
        $byPlace = [];
        foreach ($tables as $table) {
            $byPlace[$table->place()->key()] = $table;
        }
        // A key may itself lead on to another: so often until all have followed.
        for ($round = 0, $changed = true; $changed && $round < 20; ++$round) {
            $changed = false;
            foreach ($byPlace as $place => $table) {
                foreach ($table->foreignKeys as $lead) {
                    $far = $byPlace[$lead->references->place()->key()] ?? null;
                    foreach ($lead->columns as $i => $name) {
                        $own = $byPlace[$place]->column($name);
                        $key = $far?->column($lead->references->columns[$i] ?? '');
                        if (null === $far || null === $own || null === $key || $own === $key || null !== $own->generated) {
                            continue;
                        }
                        if ($this->isWider($own, $key, $table, $far, $lead)) {
                            $byPlace[$place] = $byPlace[$place]->with(columns: array_map(
                                static fn (Column $one): Column => $one->name === $name ? $one->with(type: $key->type) : $one, $byPlace[$place]->columns,
                            ));
                            $this->typed[] = \sprintf('%s.%s is %s, as %s.%s is, to which it leads.', $table->name, $name, $key->type, $far->name, $key->name);
                            $changed = true;
                        }
                    }
                }
            }
        }

        return array_values($byPlace);
    }

    /**
     * Whether the key that a field leads to has become of another type than the field, which has stayed what it was. What was of another type than its
     * key all along stays so.
     */
    private function isWider(Column $own, Column $key, Table $table, Table $far, ForeignKey $lead): bool
    {
        if (TypeText::folded($own->type) === TypeText::folded($key->type)) {
            return false;
        }
        $old = $this->columnBefore($table, $own->name);
        $oldKey = $this->columnBefore($far, $key->name);
        if (null === $old || !\in_array(TypeText::folded($old->type), [TypeText::folded($own->type), TypeText::folded($key->type)], true)) {
            return false;
        }
        $was = array_search($table->place()->key(), $this->matching->tables, true);
        $map = $this->matching->columns[$was] ?? [];
        $there = array_filter($this->before->table(...explode("\0", (string) $was, 2))->foreignKeys ?? [], static fn (ForeignKey $one): bool => array_map(
            static fn (string $name): string => (string) ($map[$name] ?? ''), $one->columns,
        ) === $lead->columns);

        // Where a change stopped half way, the reference is gone, and the field or its key may have become another already.
        return [] === $there || null !== $oldKey && TypeText::folded($old->type) === TypeText::folded($oldKey->type);
    }

    private function columnBefore(Table $table, string $name): ?Column
    {
        $was = array_search($table->place()->key(), $this->matching->tables, true);
        $before = false === $was ? null : $this->before->table(...explode("\0", $was, 2));

        return $before?->column((string) array_search($name, $this->matching->columns[$was] ?? [], true));
    }

    /** Types that differ in capital letters alone are written as they are there. */
    private function typed(Table $table): Table
    {
        $key = array_search($table->place()->key(), $this->matching->tables, true);
        $was = false === $key ? null : $this->before->table(...explode("\0", (string) $key, 2));
        $back = false === $key ? [] : array_flip($this->matching->columns[$key]);

        return null === $was ? $table : $table->with(columns: array_map(static function (Column $column) use ($was, $back): Column {
            $old = $was->column((string) ($back[$column->name] ?? ''));

            return null !== $old && $old->type !== $column->type && TypeText::folded($old->type) === TypeText::folded($column->type)
                ? $column->with(type: $old->type) : $column;
        }, $table->columns));
    }

    /** @return array<string, string> name before → name after, of fields whose old name means no other field by now */
    private function renamed(Table $table): array
    {
        $old = array_search($table->place()->key(), $this->tables, true);
        $renamed = [];
        foreach (false === $old ? [] : $this->columns[$old] as $before => $after) {
            if ($before !== $after && null === $table->column((string) $before)) {
                $renamed[(string) $before] = $after;
            }
        }

        return $renamed;
    }

    /**
     * An expression with other names for fields.
     *
     * @param array<string, string> $renamed name → what stands in its place: a name, or, where it holds more than that, SQL
     * @param list<string>          $behind  only what stands behind one of these words and a dot; anything where there is none
     */
    public static function replaced(string $sql, array $renamed, Grammar $grammar, ScriptSql $writing, array $behind = [], bool $asSql = false): string
    {
        try {
            $t = new Tokens($sql, $grammar);
        } catch (SqlFault) {
            return $sql;
        }
        $known = [];
        foreach ($renamed as $name => $new) {
            $known[$grammar->queries->anyCase ? mb_strtolower((string) $name) : (string) $name] = $new;
        }
        $edits = [];
        for ($i = 0, $n = \count($t->kinds); $i < $n; ++$i) {
            $t->at = $i;
            $dotted = '.' === ($t->texts[$i - 1] ?? '');
            $fits = [] === $behind ? !$dotted && '(' !== ($t->texts[$i + 1] ?? '') && '.' !== ($t->texts[$i + 1] ?? '')
                : $dotted && \in_array($t->words[$i - 2] ?? '', $behind, true);
            if (!$fits || !\in_array($t->kinds[$i], [Lexer::WORD, Lexer::QUOTED], true)) {
                continue;
            }
            $name = $t->peekName();
            $new = $known[$grammar->queries->anyCase ? mb_strtolower($name) : $name] ?? null;
            if (null !== $new) {
                $edits[] = [$t->offsets[$i], $t->offsets[$i] + \strlen($t->texts[$i]), $asSql ? $new : $writing->name($new)];
            }
        }

        return self::edited($sql, $edits);
    }

    /** @param list<array{int, int, string}> $edits from, to and what stands there instead */
    private static function edited(string $text, array $edits): string
    {
        usort($edits, static fn (array $a, array $b): int => $b[0] <=> $a[0] ?: $b[1] <=> $a[1]);
        foreach ($edits as [$from, $to, $new]) {
            $text = substr($text, 0, $from).$new.substr($text, $to);
        }

        return $text;
    }

    // ---- views ----

    private function view(Table $view): Table
    {
        if (null === $view->definition) {
            return $view;
        }
        $this->new ??= new Readings($this->after, $this->grammar);
        $unknown = $this->new->of($view)->unknown;
        if ([] === $unknown) {
            return $view;
        }
        $this->old ??= new Readings($this->underOldNames(), $this->grammar);
        $reading = $this->old->query($view->definition, $view->schema);
        if (!$reading->read || [] !== $reading->unknown) {
            $this->left[] = \sprintf('The view %s says something that is not there: %s.', $view->name, rtrim($unknown[0]->what, '.'));

            return $view;
        }

        return $view->with(definition: self::edited($view->definition, $this->edits($view, $reading)));
    }

    /** @return list<array{int, int, string}> */
    private function edits(Table $view, Reading $reading): array
    {
        [$query] = Parser::query((string) $view->definition, $this->grammar);
        $edits = [];
        $this->within($query, $reading, (string) $view->definition, $edits);

        return $edits;
    }

    /** @param list<array{int, int, string}> $edits */
    private function within(mixed $node, Reading $reading, string $text, array &$edits): void
    {
        if ($node instanceof Item && null === $node->name && $node->value instanceof Ref && null !== $this->fieldFor($node->value, $reading)) {
            // What it shows keeps its name.
            $edits[] = [$node->value->end, $node->value->end, ' AS '.$this->writing->name($node->value->names[\count($node->value->names) - 1])];
        }
        if ($node instanceof Ref) {
            $new = $this->fieldFor($node, $reading);
            if (null !== $new) {
                $edits[] = [$this->lastWord($text, $node), $node->end, $this->writing->name($new)];
            }
        } elseif ($node instanceof TableRef) {
            $place = $reading->tableAt[$node->at] ?? null;
            $is = null === $place ? null : ($this->tables[$place->key()] ?? null);
            $table = null === $is || $is === $place->key() ? null : $this->tableAt($is);
            if (null !== $table) {
                $edits[] = $this->tableEdit($node, $text, $table);
            }
        }
        foreach (match (true) {
            $node instanceof Node => get_object_vars($node),
            \is_array($node) => $node,
            default => [],
        } as $part) {
            if ($part instanceof Node || \is_array($part)) {
                $this->within($part, $reading, $text, $edits);
            }
        }
    }

    /** @return array{int, int, string} */
    private function tableEdit(TableRef $node, string $text, Table $table): array
    {
        $t = new Tokens(substr($text, $node->at, $node->end - $node->at), $this->grammar);
        $written = $t->qualified();
        $end = $node->at + $t->ended();
        $name = null === $written[0] ? $this->writing->name($table->name) : $this->writing->placed($table->place());

        return [$node->at, $end, null === $node->alias ? $name.' AS '.$this->writing->name($node->names[\count($node->names) - 1]) : $name];
    }

    /** Where the last part of a name begins. */
    private function lastWord(string $text, Ref $ref): int
    {
        $t = new Tokens(substr($text, $ref->at, $ref->end - $ref->at), $this->grammar);

        return $ref->at + $t->offsets[\count($t->offsets) - 1];
    }

    /** What the field that a name means is called by now; null where it is called the same. */
    private function fieldFor(Expression $ref, Reading $reading): ?string
    {
        $field = $ref instanceof Ref ? ($reading->fieldAt[$ref->at] ?? null) : null;
        $new = null === $field ? null : ($this->columns[$field->place()->key()][$field->column] ?? null);

        return null === $field || $new === $field->column ? null : $new;
    }

    private function tableAt(string $key): ?Table
    {
        foreach ($this->after->tables as $table) {
            if ($table->place()->key() === $key) {
                return $table;
            }
        }

        return null;
    }
}
