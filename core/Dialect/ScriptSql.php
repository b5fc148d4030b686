<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\Trigger;

/**
 * Writes the script that makes what a catalog holds. As it stands here it is that of the standard (ISO/IEC 9075-2, clause 11); an
 * engine overrides what it says otherwise. What a catalog does not hold in full cannot be written: missing() says it.
 */
class ScriptSql
{
    /** @var string */
    protected const PLAIN_NAME = '/^[a-z_][a-z0-9_]*$/';

    public function __construct(protected readonly Dialect $dialect, protected readonly ScriptOptions $options = new ScriptOptions())
    {
    }

    /**
     * In an order that runs: what is referred to before what refers to it, keys that close a loop after all tables.
     *
     * @return list<ScriptStatement>
     */
    public function catalog(Catalog $catalog): array
    {
        $tables = self::ordered($catalog);
        $all = $this->options->drop ? $this->drops($catalog, $tables) : [];
        $programs = $this->routines($catalog);
        array_push($all, ...$this->schemas($catalog), ...$this->types($catalog), ...$programs[0]);
        $made = $later = [];
        foreach ($tables as $table) {
            $inline = [];
            foreach ($table->foreignKeys as $key) {
                $there = isset($made[$key->references->place()->key()]) || $key->references->place()->key() === $table->place()->key();
                if ($there || $this->anyOrder()) {
                    $inline[] = $key;
                } else {
                    $later[] = [$table, $key];
                }
            }
            array_push($all, ...$this->table($table, $inline));
            $made[$table->place()->key()] = true;
        }
        foreach ($later as [$table, $key]) {
            $all[] = new ScriptStatement('key', $this->addForeignKey($table, $key), $table->place());
        }
        array_push($all, ...$programs[1]);
        foreach (self::views($catalog) as $view) {
            array_push($all, ...$this->view($view));
        }
        foreach ($catalog->tables as $table) {
            foreach ($table->triggers as $trigger) {
                $all[] = new ScriptStatement('trigger', $this->trigger($table, $trigger), $table->place(), true);
            }
        }

        return $all;
    }

    /**
     * What a catalog does not hold in full, so that its script leaves it out.
     *
     * @return list<string> in sentences
     */
    public function notes(Catalog $catalog): array
    {
        $notes = [];
        foreach ($catalog->tables as $table) {
            foreach ($this->missing($table) as $what) {
                $notes[] = \sprintf('%s: %s. This is not in the script.', $table->place(), $what);
            }
        }
        foreach ($catalog->routines as $routine) {
            if ('' === $routine->statement) {
                $notes[] = \sprintf(
                    'The %s %s is not in the script: what makes it is not known.',
                    $routine->kind,
                    new Place($routine->schema, $routine->name),
                );
            }
        }

        return $notes;
    }

    /** @return list<string> what of a table no script can make from its catalog: partitions, parents, policies */
    public function missing(Table $table): array
    {
        return [...$table->traits, ...($table->virtual ? ['its rows come from a program'] : [])];
    }

    /** @param list<ScriptStatement> $statements */
    public function text(array $statements): string
    {
        $text = '';
        $before = false;
        foreach ($statements as $statement) {
            // What goes over several lines stands apart.
            $tall = \in_array($statement->kind, ['table', 'view', 'trigger', 'routine'], true);
            $text .= ('' !== $text && ($tall || $before) ? "\n" : '').$this->ended($statement)."\n";
            $before = $tall;
        }

        return rtrim($text)."\n";
    }

    protected function ended(ScriptStatement $statement): string
    {
        return rtrim(rtrim($statement->sql), ';').';';
    }

    /** A table may refer to one that is made later. */
    protected function anyOrder(): bool
    {
        return false;
    }

    // ---- names ----

    public function name(string $name): string
    {
        return $this->options->quoted || 1 !== preg_match(static::PLAIN_NAME, $name) || Reserved::has($name) ? $this->dialect->quoted($name) : $name;
    }

    public function placed(Place $place): string
    {
        $schema = $this->options->schema ?? ($this->options->places ? $place->schema : '');

        return ('' === $schema ? '' : $this->name($schema).'.').$this->name($place->name);
    }

    /** @param list<string> $names */
    protected function names(array $names): string
    {
        return implode(', ', array_map($this->name(...), $names));
    }

