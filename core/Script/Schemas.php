<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/**
 * What a script has made so far, and the schema in which it is at work.
 *
 * @phpstan-import-type Far from TableBuilder
 */
final class Schemas
{
    /** @var array<string, array<string, TableBuilder>> schema → name → table, in the order of the script */
    public array $tables = [];
    /** @var array<string, TableBuilder> temporary ones, which stand before those of the same name and are gone in the end */
    public array $temporary = [];
    /** @var list<RoutineBuilder> */
    public array $routines = [];
    /** @var array<string, OwnType> types of one's own, by key of the place where they were made */
    public array $types = [];
    /** @var array<string, array{string, string}> sequences: schema and name, by the key under which columns know them */
    public array $sequences = [];
    /** @var array<string, string> place of each partition, which is no entry of its own → that of its table */
    public array $partitions = [];
    /** @var array<string, string> extension → its schema */
    public array $extensions = [];
    /** @var array<string, array<string, true>> schema → names that are taken by relations and constraints */
    private array $taken = [];
    /** @var array<string, string> schema → default collation, where one was said */
    public array $collations = [];
    /** @var array<string, true> schemas that the script made */
    public array $made = [];
    /** @var list<string> schemas in which a name without one is looked for, the first of them takes what is made */
    public array $path;
    /** @var array<string, string> operators of one's own → schema */
    public array $operators = [];
    /** @var array<string, true> databases beside the one that the script makes */
    public array $attached = [];
    /** @var array<string, Table> tables that were read elsewhere, by name */
    public array $beside = [];
    /** @var list<string> what was noticed while a statement was carried out, in sentences */
    public array $notes = [];

    public function __construct(public readonly Grammar $dialect, public string $schema)
    {
        $this->path = [$schema];
    }

    /** @return array{string, string} schema and name, where something of that name is made */
    public function place(Tokens $t): array
    {
        [$schema, $name] = $t->qualified();

        return [$schema ?? $this->schema, $name];
    }

    /** A table, view or partition by the name that comes next; null where there is none. */
    public function sought(Tokens $t): ?TableBuilder
    {
        [$schema, $name] = $t->qualified();

        return $this->find($schema, $name);
    }

    public function find(?string $schema, string $name): ?TableBuilder
    {
        if ((null === $schema || 'temp' === strtolower($schema)) && isset($this->temporary[strtolower($name)])) {
            return $this->temporary[strtolower($name)];
        }
        foreach (null === $schema ? $this->path : [$schema] as $of) {
            $found = $this->tables[$of][$name] ?? null;
            if (null !== $found) {
                return $found;
            }
            foreach ($this->dialect->catalog->tablesInAnyCase ? $this->tables[$of] ?? [] : [] as $known => $table) {
                if (0 === strcasecmp((string) $known, $name)) {
                    return $table;
                }
            }
        }

        return null;
    }

    public function known(Tokens $t, ?string $schema, string $name): TableBuilder
    {
        $place = null === $schema || '' === $schema ? $name : "$schema.$name";

        return $this->find($schema, $name) ?? throw $t->fault(\sprintf('The table “%s” is not known: no statement before this one makes it', $place));
    }

    /** The table that comes next by its name. */
    public function next(Tokens $t): TableBuilder
    {
        return $this->known($t, ...$t->qualified());
    }

    public function put(TableBuilder $table): void
    {
        if ($table->temporary) {
            $this->temporary[strtolower($table->name)] = $table;

            return;
        }
        $table->path = $this->schema;
        unset($this->tables[$table->schema][$table->name]);
        $this->tables[$table->schema][$table->name] = $table;
        $this->take($table->schema, $table->name);
    }

    /** @return list<TableBuilder> */
    public function all(): array
    {
        return array_merge(...array_map(array_values(...), array_values($this->tables)));
    }

    public function take(string $schema, string ...$names): void
    {
        foreach ($names as $name) {
            $this->taken[$schema][$name] = true;
        }
    }

    public function free(string $schema, string ...$names): void
    {
        foreach ($names as $name) {
            unset($this->taken[$schema][$name]);
        }
    }

    /** @return array{TableBuilder, Index}|null an index by its name, and its table */
    public function index(?string $schema, string $name): ?array
    {
        foreach (null === $schema ? $this->path : [$schema] as $of) {
            foreach ($this->tables[$of] ?? [] as $table) {
                $index = $table->index($name, $this->dialect->catalog->tablesInAnyCase);
                if (null !== $index) {
                    return [$table, $index];
                }
            }
        }

        return null;
    }

