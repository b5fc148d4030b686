<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\ScriptOptions;

/** Writes a view from a choice of fields along the joins of a design; what may be missing keeps its row. */
final class ViewSql
{
    public function __construct(private readonly Physical $physical)
    {
    }

    public function of(DesignView $view): ?Table
    {
        $worked = $this->physical->worked;
        $from = $worked->ofThing($view->of);
        if (null === $from || [] === $view->shows) {
            $this->physical->findings[] = null === $from
                ? new DesignFinding('view', $view->line, \sprintf('The view “%s” is over “%s”, which no thing is called.', $view->name, $view->of),
                    'Name a thing of this design.', $view->name, '', true)
                : new DesignFinding('view', $view->line, \sprintf('The view “%s” shows nothing yet.', $view->name),
                    'Say what it shows, a line each: “shows name of its school”.', $view->name, '', true);

            return null;
        }
        $sql = $this->physical->dialect->writing();
        $identifiers = new Identifiers($worked->design->rules, $this->physical->dialect->longestName());
        $joins = $list = $columns = [];
        $taken = [];
        foreach ($view->shows as $shown) {
            $found = $this->followed($view, $from, $shown['path'], $joins);
            if (null === $found) {
                return null;
            }
            [$table, $alias] = $found;
            $column = null;
            foreach ($table->columns as $key => $each) {
                if (Names::key($each->name) === Names::key($shown['attribute'])) {
                    $column = $key;
                }
            }
            if (null === $column) {
                $this->missing($view, \sprintf('%s has no “%s”.', $table->name, $shown['attribute']));

                return null;
            }
            $plain = '' !== $shown['as'] ? $identifiers->column($shown['as']) : $this->physical->columns[$table->key][$column];
            $as = $plain;
            for ($n = 2; isset($taken[$as]); ++$n) {
                $as = $plain.'_'.$n;
            }
            $taken[$as] = true;
            $columns[] = new Column($as, $this->physical->types[$table->key][$column]);
            $list[] = $alias.'.'.$sql->name($this->physical->columns[$table->key][$column]).' AS '.$sql->name($as);
        }
        $query = "SELECT\n  ".implode(",\n  ", $list)."\nFROM ".$this->placed($from).' t'
            .implode('', array_map(static fn (array $join): string => "\n".$join[1], $joins));

        return new Table($this->physical->schemaOf($from->schema), $identifiers->table($view->name), TableType::View, $view->meaning, $columns,
            definition: $query);
    }

    /**
     * Where a path leads, each step of which becomes a join once.
     *
     * @param list<string>                          $path
     * @param array<string, array{string, string}> $joins alias and SQL by the way there
     *
     * @return array{WorkedTable, string}|null the table and its alias; null, with a finding, where it leads nowhere
     */
    private function followed(DesignView $view, WorkedTable $table, array $path, array &$joins): ?array
    {
        $sql = $this->physical->dialect->writing();
        $alias = 't';
        $way = '';
        foreach ($path as $step) {
            $reference = $this->step($table, $step);
            if (null === $reference) {
                $this->missing($view, \sprintf('%s leads to no “%s”, or to several of them.', $table->name, $step));

                return null;
            }
            $way .= '/'.$step;
            $next = $this->physical->worked->tables[$reference->to];
            if (!isset($joins[$way])) {
                $name = 't'.(\count($joins) + 1);
                $on = [];
                foreach ($reference->columns as $i => $column) {
                    $on[] = $name.'.'.$sql->name($this->physical->columns[$next->key][$reference->toColumns[$i]])
                        .' = '.$alias.'.'.$sql->name($this->physical->columns[$table->key][$column]);
                }
                $joins[$way] = [$name, 'LEFT JOIN '.$this->placed($next).' '.$name.' ON '.implode(' AND ', $on)];
            }
            $table = $next;
            $alias = $joins[$way][0];
        }

        return [$table, $alias];
    }

    private function placed(WorkedTable $table): string
    {
        // A design that names no schema of its own leaves it to whoever runs the script.
        return $this->physical->dialect->writing(new ScriptOptions(places: true))->placed(new Place($table->schema, $this->physical->tables[$table->key]));
    }

    private function step(WorkedTable $table, string $name): ?WorkedReference
    {
        $key = Names::key($name);
        $byRole = array_values(array_filter($table->references, static fn (WorkedReference $each): bool => Names::key($each->role) === $key));
        if (1 === \count($byRole)) {
            return $byRole[0];
        }
        $found = array_values(
            array_filter($table->references, fn (WorkedReference $each): bool => Names::key($this->physical->worked->tables[$each->to]->name) === $key),
        );

        return 1 === \count($found) ? $found[0] : null;
    }

    private function missing(DesignView $view, string $words): void
    {
        $this->physical->findings[] = new DesignFinding(
            'view',
            $view->line,
            \sprintf('The view “%s”: %s', $view->name, $words),
            'Name an attribute of the thing, or of what it leads to.',
            $view->name,
            '',
            true,
        );
    }
}
