<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Readings;

/** The views of a catalog, each after those that it reads. */
final readonly class ViewOrder
{
    /** @var array<string, Table> by Place::key(), in an order in which they can be made */
    public array $views;
    /** @var array<string, list<string>> key of a view → keys of the tables and views that it reads */
    public array $reads;

    public function __construct(Catalog $catalog, ?Grammar $grammar)
    {
        $views = $reads = [];
        foreach ($catalog->tables as $table) {
            if ($table->kind->isView()) {
                $views[$table->place()->key()] = $table;
            }
        }
        $readings = [] === $views ? null : new Readings($catalog, $grammar);
        foreach ($views as $key => $view) {
            $reading = $readings?->of($view);
            $named = array_map(static fn (Place $place): string => $place->key(), $reading->tables ?? []);
            // What is not understood may read whatever it names.
            $reads[$key] = null !== $reading && $reading->read && [] === $reading->unknown ? $named : [...$named, ...self::mentioned($view, $catalog)];
        }
        $ordered = [];
        foreach (array_keys($views) as $key) {
            self::visit($key, $views, $reads, $ordered, []);
        }
        $this->views = $ordered;
        $this->reads = $reads;
    }

    /** @return list<string> */
    private static function mentioned(Table $view, Catalog $catalog): array
    {
        $found = [];
        foreach ($catalog->tables as $table) {
            if ($table !== $view && ColumnChanges::mentions((string) $view->definition, $table->name)) {
                $found[] = $table->place()->key();
            }
        }

        return $found;
    }

    /**
     * @param array<string, Table>        $views
     * @param array<string, list<string>> $reads
     * @param array<string, Table>        $ordered
     * @param list<string>                $within those that are on the way: a loop is left where it closes
     */
    private static function visit(string $key, array $views, array $reads, array &$ordered, array $within): void
    {
        if (isset($ordered[$key]) || \in_array($key, $within, true)) {
            return;
        }
        foreach ($reads[$key] ?? [] as $other) {
            if (isset($views[$other])) {
                self::visit($other, $views, $reads, $ordered, [...$within, $key]);
            }
        }
        $ordered[$key] = $views[$key];
    }

    /**
     * All views that read some of these, or views that do.
     *
     * @param array<string, true> $touched keys of tables and views
     *
     * @return array<string, true>
     */
    public function reading(array $touched): array
    {
        $found = [];
        // Each stands after what it reads, so that one way through finds all.
        foreach (array_keys($this->views) as $key) {
            foreach ($this->reads[$key] ?? [] as $other) {
                if (isset($touched[$other]) || isset($found[$other])) {
                    $found[$key] = true;
                }
            }
        }

        return $found;
    }
}
