<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;

/**
 * A table while its script is still being read: later statements may add to it, change it, or take from it.
 *
 * @phpstan-type Far array{name: ?string, columns: non-empty-list<string>, schema: ?string, table: string, far: list<string>, onDelete: string,
 *     onUpdate: string}
 */
final class TableBuilder
{
    /** @var array<string, ColumnBuilder> by name, in order */
    public array $columns = [];
    public ?Key $primary = null;
    /** @var list<Key> */
    public array $unique = [];
    /** @var list<Far> */
    public array $foreign = [];
    /** @var list<Index> */
    public array $indexes = [];
    /** @var list<CheckConstraint> */
    public array $checks = [];
    /** @var list<Trigger> */
    public array $triggers = [];
    public string $comment = '';
    public ?string $definition = null;
    /** Of a table that a query made. */
    public ?string $query = null;
    public ?string $storage = null;
    public ?string $charset = null;
    public ?string $collation = null;
    /** @var list<string> */
    public array $traits = [];
    public ?string $partitionKey = null;
    public int $partitions = 0;
    public bool $secured = false;
    public bool $virtual = false;
    /** @var array<string, string|int|float|bool> further facts of the table, by the name of the member */
    public array $facts = [];
    public bool $temporary = false;
    public bool $withoutRowid = false;
    /** @var list<string> */
    public array $policies = [];
    /** @var list<string> keys of the places of those that it inherits from */
    public array $parents = [];
    /** In SQLite a primary key may hold nothing, unless it says otherwise. */
    public bool $keyMayBeEmpty = false;
    /** Its key is no row number, though it looks like one. */
    public bool $withoutAlias = false;
    /** @var list<string> names that a view gives to its columns */
    public array $named = [];
    /** @var array<string, string> columns of a view that were given other names: as its query calls them → new name */
    public array $renamed = [];
    /** @var array<string, string> comments on columns of a view, by their names */
    public array $said = [];
    /** @var array<string, array{string, string}> periods: the columns that say from when and to when */
    public array $periods = [];
    /** @var array<string, true> names of indexes that the engine made for foreign keys */
    public array $made = [];
    /** @var array<string, true> names of keys that the engine gave */
    public array $unnamed = [];
    /** @var array<string, true> names of foreign keys that have their index */
    public array $served = [];
    /** @var array<string, true> names of checks that are not passed on to tables that inherit */
    public array $ownChecks = [];
    /** The database's own schema of the search path when it was made: what its expressions say without a schema. */
    public string $path = '';

    public function __construct(public string $schema, public string $name, public TableType $kind)
    {
    }

    public function __clone()
    {
        $this->columns = array_map(static fn (ColumnBuilder $column): ColumnBuilder => clone $column, $this->columns);
    }

    public function key(): string
    {
        return $this->schema."\0".$this->name;
    }

    /** The name under which a column is known, in whatever case where the engine takes them for the same. */
    public function columnNamed(string $name, bool $anyCase): ?string
    {
        if (isset($this->columns[$name])) {
            return $name;
        }
        foreach ($anyCase ? array_keys($this->columns) : [] as $known) {
            if (0 === strcasecmp((string) $known, $name)) {
                return (string) $known;
            }
        }

        return null;
    }

    public function index(string $name, bool $anyCase = false): ?Index
    {
        foreach ($this->indexes as $index) {
            if ($index->name === $name || ($anyCase && 0 === strcasecmp($index->name, $name))) {
                return $index;
            }
        }

        return null;
    }

    public function renameIndex(string $was, string $is): void
    {
        $this->indexes = array_map(
            static fn (Index $i): Index => 0 === strcasecmp($i->name, $was) ? new Index($is, $i->parts, $i->unique, $i->method, $i->comment, $i->where) : $i,
            $this->indexes,
        );
        $this->unique = array_map(static fn (Key $key): Key => 0 === strcasecmp((string) $key->name, $was) ? new Key($is, $key->columns) : $key, $this->unique);
        if (null !== $this->primary && $this->primary->name === $was) {
            $this->primary = new Key($is, $this->primary->columns);
        }
        unset($this->made[$was], $this->unnamed[$was]);
    }

