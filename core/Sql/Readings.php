<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Survey\Uncollected;

/** Reads the views of a catalog, each after those that it is made of, and queries over them. */
final class Readings
{
    private readonly Tables $tables;
    private readonly Grammar $dialect;
    /** @var array<string, Reading|null> by key of the place; null while it is being read */
    private array $read = [];
    /** @var array<string, Table> views by key of their place */
    private array $views = [];
    /** @var array<string, true> those whose columns follow from their query, by key */
    private array $needy = [];

    public function __construct(private readonly Catalog $catalog, ?Grammar $dialect = null)
    {
        $this->dialect = $dialect ?? Dialects::ofCatalog($catalog)->grammar() ?? new Grammar();
        $this->tables = new Tables($catalog, $this->dialect);
        foreach ($catalog->tables as $table) {
            if ($table->kind->isView() && null !== $table->definition) {
                $this->views[$table->place()->key()] = $table;
                if ($this->needs($table)) {
                    $this->needy[$table->place()->key()] = true;
                }
            }
        }
    }

    /** @return array<string, Reading> by key of the place */
    public function all(): array
    {
        return Uncollected::run(function (): array {
            $all = [];
            foreach ($this->views as $key => $view) {
                $all[$key] = $this->of($view);
            }

            return $all;
        });
    }

    public function of(Table $view): Reading
    {
        $key = $view->place()->key();
        if (isset($this->read[$key])) {
            return $this->read[$key];
        }
        $this->read[$key] = null;
        $unknown = $this->before($view);
        $reading = $this->read(
            (string) $view->definition,
            $view->schema,
            array_map(static fn (Column $column): string => $column->name, $view->columns),
            $unknown,
        );
        $this->read[$key] = $reading;
        if (\in_array('', array_map(static fn (Column $column): string => $column->type, $view->columns), true) || [] === $view->columns) {
            $this->tables->complete($view->with(columns: $this->columns($view, $reading)));
        }

        return $reading;
    }

    /** A query that is no view. */
    public function query(string $sql, string $schema = ''): Reading
    {
        foreach (array_keys($this->needy) as $key) {
            $this->of($this->views[$key]);
        }

        return Uncollected::run(fn (): Reading => $this->read($sql, '' === $schema ? $this->dialect->defaultSchema : $schema, []));
    }

    /**
     * @return list<Column> those of a view, with the types that follow from its query where the catalog does not say them
     */
    public function columnsOf(Table $view): array
    {
        return $this->columns($view, $this->of($view));
    }

    private function needs(Table $view): bool
    {
        return [] === $view->columns || \in_array('', array_map(static fn (Column $column): string => $column->type, $view->columns), true);
    }

    /**
     * Reads the views that one is made of, where their columns follow from that.
     *
     * @return list<Unknown>
     */
    private function before(Table $view): array
    {
        if ([] === $this->needy || !preg_match_all('/[\w\x80-\xff$]+/', (string) $view->definition, $words)) {
            return [];
        }
        $unknown = [];
        foreach (array_unique($words[0]) as $word) {
            $other = $this->tables->find(null, $word, $view->schema) ?? $this->tables->find(null, strtolower($word), $view->schema);
            if (null === $other) {
                continue;
            }
            $key = $other->place()->key();
            if (!isset($this->needy[$key]) || $key === $view->place()->key()) {
                continue;
            }
            if (!\array_key_exists($key, $this->read)) {
                $this->of($this->views[$key]);
            } elseif (null === $this->read[$key]) {
                $unknown[] = new Unknown(0, \sprintf('The view is made of itself, by way of %s', $other->place()));
            }
        }

        return $unknown;
    }

    /**
     * @param list<string>  $names   that its fields have
     * @param list<Unknown> $unknown
     */
    private function read(string $sql, string $schema, array $names, array $unknown = []): Reading
    {
        try {
            [$query, $faults] = Parser::query($sql, $this->dialect);
        } catch (SqlFault $e) {
            return new Reading($sql, false, unknown: [...$unknown, new Unknown($e->offset, $e->getMessage())], open: true);
        }
        $resolver = new Resolver($this->tables, $this->dialect, $schema, $sql);
        $block = $resolver->query($query, null);
        $byPlace = $resolver->unknown;
        foreach ($faults as $fault) {
            $byPlace[$fault->offset] = new Unknown($fault->offset, $fault->getMessage());
        }
        ksort($byPlace);
        $places = new Places();
        $fields = (new Listing($resolver, $places))->fields($query, $block, $names);
        $resolver->close();

        return new Reading(
            $sql,
            true,
            $fields,
            $places->all($block->conditions),
            $places->all($resolver->references),
            array_values($resolver->tables),
            array_map(
                static fn (array $join): ReadJoin => new ReadJoin(
                    $join[0],
                    array_map(static fn (array $pair): array => [$places->of($pair[0]), $places->of($pair[1])], array_values($join[1])),
                ),
                array_values($resolver->joins),
            ),
            [...$unknown, ...array_values($byPlace)],
            array_map($places->of(...), $resolver->fieldAt),
            $resolver->tableAt,
            $block->open,
        );
    }

    /** @return list<Column> */
    private function columns(Table $view, Reading $reading): array
    {
        $columns = [];
        foreach ($reading->fields as $i => $field) {
            $said = $view->columns[$i] ?? null;
            if (null !== $said && '' !== $said->type) {
                $columns[] = $said;
                continue;
            }
            $of = $field->unchanged && isset($field->values[0]) ? $this->tables->find(
                $field->values[0]->schema,
                $field->values[0]->table,
                '',
            )?->column($field->values[0]->column) : null;
            $type = $field->type ?? '';
            $columns[] = new Column(
                $said->name ?? $field->name,
                $type,
                !$this->dialect->catalog->viewsTellRequired || false !== $field->nullable,
                null,
                '' === ($said->comment ?? '') && $this->dialect->catalog->keepsOfQuery ? $of->comment ?? '' : ($said->comment ?? ''),
                charset: null,
                collation: $this->dialect->catalog->viewsKeepCollations && $of?->type === $type ? $of->collation : null,
                base: $this->tables->typing->bases[$type] ?? null,
            );
        }

        return $columns;
    }
}