    /** A name that the engine makes of two others and a label, which nothing else in the schema has. */
    public function named(string $schema, string $first, string $second, string $label): string
    {
        for ($i = 0; true; ++$i) {
            $name = $this->dialect->madeName($first, $second, $label.(0 === $i ? '' : (string) $i));
            if (!isset($this->taken[$schema][$name])) {
                $this->take($schema, $name);

                return $name;
            }
        }
    }

    /**
     * The name of an index that says none, by the columns that it is over.
     *
     * @param list<IndexPart> $parts
     * @param string          $label what the engine ends it with
     */
    public function indexName(TableBuilder $table, array $parts, string $label = 'idx'): string
    {
        $columns = array_map(static fn (IndexPart $part): string => $part->column, $parts);
        if ('first' === $this->dialect->catalog->indexNames) {
            $taken = array_map(static fn (Index $index): string => strtolower($index->name), $table->indexes);
            $stem = $columns[0] ?? '';
            for ($name = $stem, $i = 2; \in_array(strtolower($name), $taken, true) || 'primary' === strtolower($name); ++$i) {
                $name = $stem.'_'.$i;
            }

            return $name;
        }
        if ('all' !== $this->dialect->catalog->indexNames) {
            return $table->name.'_'.implode('_', $columns).'_'.$label;
        }
        $parts = [];
        foreach ($columns as $column) {
            $word = isset($table->columns[$column]) || $table->kind->isView() && 1 === preg_match('/^\w+$/', $column) ? $column
                : self::wordFor($column);
            for ($part = $word, $i = 1; \in_array($part, $parts, true); ++$i) {
                $part = $word.$i;
            }
            $parts[] = $part;
        }

        return $this->named($table->schema, $table->name, implode('_', $parts), $label);
    }

    /** What the engine calls a part of an index that is computed (`FigureIndexColname` of the server). */
    private static function wordFor(string $expression): string
    {
        $bare = ltrim($expression, '( ');

        return match (true) {
            1 === preg_match('/^CASE\b/i', $bare) => 'case',
            1 === preg_match('/^"?(\w+)"?\s*::\s*[\w ]+\)*$/', $bare, $m) => strtolower($m[1]),
            1 === preg_match('/^"?(\w+)"?\s*\((?:[^()]|(\((?:[^()]|(?2))*\)))*\)\)*$/', $bare, $m) => strtolower($m[1]),
            default => 'expr',
        };
    }

    public function rename(TableBuilder $table, ?string $schema, string $name): void
    {
        $was = [$table->schema, $table->name];
        if ($table->temporary) {
            unset($this->temporary[strtolower($table->name)]);
            $table->name = $name;
            $this->temporary[strtolower($name)] = $table;

            return;
        }
        unset($this->tables[$was[0]][$was[1]]);
        $this->free($was[0], $was[1]);
        $key = $table->key();
        if (null !== $schema && $schema !== $was[0]) {
            // What it refers to stays where it is.
            $table->foreign = array_map(static fn (array $foreign): array => ['schema' => $foreign['schema'] ?? $was[0]] + $foreign, $table->foreign);
        }
        $table->schema = $schema ?? $table->schema;
        $table->name = $name;
        $this->tables[$table->schema][$name] = $table;
        $this->take($table->schema, $name);
        foreach ($this->partitions as $partition => $of) {
            unset($this->partitions[$partition]);
            $this->partitions[$partition === $key ? $table->key() : $partition] = $of === $key ? $table->key() : $of;
        }
        foreach ($this->all() as $other) {
            $other->parents = array_map(static fn (string $parent): string => $parent === $key ? $table->key() : $parent, $other->parents);
            foreach ($other->foreign as $i => $foreign) {
                if ($this->leadsTo($other, $foreign, $was[0], $was[1])) {
                    $other->foreign[$i]['table'] = $name;
                    $other->foreign[$i]['schema'] = null === $foreign['schema'] && $other->schema === $table->schema ? null : $table->schema;
                }
            }
        }
    }

    /** @param Far $foreign */
    public function leadsTo(TableBuilder $from, array $foreign, string $schema, string $name): bool
    {
        return ($foreign['schema'] ?? $from->schema) === $schema
            && ($foreign['table'] === $name || ($this->dialect->catalog->tablesInAnyCase && 0 === strcasecmp($foreign['table'], $name)));
    }