    public function literal(string $text): string
    {
        return $this->dialect->literal($text);
    }

    // ---- what there is around tables ----

    /** @return list<ScriptStatement> */
    protected function schemas(Catalog $catalog): array
    {
        if (!$this->options->places && null === $this->options->schema) {
            return [];
        }
        $names = null !== $this->options->schema ? [$this->options->schema] : array_unique(
            array_map(static fn (Table $table): string => $table->schema, $catalog->tables),
        );

        return array_values(array_map(
            fn (string $name): ScriptStatement => new ScriptStatement('schema', $this->schema($name)),
            array_filter($names, static fn (string $name): bool => '' !== $name),
        ));
    }

    protected function schema(string $name): string
    {
        return 'CREATE SCHEMA '.$this->name($name);
    }

    /** @return list<ScriptStatement> types that tables of the catalog use */
    protected function types(Catalog $catalog): array
    {
        return [];
    }

    /** @return array{list<ScriptStatement>, list<ScriptStatement>} those that tables need, and the others */
    protected function routines(Catalog $catalog): array
    {
        $expressions = [];
        foreach ($catalog->tables as $table) {
            array_push($expressions, ...array_map(static fn (CheckConstraint $check): string => $check->expression, $table->checks));
            foreach ($table->columns as $column) {
                array_push($expressions, (string) $column->default, (string) $column->generated?->expression);
            }
            foreach ($table->indexes as $index) {
                array_push($expressions, (string) $index->where, ...array_map(static fn (IndexPart $part): string => $part->column, $index->parts));
            }
        }
        $expressions = implode("\n", array_filter($expressions));
        $first = $last = [];
        foreach ($catalog->routines as $routine) {
            $needed = 1 === preg_match('/(?<![\p{L}\p{N}_])'.preg_quote($routine->name, '/').'["`]?\s*\(/u', $expressions);
            foreach ($this->routine($routine) as $statement) {
                if ($needed) {
                    $first[] = $statement;
                } else {
                    $last[] = $statement;
                }
            }
        }

        return [$first, $last];
    }

    /** @return list<ScriptStatement> */
    protected function routine(Routine $routine): array
    {
        return '' === $routine->statement ? [] : [new ScriptStatement('routine', $routine->statement, new Place($routine->schema, $routine->name), true)];
    }

    /**
     * @param list<Table> $tables in the order in which they are made
     *
     * @return list<ScriptStatement>
     */
    protected function drops(Catalog $catalog, array $tables): array
    {
        $drops = [];
        foreach (array_reverse(self::views($catalog)) as $view) {
            $drops[] = new ScriptStatement('drop', $this->dropView($view), $view->place());
        }
        foreach (array_reverse($tables) as $table) {
            $drops[] = new ScriptStatement('drop', $this->dropTable($table), $table->place());
        }

        return $drops;
    }

    public function dropTable(Table $table): string
    {
        return 'DROP TABLE IF EXISTS '.$this->placed($table->place());
    }

    public function dropView(Table $view): string
    {
        return 'DROP '.strtoupper($view->kind->value).' IF EXISTS '.$this->placed($view->place());
    }

    // ---- tables ----

    /**
     * @param list<ForeignKey> $inline those that are said within
     *
     * @return list<ScriptStatement>
     */
    public function table(Table $table, array $inline): array
    {
        $parts = array_map(fn (Column $column): string => $this->column($column, $table), $table->columns);
        if (null !== $table->primaryKey && !$this->keyedInline($table)) {
            $parts[] = $this->primary($table->primaryKey, $table);
        }
        foreach ($table->uniqueKeys as $key) {
            $parts[] = $this->unique($key, $table);
        }
        foreach ($this->keysWithin($table) as $key) {
            $parts[] = $key;
        }
        foreach ($inline as $key) {
            $parts[] = $this->foreignKey($key);
        }
        foreach ($table->checks as $check) {
            if (!$this->checkedInline($check, $table)) {
                $parts[] = $this->check($check);
            }
        }
        $sql = $this->create($table).' '.$this->placed($table->place())." (\n  ".implode(
            ",\n  ",
            array_filter($parts, static fn (string $part): bool => '' !== $part),
        )."\n)".$this->after($table);
        $all = [new ScriptStatement('table', $sql, $table->place())];
        foreach ($table->indexes as $index) {
            if (!$this->isImplied($index, $table)) {
                $all[] = new ScriptStatement('index', $this->index($index, $table), $table->place());
            }
        }
        if ($this->options->comments) {
            array_push(
                $all,
                ...array_map(static fn (string $sql): ScriptStatement => new ScriptStatement('comment', $sql, $table->place()), $this->comments($table)),
            );
        }

        return $all;
    }

