<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Generated;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Dialect\TypeText;

/** Brings what a script has made into the form in which the engine's own catalog writes it. */
final readonly class Finishing
{
    /** @var array<string, string> types of one's own by the names that a script may use → with their schema */
    private array $types;
    /** @var array<string, string> such a type with its schema → what it stands for */
    private array $bases;
    /** @var array<string, array{string, string}> */
    private array $functions;
    /** @var array<string, string> */
    private array $relations;

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
        $types = $bases = $functions = [];
        foreach ($made->types as $key => $type) {
            $full = $made->typeText($key);
            $types[$type->name] = $types[$type->schema.'.'.$type->name] = $full;
            $base = $made->baseOf($key);
            if (null !== $base) {
                $bases[$full] = $base;
            }
        }
        foreach ($made->routines as $routine) {
            $functions[$routine->name] = [$routine->schema, (string) $routine->returns];
        }
        $relations = [];
        foreach ($made->sequences as [$schema, $name]) {
            $relations[$name] = $schema;
        }
        $this->types = $types;
        $this->bases = $bases;
        $this->functions = $functions;
        $this->relations = $relations;
    }

    public function table(TableBuilder $table): void
    {
        $this->columns($table);
        $around = $this->around($table);
        foreach ($table->columns as $column) {
            if (null !== $column->generated && !str_starts_with($column->generated->expression, 'ROW ')) {
                $column->generated = new Generated($this->dialect->expression($column->generated->expression, $around), $column->generated->stored);
            }
            if (null !== $column->sequence) {
                $sequence = $this->made->sequences[$column->sequence] ?? null;
                $column->default = null === $sequence ? null : $this->dialect->numberedBy(...$sequence);
            } elseif (null !== $column->default) {
                $type = $column->type;
                $column->default = $this->dialect->default($column->default, $type, $around);
            }
        }
        $this->keys($table);
        $this->checks($table, $around);
        $this->indexes($table, $around);
        $this->traits($table, $around);
    }

    /** @param bool $raw types of one's own are not yet written out */
    public function around(TableBuilder $table, bool $raw = false): Surroundings
    {
        $columns = [];
        foreach ($table->columns as $column) {
            $columns[$column->name] = $raw ? $this->typeOf($column) : $column->type;
        }

        return new Surroundings($columns, $this->types, $this->bases, $this->functions, $this->made->operators, $this->relations);
    }

    /** The type of a column as the catalog writes it. */
    public function typeOf(ColumnBuilder $column): string
    {
        return null === $column->ownType ? $column->type : $this->made->typeText($column->ownType);
    }

    private function columns(TableBuilder $table): void
    {
        foreach ($table->columns as $column) {
            if (null === $column->ownType) {
                $column->type = $this->made->extended($column->type);
                continue;
            }
            $key = rtrim($column->ownType, '[]');
            $array = $key === $column->ownType ? '' : '[]';
            $column->type = $this->made->typeText($key).$array;
            $base = $this->made->baseOf($key);
            $column->base = null === $base || ('' !== $array && null !== ($this->made->types[$key] ?? null)?->base) ? null : $base.$array;
            if ('' !== $array) {
                continue;
            }
            foreach (($this->made->types[$key] ?? null)->checks ?? [] as $check) {
                $around = new Surroundings(['VALUE' => (string) $base, 'value' => (string) $base], $this->types, $this->bases, $this->functions);
                $table->checks[] = new CheckConstraint($check->name, "\x06".$this->dialect->expression($check->expression, $around), $column->name);
            }
        }
    }

    private function keys(TableBuilder $table): void
    {
        if (!$this->dialect->catalog->rowids) {
            return;
        }
        $key = $table->primary->columns ?? [];
        $rowid = !$table->withoutRowid;
        $alias = $rowid && 1 === \count($key) && !$table->withoutAlias && 'INTEGER' === strtoupper(($table->columns[$key[0]] ?? null)->type ?? '');
        $table->keyMayBeEmpty = $rowid && !$alias && !\in_array('STRICT', $table->traits, true);
        if ($alias) {
            $table->columns[$key[0]]->auto = true;
        }
    }

    private function checks(TableBuilder $table, Surroundings $around): void
    {
        foreach ($table->checks as $i => $check) {
            $expression = $check->expression;
            if (str_starts_with($expression, "\x06")) {
                $expression = substr($expression, 1);
            } elseif (str_starts_with($expression, 'EXCLUDE ')) {
                $expression = (string) preg_replace_callback('/\x03(.*?)\x03/', fn (array $m): string => isset($around->columns[$m[1]])
                    ? $this->dialect->quotedName($m[1]) : $this->dialect->expression($m[1], $around), $expression);
                $expression = (string) preg_replace_callback(
                    '/\x04(.*?)\x04/s',
                    fn (array $m): string => $this->dialect->expression($m[1], $around),
                    $expression,
                );
            } else {
                $expression = $this->dialect->expression($expression, $around);
            }
            $table->checks[$i] = new CheckConstraint($check->name, $expression, $check->column);
        }
        foreach ($table->checks as $i => $check) {
            if ('' === $check->name) {
                $taken = array_map(static fn (CheckConstraint $other): string => $other->name, $table->checks);
                $table->checks[$i] = new CheckConstraint($this->dialect->checkName($table->name, $taken), $check->expression, $check->column);
            }
        }
        $table->checks = array_values($table->checks);
        if ($this->dialect->catalog->rowids) {
            // Those of columns stand before those of the table, also where a column comes later.
            $table->checks = [
                ...array_filter($table->checks, static fn (CheckConstraint $check): bool => null !== $check->column),
                ...array_filter($table->checks, static fn (CheckConstraint $check): bool => null === $check->column),
            ];
        }
        if ($this->dialect->catalog->checksByName) {
            usort($table->checks, static fn (CheckConstraint $a, CheckConstraint $b): int => strcmp($a->name, $b->name));
        }
    }

    private function indexes(TableBuilder $table, Surroundings $around): void
    {
        $lengths = [];
        foreach ($table->columns as $column) {
            $text = TypeText::of($column->type);
            $lengths[$column->name] = 1 === preg_match('/^(?:var)?(?:char|binary)$/', $text->name) ? $text->first() : null;
        }
        foreach ($table->indexes as $i => $index) {
            $parts = array_map(fn (IndexPart $part): IndexPart => new IndexPart(
                isset($around->columns[$part->column]) || $table->kind->isView() ? $part->column : $this->dialect->indexed($part->column, $around),
                null !== $part->length && ($lengths[$part->column] ?? null) === $part->length ? null : $part->length,
                $part->descending,
            ), $index->parts);
            $where = null === $index->where ? null : $this->dialect->expression($index->where, $around);
            $method = $this->dialect->indexMethod($index, array_map(static fn (IndexPart $part): string => $around->columns[$part->column] ?? '', $parts));
            $table->indexes[$i] = new Index($index->name, $parts, $index->unique, $method, $index->comment, $where);
            if ($index->unique && $this->dialect->catalog->uniqueIndexesAreKeys && TableBuilder::isWhole($parts) && !TableBuilder::isWhole($index->parts)
                && $index->name !== $this->dialect->primaryIndexName($table->primary->name ?? null)) {
                $columns = IndexDefinitions::columnsOf($parts);
                if ([] !== $columns) {
                    $table->unique[] = new Key($index->name, $columns);
                }
            }
        }
    }

    private function traits(TableBuilder $table, Surroundings $around): void
    {
        foreach ($table->parents as $parent) {
            $table->traits[] = 'inherits from '.str_replace("\0", '.', $parent);
        }
        if (null !== $table->partitionKey
            && '' !== ($words = $this->dialect->partitionedWords($this->dialect->partitionKey($table->partitionKey, $around), $table->partitions))) {
            $table->traits[] = $words;
        }
        if ($table->secured) {
            sort($table->policies);
            $table->traits[] = $this->dialect->securedWords($table->policies);
        }
    }
}