    /** Takes a table away, with what cannot be without it. */
    public function drop(TableBuilder $table, bool $cascade): void
    {
        if ($table->temporary) {
            unset($this->temporary[strtolower($table->name)]);

            return;
        }
        unset($this->tables[$table->schema][$table->name]);
        $this->free($table->schema, $table->name, ...array_map(static fn (Index $index): string => $index->name, $table->indexes), ...array_map(
            static fn (CheckConstraint $check): string => $check->name,
            $table->checks,
        ), ...array_map(static fn (array $foreign): string => (string) $foreign['name'], $table->foreign));
        $key = $table->key();
        foreach ($this->partitions as $partition => $of) {
            if ($of === $key) {
                unset($this->partitions[$partition]);
                $part = $this->tables[explode("\0", $partition)[0]][explode("\0", $partition)[1]] ?? null;
                if (null !== $part) {
                    $this->drop($part, true);
                }
            }
        }
        unset($this->partitions[$key]);
        foreach ($table->columns as $column) {
            if (null !== $column->sequence && 'owned' === ($this->owners[$column->sequence] ?? '')) {
                unset($this->sequences[$column->sequence]);
            }
        }
        if (!$cascade || !$this->dialect->structure->cascades) {
            return;
        }
        foreach ($this->all() as $other) {
            $other->foreign = array_values(array_filter(
                $other->foreign,
                fn (array $foreign): bool => !$this->leadsTo($other, $foreign, $table->schema, $table->name),
            ));
            if (\in_array($key, $other->parents, true)) {
                $this->drop($other, true);
            } elseif ($other->kind->isView() && $this->views($other, $table)) {
                $this->drop($other, true);
            }
        }
    }

    /** @var array<string, string> sequence → 'owned', where it goes with its column */
    public array $owners = [];

    /** Whether a view's query names a table. */
    public function views(TableBuilder $view, TableBuilder $table): bool
    {
        if (null === $view->definition || !isset($this->tables[$view->schema][$view->name])) {
            return false;
        }
        $t = new Tokens($view->definition, $this->dialect);
        while (!$t->over()) {
            if ($t->isName() && '.' !== $t->peek(-1)) {
                [$schema, $name] = $t->qualified();
                if ($name === $table->name && ($schema ?? $view->path) === $table->schema && '(' !== $t->peek()) {
                    return true;
                }
                continue;
            }
            $t->skip();
        }

        return false;
    }

    public function attach(TableBuilder $parent, TableBuilder $part): void
    {
        $this->partitions[$part->key()] = $parent->key();
    }

    public function isPartition(TableBuilder $table): bool
    {
        return isset($this->partitions[$table->key()]);
    }

    /** @return list<TableBuilder> those that inherit from it, directly or not, and its partitions */
    public function below(TableBuilder $table): array
    {
        $found = [];
        foreach ($this->all() as $other) {
            if (\in_array($table->key(), $other->parents, true) || ($this->partitions[$other->key()] ?? '') === $table->key()) {
                array_push($found, $other, ...$this->below($other));
            }
        }

        return $found;
    }

    public function inherit(TableBuilder $table, TableBuilder $parent): void
    {
        $table->parents[] = $parent->key();
        $columns = [];
        foreach ($parent->columns as $column) {
            $own = $table->columns[$column->name] ?? null;
            $merged = null === $own ? clone $column : $own;
            if (null === $own) {
                $merged->local = false;
                $merged->inherited = 0;
                $merged->auto = $column->auto && !$column->identity;
                $merged->identity = false;
                $merged->comment = '';
            } else {
                $merged->default ??= $column->default;
                $merged->sequence ??= $column->sequence;
            }
            $merged->nullable = $merged->nullable && $column->nullable && !\in_array($column->name, $parent->primary->columns ?? [], true);
            ++$merged->inherited;
            $columns[$column->name] = $merged;
        }
        $table->columns = $columns + $table->columns;
        foreach ($parent->checks as $check) {
            if (!isset($parent->ownChecks[$check->name]) && [] === array_filter(
                $table->checks,
                static fn (CheckConstraint $own): bool => $own->name === $check->name,
            )) {
                $table->checks[] = $check;
            }
        }
    }

    /**
     * @param Far $key
     *
     * @return list<string>
     */
    public function primaryOf(array $key): array
    {
        if (isset($this->beside[$key['table']])) {
            return $this->beside[$key['table']]->primaryKey->columns ?? [];
        }
        foreach (null === $key['schema'] ? array_keys($this->tables) : [$key['schema']] as $schema) {
            $table = $this->find((string) $schema, $key['table']);
            if (null !== $table) {
                return $table->primary->columns ?? [];
            }
        }

        return [];
    }

    /** What an engine keeps beside what was made: tables of its own, and those behind virtual ones, which are its affair. */
    public function isShadow(TableBuilder $table): bool
    {
        $rules = $this->dialect->catalog;
        if ('' !== $rules->ownPrefix && str_starts_with($table->name, $rules->ownPrefix)) {
            return true;
        }

        return '' !== $rules->shadows && 1 === preg_match("/^(.+)_(?:$rules->shadows)$/", $table->name, $m)
            && true === ($this->tables[$table->schema][$m[1]] ?? null)?->virtual;
    }