    protected function create(Table $table): string
    {
        return 'CREATE TABLE';
    }

    protected function after(Table $table): string
    {
        return '';
    }

    public function column(Column $column, Table $table): string
    {
        $words = [$this->name($column->name), $this->type($column)];
        if (null !== $column->collation) {
            $words[] = 'COLLATE '.$this->collation($column->collation);
        }
        if (null !== $column->generated) {
            $words[] = $this->computed($column);
        } elseif ($column->autoNumbered) {
            $words[] = $this->numbered($column);
        } elseif (null !== $column->default) {
            $words[] = 'DEFAULT '.$this->defaulted($column->default);
        }
        if (!$column->nullable) {
            $words[] = 'NOT NULL';
        }
        foreach ($table->checks as $check) {
            if ($check->column === $column->name && $this->checkedInline($check, $table)) {
                $words[] = $this->columnCheck($check);
            }
        }
        if ($this->keyedInline($table) && [$column->name] === ($table->primaryKey->columns ?? [])) {
            $words[] = $this->inlineKey($column);
        }

        return implode(' ', array_filter($words, static fn (string $word): bool => '' !== $word));
    }

    public function type(Column $column): string
    {
        return $column->type;
    }

    protected function collation(string $collation): string
    {
        return $this->name($collation);
    }

    protected function defaulted(string $default): string
    {
        return $default;
    }

    protected function computed(Column $column): string
    {
        return 'GENERATED ALWAYS AS ('.$column->generated?->expression.')';
    }

    protected function numbered(Column $column): string
    {
        return 'GENERATED BY DEFAULT AS IDENTITY';
    }

    /** The primary key is said of its column. */
    protected function keyedInline(Table $table): bool
    {
        return false;
    }

    protected function inlineKey(Column $column): string
    {
        return 'PRIMARY KEY';
    }

    protected function constraint(?string $name): string
    {
        return null === $name || '' === $name ? '' : 'CONSTRAINT '.$this->name($name).' ';
    }

    public function primary(Key $key, Table $table): string
    {
        return $this->constraint($key->name).'PRIMARY KEY ('.$this->names($key->columns).')';
    }

    public function unique(Key $key, Table $table): string
    {
        return $this->constraint($key->name).'UNIQUE ('.$this->names($key->columns).')';
    }

    /** @return list<string> indexes that are said within their table */
    public function keysWithin(Table $table): array
    {
        return [];
    }

    public function foreignKey(ForeignKey $key): string
    {
        return $this->constraint($key->name).'FOREIGN KEY ('.$this->names($key->columns).') REFERENCES '.$this->placed($key->references->place())
            .' ('.$this->names($key->references->columns).')'.$this->action('DELETE', $key->onDelete).$this->action('UPDATE', $key->onUpdate);
    }

    /** @param string $on DELETE or UPDATE */
    protected function action(string $on, string $action): string
    {
        return 'NO ACTION' === $action ? '' : " ON $on $action";
    }

    public function addForeignKey(Table $table, ForeignKey $key): string
    {
        return 'ALTER TABLE '.$this->placed($table->place()).' ADD '.$this->foreignKey($key);
    }

    public function check(CheckConstraint $check): string
    {
        return $this->constraint($check->name).'CHECK ('.$check->expression.')';
    }

    protected function columnCheck(CheckConstraint $check): string
    {
        return $this->constraint($check->name).'CHECK ('.$check->expression.')';
    }

    protected function checkedInline(CheckConstraint $check, Table $table): bool
    {
        return false;
    }

    /** An index that stands behind a key. */
    protected function isImplied(Index $index, Table $table): bool
    {
        $keys = [...(null === $table->primaryKey ? [] : [$table->primaryKey]), ...$table->uniqueKeys];

        return [] !== array_filter($keys, static fn (Key $key): bool => $key->name === $index->name);
    }