    /** @return bool whether there was one */
    public function dropIndex(string $name): bool
    {
        $count = \count($this->indexes) + \count($this->unique);
        $this->indexes = array_values(array_filter($this->indexes, static fn (Index $index): bool => 0 !== strcasecmp($index->name, $name)));
        $this->unique = array_values(array_filter($this->unique, static fn (Key $key): bool => null === $key->name || 0 !== strcasecmp($key->name, $name)));
        unset($this->made[$name]);

        return $count > \count($this->indexes) + \count($this->unique);
    }

    /** @param string|null $after name of the column before it, '' for the first place, null for the last */
    public function place(ColumnBuilder $column, ?string $after, ?string $instead = null): void
    {
        if (null !== $instead && null === $after) {
            $columns = [];
            foreach ($this->columns as $name => $each) {
                $columns[$name === $instead ? $column->name : $name] = $name === $instead ? $column : $each;
            }
            $this->columns = $columns;

            return;
        }
        if (null !== $instead) {
            unset($this->columns[$instead]);
        }
        unset($this->columns[$column->name]);
        if (null === $after) {
            $this->columns[$column->name] = $column;

            return;
        }
        $at = '' === $after ? 0 : (int) array_search($after, array_map(strval(...), array_keys($this->columns)), true) + 1;
        $this->columns = \array_slice($this->columns, 0, $at, true) + [$column->name => $column] + \array_slice($this->columns, $at, null, true);
    }

    /** @param callable(Far): list<string> $primaryOf the key that a reference without columns means */
    public function table(callable $primaryOf): Table
    {
        $byName = static fn (ForeignKey|Index|Key|Trigger $a, ForeignKey|Index|Key|Trigger $b): int => strcmp($a->name ?? '', $b->name ?? '');
        $foreign = [];
        foreach ($this->foreign as $key) {
            $far = [] === $key['far'] ? $primaryOf($key) : $key['far'];
            // Where the other table is not there, or has no such key, what it means to lead to is not known.
            $far = \count($far) === \count($key['columns']) ? $far : array_fill(0, \count($key['columns']), '');
            $foreign[] = new ForeignKey(
                $key['name'],
                $key['columns'],
                new Reference($key['schema'] ?? $this->schema, $key['table'], $far),
                $key['onDelete'],
                $key['onUpdate'],
            );
        }
        usort($foreign, $byName);
        usort($this->indexes, $byName);
        usort($this->unique, $byName);
        usort($this->triggers, $byName);
        if ($this->kind->isView()) {
            // What else they are follows from the query, once all tables are known.
            $this->columns = [];
            foreach ($this->named as $name) {
                $this->columns[$name] = new ColumnBuilder($name);
            }
        }
        $primary = $this->keyMayBeEmpty ? [] : $this->primary->columns ?? [];

        $table = new Table(
            $this->schema,
            $this->name,
            $this->kind,
            $this->comment,
            array_map(
                fn (ColumnBuilder $column): Column => $column->column(\in_array($column->name, $primary, true), $this->collation),
                array_values($this->columns),
            ),
            $this->primary,
            $this->unique,
            $foreign,
            $this->indexes,
            $this->checks,
            $this->triggers,
            null,
            null,
            $this->definition,
            $this->storage,
            $this->collation,
            $this->traits,
            virtual: $this->virtual,
        );

        return [] === $this->facts ? $table : $table->with(...$this->facts);
    }

    /** @param list<IndexPart> $parts */
    public static function isWhole(array $parts): bool
    {
        return [] === array_filter($parts, static fn (IndexPart $part): bool => null !== $part->length);
    }
}