    /** The key of a type of one's own by the name that a script gives it: `mood`, `public.mood`, `"Mood"`; null for one of the engine. */
    public function typeKey(string $written): ?string
    {
        $parts = array_map(
            static fn (string $part): string => str_starts_with($part, '"') ? str_replace('""', '"', substr($part, 1, -1)) : $part,
            preg_split('/\.(?=(?:[^"]*"[^"]*")*[^"]*$)/', $written) ?: [$written],
        );
        $name = (string) end($parts);
        foreach (\count($parts) > 1 ? [$parts[\count($parts) - 2]] : array_unique([...$this->path, $this->schema]) as $schema) {
            $key = $schema."\0".$name;
            if (isset($this->types[$key])) {
                return $key;
            }
        }
        if (1 === \count($parts)) {
            foreach ($this->types as $key => $type) {
                if ($type->name === $name) {
                    return $key;
                }
            }
        }

        return null;
    }

    /** A type of one's own as the catalog writes it. */
    public function typeText(string $key): string
    {
        $bare = rtrim($key, '[]');
        $type = $this->types[$bare] ?? null;
        $array = $bare === $key ? '' : '[]';
        if (null === $type) {
            return str_replace("\0", '.', $bare).$array;
        }

        return ('' === $type->schema ? '' : $this->dialect->quotedName($type->schema).'.').$this->dialect->quotedName($type->name).$array;
    }

    /** What a type of one's own stands for; null for a composite one. */
    public function baseOf(string $key): ?string
    {
        $members = ($this->types[$key] ?? null)?->members;
        if (null !== $members) {
            $quoted = array_map(static fn (string $member): string => Quotes::around($member, "'"), $members);

            return 'enum('.implode(',', $quoted).')';
        }
        $base = ($this->types[$key] ?? null)?->base;
        if (null === $base || !str_starts_with($base, "\x02")) {
            return $base;
        }
        $of = substr($base, 1);

        return null !== ($this->types[$of] ?? null)?->members ? $this->baseOf($of) : $this->typeText($of);
    }

    /** A type that an extension brings along has its schema. */
    public function extended(string $type): string
    {
        if ([] === $this->extensions || !$this->dialect->structure->storageBefore || 1 !== preg_match('/^([a-z_][a-z0-9_]*)(.*)$/s', $type, $m)
            || $this->dialect->knowsType($type)) {
            return $type;
        }
        $schema = $this->extensions[$m[1]] ?? reset($this->extensions);

        return str_starts_with($m[2], '.') ? $type : $this->dialect->quotedName($schema).'.'.$type;
    }

    /** The columns of a table that a query makes. */
    public function columnsOf(TableBuilder $table, string $query, Tokens $t): void
    {
        $table->query = $query;
        (new Queried($this))->columns($table, $t);
    }

    /** The key of a sequence by its name, made known where it is not. */
    public function sequence(?string $schema, string $name): string
    {
        foreach ($this->sequences as $key => [$ofSchema, $known]) {
            if ($known === $name && (null === $schema ? \in_array($ofSchema, $this->path, true) : $ofSchema === $schema)) {
                return $key;
            }
        }
        $key = ($schema ?? $this->schema)."\0".$name;
        $this->sequences[$key] = [$schema ?? $this->schema, $name];

        return $key;
    }

    public function inSchema(string $name): bool
    {
        $this->schema = $name;
        $this->path = [$name];

        return true;
    }

    /** @param list<string> $schemas as they are written */
    public function searchPath(array $schemas): bool
    {
        $path = array_values(array_filter($schemas, static fn (string $schema): bool => '' !== $schema && '$user' !== $schema));
        $this->path = [] === $path ? [$this->dialect->defaultSchema] : $path;
        $this->schema = $this->path[0];

        return true;
    }

    /** Replaces a name in all that is known of a schema. */
    public function renameSchema(string $was, string $is): void
    {
        foreach ($this->tables[$was] ?? [] as $table) {
            $this->rename($table, $is, $table->name);
        }
        foreach ($this->sequences as $key => [$schema, $name]) {
            if ($schema === $was) {
                $this->sequences[$key] = [$is, $name];
            }
        }
        foreach ($this->types as $type) {
            $type->schema = $type->schema === $was ? $is : $type->schema;
        }
        foreach ($this->routines as $routine) {
            if ($routine->schema === $was) {
                $routine->schema = $is;
            }
        }
        unset($this->tables[$was], $this->made[$was]);
        $this->made[$is] = true;
    }
}
