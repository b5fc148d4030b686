<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Typing;

/** The tables of a catalog, found as its engine finds them. */
final class Tables
{
    /** @var array<string, array<string, Table>> by schema and name */
    private array $exact = [];
    /** @var array<string, list<Table>> by folded name */
    private array $folded = [];
    /** @var array<string, list<Routine>> by folded name */
    private array $routines = [];
    /** How expressions over them get their types. */
    public readonly Typing $typing;
    /** @var array<string, Table> views whose columns came from their reading, by key of their place */
    private array $completed = [];

    public function __construct(public readonly Catalog $catalog, private readonly Grammar $dialect)
    {
        $this->typing = $dialect->typing();
        foreach ($catalog->tables as $table) {
            $this->exact[$table->schema][$table->name] = $table;
            $this->folded[mb_strtolower($table->name)][] = $table;
            foreach ($table->columns as $column) {
                if (null !== $column->base) {
                    $this->typing->bases[$column->type] = $column->base;
                }
            }
        }
        foreach ($catalog->routines as $routine) {
            $this->routines[mb_strtolower($routine->name)][] = $routine;
        }
    }

    /**
     * @param ?string $schema null where the query says none
     * @param string  $own    the schema of the view itself
     */
    public function find(?string $schema, string $name, string $own): ?Table
    {
        $found = null !== $schema ? ($this->exact[$schema][$name] ?? null)
            : $this->exact[$own][$name] ?? $this->exact[$this->dialect->defaultSchema][$name] ?? null;
        if (null === $found) {
            $like = $this->folded[mb_strtolower($name)] ?? [];
            $any = $this->dialect->queries->anyCase;
            $fits = array_values(array_filter($like, static fn (Table $table): bool => ($any || $table->name === $name)
                && (null === $schema || $table->schema === $schema || ($any && mb_strtolower($table->schema) === mb_strtolower($schema)))));
            $near = array_values(array_filter($fits, static fn (Table $table): bool => $table->schema === $own));
            // A search path that is not known here may lead to another schema, but not to one of two.
            $found = $near[0] ?? (1 === \count($fits) ? $fits[0] : null);
        }

        return null === $found ? null : $this->completed[$found->schema."\0".$found->name] ?? $found;
    }

    public function complete(Table $view): void
    {
        $this->completed[$view->schema."\0".$view->name] = $view;
    }

    public function routine(?string $schema, string $name): ?Routine
    {
        $found = array_values(array_filter(
            $this->routines[mb_strtolower($name)] ?? [],
            static fn (Routine $routine): bool => null === $schema || mb_strtolower($routine->schema) === mb_strtolower($schema),
        ));

        return $found[0] ?? null;
    }
}
