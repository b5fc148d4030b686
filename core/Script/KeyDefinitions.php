<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Primary and unique keys, and references to those of other tables. */
final readonly class KeyDefinitions
{
    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $all)
    {
    }

    /** @param list<string> $columns */
    public function require(TableBuilder $table, array $columns): void
    {
        foreach ($this->dialect->catalog->rowids ? [] : $columns as $name) {
            if (isset($table->columns[$name])) {
                $table->columns[$name]->nullable = false;
            }
        }
    }

    /** @param list<string> $columns */
    private function renameKept(TableBuilder $table, array $columns, ?string $name): void
    {
        $kept = $columns === ($table->primary->columns ?? null)
            ? $table->primary
            : array_values(array_filter($table->unique, static fn (Key $key): bool => $key->columns === $columns))[0] ?? null;
        if (null === $name || null === $kept || !isset($table->unnamed[(string) $kept->name])) {
            return;
        }
        $this->made->free($table->schema, (string) $kept->name);
        $this->made->take($table->schema, $name);
        $table->renameIndex((string) $kept->name, $name);
    }

    private function isNew(TableBuilder $table): bool
    {
        return null === $this->made->find($table->schema, $table->name);
    }

    /** @param list<string> $columns */
    private function repeats(TableBuilder $table, array $columns): bool
    {
        return $columns === ($table->primary->columns ?? null) || [] !== array_filter($table->unique, static fn (Key $key): bool => $key->columns === $columns);
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail
     */
    public function primary(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = IndexDefinitions::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        foreach ($this->dialect->catalog->namesChecksAtOnce && $this->isNew($table) ? $table->unique : [] as $key) {
            if ($key->columns === $columns) {
                $table->dropIndex((string) $key->name);
                $this->made->free($table->schema, (string) $key->name);
                // Of two equal keys, the primary one stays, by the name that either of them says.
                $name ??= isset($table->unnamed[(string) $key->name]) ? null : $key->name;
            }
        }
        $said = $this->dialect->primaryKeyName($table->name, $name);
        $made = new Key(null === $name && null !== $said ? $this->made->named($table->schema, $table->name, '', 'pkey') : $said, $columns);
        $table->primary = $made;
        if (null === $name) {
            $table->unnamed[(string) $made->name] = true;
        }
        $this->require($table, $columns);
        if ($this->dialect->catalog->keysAreIndexes) {
            $index = $this->dialect->primaryIndexName($made->name);
            if ($this->dialect->catalog->indexesForeignKeys) {
                $this->all->indexes->replaceMade($table, $columns, $parts);
            }
            $table->indexes[] = new Index($index, $parts, true, $tail[1] ?: 'btree', $tail[0]);
            $this->made->take($table->schema, $index);
        }
    }

    /**
     * @param list<IndexPart>       $parts
     * @param array{string, string} $tail  comment and method
     */
    public function unique(TableBuilder $table, ?string $name, array $parts, array $tail): void
    {
        $columns = IndexDefinitions::columnsOf($parts);
        if ([] === $columns) {
            return;
        }
        if ($this->dialect->catalog->namesChecksAtOnce && $this->isNew($table) && $this->repeats($table, $columns)) {
            // The engine keeps one of two equal keys of a statement, by the name that one of them says.
            $this->renameKept($table, $columns, $name);

            return;
        }
        if (null === $name) {
            $unnamed = true;
        }
        if ($this->dialect->catalog->indexesForeignKeys) {
            $this->all->indexes->replaceMade($table, $columns, $parts);
        }
        if (null === $name && $this->dialect->catalog->keysAreIndexes) {
            $name = $this->made->indexName($table, $parts, 'key');
        }
        if (isset($unnamed)) {
            $table->unnamed[(string) $name] = true;
        }
        $parts = $this->dialect->indexParts($parts, $tail[1]);
        if (TableBuilder::isWhole($parts)) {
            $table->unique[] = new Key($name, $columns);
        }
        if ($this->dialect->catalog->keysAreIndexes) {
            $table->indexes[] = new Index((string) $name, $parts, true, $tail[1] ?: 'btree', $tail[0]);
            $this->made->take($table->schema, (string) $name);
        }
    }

    /** @param list<string> $columns */
    public function references(Tokens $t, TableBuilder $table, ?string $name, array $columns): void
    {
        $t->expect('REFERENCES');
        [$schema, $far] = $t->qualified();
        $farColumns = '(' === $t->peek() ? $t->names() : [];
        $unsaid = $this->dialect->catalog->unsaidAction;
        $onDelete = $unsaid;
        $onUpdate = $unsaid;
        while (true) {
            if ($t->take('ON', 'DELETE')) {
                $onDelete = $this->action($t);
            } elseif ($t->take('ON', 'UPDATE')) {
                $onUpdate = $this->action($t);
            } elseif ($t->take('MATCH')) {
                $t->skip();
            } elseif (!$this->deferral($t)) {
                break;
            }
        }
        if ([] === $columns) {
            throw $t->fault('A foreign key names no column');
        }
        $target = $this->made->find($schema, $far);
        if (null === $target && 0 === strcasecmp($far, $table->name) && ($schema ?? $table->schema) === $table->schema) {
            $target = $table;
        }
        if (null !== $target) {
            // A name without a schema may be found in another than this table's.
            $schema = $target->schema === $table->schema && null === $schema ? null : $target->schema;
            $far = $this->dialect->catalog->keepsReferenceNames ? $far : $target->name;
            $farColumns = array_map(fn (string $column): string => $this->dialect->catalog->keepsReferenceNames ? $column
                : $target->columnNamed($column, $this->dialect->queries->anyCase) ?? $column, $farColumns);
            if ([] === $farColumns && !$this->dialect->catalog->keepsReferenceNames) {
                $farColumns = $target->primary->columns ?? [];
            }
        } elseif (null !== $schema && $schema === $table->schema) {
            $schema = null;
        }
        $table->foreign[] = [
            'name' => $name, 'columns' => $columns, 'schema' => $schema, 'table' => $far, 'far' => $farColumns, 'onDelete' => $onDelete,
            'onUpdate' => $onUpdate,
        ];
    }

    private function action(Tokens $t): string
    {
        $action = match (true) {
            $t->take('CASCADE') => 'CASCADE',
            $t->take('RESTRICT') => 'RESTRICT',
            $t->take('SET', 'NULL') => 'SET NULL',
            $t->take('SET', 'DEFAULT') => 'SET DEFAULT',
            $t->take('NO', 'ACTION') => 'NO ACTION',
            default => throw $t->fault('A referential action was expected'),
        };
        if (str_starts_with($action, 'SET') && '(' === $t->peek()) {
            $t->parenthesis();
        }

        return $action;
    }

    public function deferral(Tokens $t): bool
    {
        return $t->take('NOT', 'DEFERRABLE')
            || $t->take('DEFERRABLE')
            || $t->take('INITIALLY', 'DEFERRED')
            || $t->take('INITIALLY', 'IMMEDIATE')
            || $t->take('NOT', 'VALID')
            || $t->take('ENABLE')
            || $t->take('DISABLE') || $t->take('NOT', 'FOR', 'REPLICATION') || $t->take('NOVALIDATE') || $t->take('VALIDATE') || $t->take('RELY');
    }

    /** @return bool whether it is not for those that inherit */
    public function constraintTail(Tokens $t): bool
    {
        $own = false;
        do {
            $from = $t->at;
            $own = $t->take('NO', 'INHERIT') || $own;
            if (!$this->deferral($t) && !$t->take('NOT', 'ENFORCED')) {
                $t->take('ENFORCED');
            }
        } while ($from < $t->at);
        $this->conflict($t);

        return $own;
    }

    public function conflict(Tokens $t): void
    {
        if ($t->take('ON', 'CONFLICT')) {
            $t->skip();
        }
    }

    /**
     * Columns of the table by the names under which it knows them.
     *
     * @param list<string> $names
     *
     * @return list<string>
     */
    public function own(Tokens $t, TableBuilder $table, array $names): array
    {
        return array_map(fn (string $name): string => $table->columnNamed($name, $this->dialect->queries->anyCase) ?? $name, $names);
    }

    /** @return list<IndexPart> over columns of the table by the names under which it knows them */
    public function keyParts(Tokens $t, TableBuilder $table): array
    {
        $parts = [];
        foreach ($this->all->indexes->parts($t) as $part) {
            if (str_starts_with($part->column, "\x08")) {
                [$from, $to] = $table->periods[substr($part->column, 1)] ?? throw $t->fault(\sprintf('There is no period “%s”', substr($part->column, 1)));
                array_push($parts, new IndexPart($to), new IndexPart($from));
                continue;
            }
            $name = $table->columnNamed($part->column, $this->dialect->queries->anyCase) ?? $part->column;
            $length = isset($table->columns[$name]) ? IndexDefinitions::partLength($part->length, $table->columns[$name]->type) : $part->length;
            $parts[] = new IndexPart($name, $length, $part->descending);
        }

        return $parts;
    }

    /** UNIQUE USING INDEX: an index that is there becomes a key. */
    public function usingIndex(Tokens $t, TableBuilder $table, ?string $name, bool $primary): bool
    {
        if (!$t->take('USING', 'INDEX')) {
            return false;
        }
        if ('TABLESPACE' === $t->peek() || $t->over() || ',' === $t->peek()) {
            $t->at -= 2;

            return false;
        }
        $known = $t->qualified()[1];
        $index = $table->index($known) ?? throw $t->fault(\sprintf('The table “%s” has no index “%s”', $table->name, $known));
        $table->dropIndex($known);
        $this->made->free($table->schema, $known);
        $name ??= $known;
        $this->made->take($table->schema, $name);
        $table->indexes[] = new Index($name, $index->parts, true, $index->method, $index->comment, $index->where);
        $columns = IndexDefinitions::columnsOf($index->parts);
        if ([] === $columns) {
            throw $t->fault('The index has no columns');
        }
        $key = new Key($name, $columns);
        if ($primary) {
            $table->primary = $key;
            $this->require($table, $key->columns);
        } else {
            $table->unique[] = $key;
        }
        $this->constraintTail($t);

        return true;
    }

    public function isUnique(Tokens $t, ?string $name): bool
    {
        return '(' === $t->peek(1) || null !== $name || '(' === $t->peek(2) || 'IF' === $t->peek(2) || 'USING' === $t->peek(1) || 'USING' === $t->peek(2)
            || 'USING' === $t->peek(3) || \in_array($t->peek(1), ['KEY', 'INDEX', 'NULLS', 'CLUSTERED', 'NONCLUSTERED'], true);
    }
}