    public function index(Index $index, Table $table): string
    {
        return ($index->unique ? 'CREATE UNIQUE INDEX ' : 'CREATE INDEX ').$this->indexName($index, $table).' ON '.$this->indexed($index, $table)
            .(null === $index->where ? '' : ' WHERE '.$index->where);
    }

    protected function indexName(Index $index, Table $table): string
    {
        return $this->name($index->name);
    }

    protected function indexed(Index $index, Table $table): string
    {
        return $this->placed($table->place()).' ('.$this->parts($index, $table).')';
    }

    protected function parts(Index $index, Table $table): string
    {
        return implode(', ', array_map(fn (IndexPart $part): string => $this->part($part, $table), $index->parts));
    }

    protected function part(IndexPart $part, Table $table): string
    {
        $name = null === $table->column($part->column) ? $this->expression($part->column) : $this->name($part->column);

        return $name.(null === $part->length ? '' : '('.$part->length.')').($part->descending ? ' DESC' : '');
    }

    protected function expression(string $sql): string
    {
        return $sql;
    }

    /** @return list<string> statements that keep the comments of a table and its columns */
    protected function comments(Table $table): array
    {
        return [];
    }

    // ---- views and programs ----

    /** @return list<ScriptStatement> */
    public function view(Table $view): array
    {
        return [
            new ScriptStatement('view', 'CREATE '.strtoupper($view->kind->value).' '.$this->placed($view->place())." AS\n".$view->definition, $view->place()),
        ];
    }

    public function trigger(Table $table, Trigger $trigger): string
    {
        return '' !== $trigger->statement ? $trigger->statement
            : \sprintf(
                "CREATE TRIGGER %s %s %s ON %s\nFOR EACH ROW %s",
                $this->name($trigger->name),
                $trigger->timing,
                $trigger->event,
                $this->placed($table->place()),
                $trigger->body,
            );
    }

    // ---- order ----

    /**
     * Tables after those that they refer to, as far as there is no loop (Kahn, 1962); otherwise as they come.
     *
     * @return list<Table>
     */
    public static function ordered(Catalog $catalog): array
    {
        $tables = [];
        foreach ($catalog->tables as $table) {
            if (!$table->kind->isView()) {
                $tables[$table->place()->key()] = $table;
            }
        }
        $waits = $serves = [];
        foreach ($tables as $key => $table) {
            $waits[$key] = 0;
            foreach ($table->foreignKeys as $foreign) {
                $far = $foreign->references->place()->key();
                if ($far !== $key && isset($tables[$far]) && !isset($serves[$far][$key])) {
                    $serves[$far][$key] = true;
                    ++$waits[$key];
                }
            }
        }
        $ordered = [];
        $ready = array_keys(array_filter($waits, static fn (int $count): bool => 0 === $count));
        while ([] !== $waits) {
            // Of a loop, that which waits for the fewest goes first.
            $ready = [] === $ready ? [array_keys($waits, min($waits), true)[0]] : $ready;
            $key = array_shift($ready);
            if (!isset($waits[$key])) {
                continue;
            }
            unset($waits[$key]);
            $ordered[] = $tables[$key];
            foreach (array_keys($serves[$key] ?? []) as $next) {
                if (isset($waits[$next]) && 0 === --$waits[$next]) {
                    $ready[] = $next;
                }
            }
        }

        return $ordered;
    }

    /**
     * Views after those that their queries name.
     *
     * @return list<Table>
     */
    protected static function views(Catalog $catalog): array
    {
        $left = [];
        foreach ($catalog->tables as $table) {
            if ($table->kind->isView()) {
                $left[$table->place()->key()] = $table;
            }
        }
        $ordered = [];
        while ([] !== $left) {
            $taken = 0;
            foreach ($left as $key => $view) {
                $needs = array_filter($left, static fn (Table $other): bool => $other !== $view && self::speaksOf($view, $other));
                if ([] === $needs) {
                    $ordered[] = $view;
                    unset($left[$key]);
                    ++$taken;
                }
            }
            if (0 === $taken) {
                array_push($ordered, ...array_values($left));
                break;
            }
        }

        return $ordered;
    }

    private static function speaksOf(Table $view, Table $other): bool
    {
        return 1 === preg_match('/(?<![\p{L}\p{N}_])'.preg_quote($other->name, '/').'(?![\p{L}\p{N}_])/iu', (string) $view->definition);
    }
}
