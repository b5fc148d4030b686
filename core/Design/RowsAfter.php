<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;

/** What the fields of a row will hold after a change, as SQL over the row as it is before. */
final class RowsAfter
{
    /** @var array<string, string|null> */
    private array $known = [];
    /** @var array<string, true> */
    private array $within = [];
    /** @var array<string, bool> by the name of a field: nothing that somebody wrote has gone into its value but comparisons of fields */
    private array $plainly = [];
    /** The same, of all that was said since somebody set it. */
    public bool $plain = true;

    /** @param array<string, string> $back column after → column before */
    public function __construct(private readonly Changes $all, private readonly Table $was, private readonly Table $is, private readonly array $back)
    {
    }

    /** @return ?string null where nobody can say: the database numbers it */
    public function value(string $name): ?string
    {
        if (!\array_key_exists($name, $this->known)) {
            $column = $this->is->column($name);
            $before = $this->plain;
            $this->plain = true;
            $this->known[$name] = null === $column || isset($this->within[$name]) ? null : $this->of($column);
            $this->plainly[$name] = $this->plain;
            $this->plain = $before;
        }
        $this->plain = $this->plain && $this->plainly[$name];

        return $this->known[$name];
    }

    private function of(Column $column): ?string
    {
        if (null !== $column->generated) {
            $this->within[$column->name] = true;
            $expression = $this->expression($column->generated->expression);
            unset($this->within[$column->name]);

            return null === $expression ? null : "($expression)";
        }
        $old = isset($this->back[$column->name]) ? $this->was->column($this->back[$column->name]) : null;
        [$filling, $said] = $this->all->columns->filling($this->is, $column, true);
        $this->plain = $this->plain && (!$said || PlainSql::is($filling, $this->all->dialect->grammar()));
        if (null === $old || null !== $old->generated) {
            $filling = $said || !$column->nullable ? $filling : 'NULL';

            return $column->autoNumbered ? null : $filling;
        }
        // With the table before it: it may stand within a query over another that has such a field, too.
        $value = $this->all->sql->writing->name($this->was->name).'.'.$this->all->sql->writing->name($old->name);
        $cast = $old->type === $column->type ? null : $this->all->sql->cast($value, $old, $column);
        if (null !== $cast) {
            $value = $cast->none ? 'NULL' : $cast->sql;
        }

        return !$column->nullable && ($old->nullable || null !== $cast?->loses) ? "COALESCE($value, $filling)" : $value;
    }

    /** An expression over the fields of the table as it will be; null where one of them cannot be said. */
    public function expression(string $sql): ?string
    {
        $this->plain = $this->plain && PlainSql::is($sql, $this->all->dialect->grammar());
        $values = [];
        foreach ($this->is->columns as $column) {
            if (ColumnChanges::mentions($sql, $column->name)) {
                $value = $this->value($column->name);
                if (null === $value) {
                    return null;
                }
                $values[$column->name] = $value;
            }
        }

        return Following::replaced($sql, $values, $this->all->dialect->grammar() ?? new Grammar(), $this->all->sql->writing, [], true);
    }
}
