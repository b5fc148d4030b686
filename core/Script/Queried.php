<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Readings;
use Fasti\Core\Sql\Tokens;

/** Columns of tables and views that follow from a query. */
final readonly class Queried
{
    public function __construct(private Schemas $made)
    {
    }

    /** Columns of CREATE TABLE … AS, by the tables as they are at that moment. */
    public function columns(TableBuilder $table, Tokens $t): void
    {
        $catalog = $this->catalog();
        $asView = new Table(
            $table->schema, $table->name, TableType::View, columns: array_map(static fn (string $name): Column => new Column($name, ''), $table->named),
            definition: $table->query,
        );
        $readings = new Readings($catalog->with(tables: [...$catalog->tables, $asView]), $this->made->dialect);
        $reading = $readings->of($asView);
        $columns = $readings->columnsOf($asView);
        if ([] === $columns) {
            $this->made->notes[] = \sprintf('The columns of the table “%s” follow from a query that could not be read', $table->name);

            return;
        }
        $seen = [];
        foreach ($columns as $i => $column) {
            $field = $reading->fields[$i] ?? null;
            $name = $this->made->dialect->queriedName($column->name, $seen);
            $seen[] = $name;
            $new = $table->columns[$name] ?? new ColumnBuilder($name);
            $of = null !== $field && $field->unchanged && isset($field->values[0]) ? $this->direct($field->values[0]) : null;
            if (!isset($table->columns[$name])) {
                if ($this->made->dialect->catalog->keepsOfQuery) {
                    $this->kept($new, $column, $of);
                } else {
                    $this->plain($new, $column, $field);
                }
            }
            if ('' === $new->type && !$this->made->dialect->catalog->rowids) {
                $this->made->notes[] = \sprintf('The type of the column “%s” of the table “%s” does not follow from its query', $name, $table->name);
            }
            $table->columns[$name] = $new;
        }
    }

    private function plain(ColumnBuilder $new, Column $column, ?ReadField $field): void
    {
        $typed = !$this->made->dialect->catalog->rowids || null === $field || $field->unchanged || 1 === preg_match('/^CAST\s*\(/i', $field->expression);
        $new->type = $typed ? $this->made->dialect->queriedType($column->type) : '';
        if (null !== $column->base) {
            $new->base = $column->base;
        }
        if (!$this->made->dialect->catalog->rowids) {
            $new->collation = $column->collation;
        }
    }

    /** MySQL's family keeps what it can of a column that a query shows as it is. */
    private function kept(ColumnBuilder $new, Column $column, ?ColumnBuilder $of): void
    {
        $new->type = $column->type;
        $new->nullable = $column->nullable;
        if (null === $of) {
            return;
        }
        $new->charset = $of->charset;
        $new->collation = $of->collation;
        $new->comment = $of->comment;
        $new->type = $of->type;
        $new->default = $of->auto ? '0' : $of->default;
        $new->nullable = $of->nullable;
        if (!$new->nullable && null === $new->default && $of->auto) {
            $new->default = '0';
        }
    }

    private function direct(FieldPlace $place): ?ColumnBuilder
    {
        return $this->made->tables[$place->schema][$place->table]->columns[$place->column] ?? null;
    }

    private function catalog(): Catalog
    {
        $finishing = new Finishing($this->made->dialect, $this->made);
        $tables = [];
        foreach ([...$this->made->all(), ...array_values($this->made->temporary)] as $table) {
            $copy = clone $table;
            if (!$copy->temporary) {
                $finishing->table($copy);
            }
            if ($copy->temporary) {
                $copy->schema = $this->made->schema;
            }
            $tables[] = $copy->table($this->made->primaryOf(...));
        }

        return new Catalog($this->made->dialect->engine, '', $tables);
    }
}
