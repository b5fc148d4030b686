<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Produced;

/** The columns of rows that functions make. */
final readonly class Producing
{
    public function __construct(private Resolver $resolver)
    {
    }

    public function relation(Produced $source, Scope $scope): Relation
    {
        $columns = [];
        $open = false;
        foreach ($source->calls as $i => $call) {
            $made = $this->columns($call, $source, $scope, 0 === $i);
            $open = $open || null === $made;
            array_push($columns, ...$made ?? []);
        }
        if ($source->numbered) {
            $columns[] = new Meaning('ordinality', $this->resolver->typing->call('row_number', [], true), false);
        }
        $name = $source->alias ?? $source->calls[0]->names[\count($source->calls[0]->names) - 1];
        // A single value is called as its rows are.
        if (1 === \count($source->calls) && isset($columns[0]) && '' === $columns[0]->name) {
            $columns[0] = $columns[0]->named($source->columns[0] ?? $name);
        }
        foreach ($columns as $i => $column) {
            if ('' === $column->name) {
                $columns[$i] = $column->named($this->callName($source->calls[$i] ?? $source->calls[0]));
            }
        }

        return new Relation($this->resolver->fold($name), null, $source->columns, $columns, $open, [], true, $this->resolver->dialect->queries->anyCase);
    }

    private function callName(Call $call): string
    {
        return $call->names[\count($call->names) - 1];
    }

    /** @return list<Meaning>|null null where they are not known */
    private function columns(Call $call, Produced $source, Scope $scope, bool $first): ?array
    {
        $from = new Meaning();
        $arguments = [];
        foreach ($call->arguments as $argument) {
            $arguments[] = $meaning = $this->resolver->valuing->of($argument, $scope);
            $from->values += $meaning->values;
            $from->conditions += $meaning->conditions;
        }
        $listed = match (true) {
            !$first => [],
            [] !== $source->made => $source->made,
            default => $source->types,
        };
        if ([] !== $listed) {
            $columns = [];
            foreach ($listed as $name => $type) {
                $columns[] = new Meaning(
                    (string) $name,
                    '' === $type ? null : $this->resolver->typing->cast(null, $type),
                    true,
                    $from->values,
                    $from->conditions,
                );
            }

            return $columns;
        }
        $name = strtolower($this->callName($call));
        $routine = $this->resolver->known->routine($call->names[\count($call->names) - 2] ?? null, $this->callName($call));
        if (null !== $routine) {
            return $this->returned((string) $routine->returns, $from);
        }
        if ('unnest' === $name && \count($arguments) > 1) {
            $columns = [];
            foreach ($arguments as $list) {
                $columns[] = new Meaning('unnest', $this->resolver->typing->elementOf($list->type), true, $list->values, $list->conditions);
            }

            return $columns;
        }
        $made = $this->resolver->typing->produced($name, array_map(static fn (Meaning $argument): ?string => $argument->type, $arguments));
        if (null === $made) {
            return null;
        }
        $columns = [];
        foreach ($made as $column => $type) {
            $columns[] = new Meaning((string) $column, $type, true, $from->values, $from->conditions);
        }

        return $columns;
    }

    /** @return list<Meaning>|null of a routine that people wrote */
    private function returned(string $returns, Meaning $from): ?array
    {
        $type = (string) preg_replace('/^SETOF\s+/i', '', $returns);
        if (1 === preg_match('/^TABLE\s*\((.*)\)$/is', $type, $m)) {
            $columns = [];
            foreach (preg_split('/,(?![^(]*\))/', $m[1]) ?: [] as $column) {
                $parts = preg_split('/\s+/', trim($column), 2) ?: [];
                $columns[] = new Meaning(trim($parts[0] ?? '', '"'), $parts[1] ?? null, true, $from->values, $from->conditions);
            }

            return $columns;
        }
        $columns = $this->resolver->valuing->typeColumns(new Meaning('', $type, true, $from->values, $from->conditions));
        if ([] !== $columns) {
            return $columns;
        }

        return 1 === preg_match('/^(?:record|void|trigger)$/i', $type) || '' === $type
            ? null
            : [new Meaning('', $type, true, $from->values, $from->conditions)];
    }
}
