<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Sql\Tree\Derived;
use Fasti\Core\Sql\Tree\Joined;
use Fasti\Core\Sql\Tree\Produced;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Source;
use Fasti\Core\Sql\Tree\TableRef;

/** What stands behind FROM: tables, queries, and what joins make of them. */
final class ResolvedSources
{
    public function __construct(private readonly Resolver $all)
    {
    }

    public function source(Source $source, Scope $scope): Frame
    {
        return match (true) {
            $source instanceof TableRef => Frame::of($this->table($source, $scope)),
            $source instanceof Derived => Frame::of($this->derived($source, $scope)),
            $source instanceof Produced => Frame::of((new Producing($this->all))->relation($source, $scope)),
            $source instanceof Joined => $this->joined($source, $scope),
            default => Frame::of(new Relation('', null, [], [], true)),
        };
    }

    private function table(TableRef $ref, Scope $scope): Relation
    {
        $name = $ref->names[\count($ref->names) - 1];
        $schema = $ref->names[\count($ref->names) - 2] ?? null;
        $alias = $this->all->fold($ref->alias ?? $name);
        if (null === $schema) {
            for ($around = $scope; null !== $around; $around = $around->around) {
                $block = $around->named[$this->all->fold($name)] ?? null;
                if (null !== $block) {
                    return new Relation(
                        $alias,
                        null,
                        $ref->columns,
                        $block->columns,
                        $block->open,
                        $block->conditions,
                        null !== $ref->alias,
                        $this->all->dialect->queries->anyCase,
                    );
                }
            }
        }
        $table = $this->all->known->find($schema, $name, $this->all->schema);
        if (null === $table) {
            if (null === $schema && 'dual' === strtolower($name)) {
                return new Relation($alias, null, [], [new Meaning('DUMMY', 'varchar(1)')], false, [], false, true);
            }
            $system = null !== $schema && 1 === preg_match($this->all->dialect->queries->systemSchemas, $schema);
            $this->all->unknown($ref->at, \sprintf(
                $system ? '%s belongs to the engine itself and is not in the catalog' : '%s is not in the catalog',
                new Place((string) $schema, $name),
            ));

            return new Relation($alias, null, $ref->columns, [], true, [], null !== $ref->alias, $this->all->dialect->queries->anyCase);
        }
        $this->all->tables[$table->place()->key()] = $table->place();
        $this->all->tableAt[$ref->at] = $table->place();
        $unread = [] === $table->columns;

        return new Relation($alias, $table, $ref->columns, [], $unread, [], null !== $ref->alias, $this->all->dialect->queries->anyCase);
    }

    private function derived(Derived $source, Scope $scope): Relation
    {
        // Only LATERAL lets a query see what stands beside it.
        $around = $source->lateral ? $scope : self::without($scope);
        $block = $this->all->stored($this->all->query($source->query, $around));

        return new Relation(
            $this->all->fold($source->alias ?? ''),
            null,
            $source->columns,
            $block->columns,
            $block->open,
            $block->conditions,
            true,
            $this->all->dialect->queries->anyCase,
        );
    }

    /** The scope as a query beside its sources sees it. */
    private static function without(Scope $scope): Scope
    {
        return new Scope($scope->around, $scope->named);
    }

    private function joined(Joined $join, Scope $scope): Frame
    {
        // Long chains of joins lean to the left as well.
        $chain = [];
        $left = $join;
        while ($left instanceof Joined && (null === $left->alias || $left === $join)) {
            $chain[] = $left;
            $left = $left->left;
        }
        $frame = $this->source($left, $scope);
        foreach (array_reverse($chain) as $step) {
            $frame = $this->joinedTo($step, $frame, $scope);
        }
        if (null === $join->alias) {
            return $frame;
        }

        return Frame::of(
            new Relation(
                $this->all->fold($join->alias), null, [], $frame->all($this->all->dialect->queries->anyCase), $frame->isOpen(), [], true,
                $this->all->dialect->queries->anyCase,
            ),
        );
    }

    private function joinedTo(Joined $step, Frame $left, Scope $scope): Frame
    {
        // What stands to the right may look at what stands to the left, where it is made for each row.
        $beside = new Scope($scope->around, $scope->named);
        $beside->frame = $scope->frame->beside($left);
        $right = $this->source($step->right, $beside);
        $scope->conditions += $beside->conditions;
        $of = new Scope($scope->around, $scope->named);
        $of->frame = $left->beside($right);
        if (\in_array($step->kind, ['RIGHT', 'FULL'], true)) {
            $left->outer();
        }
        if (\in_array($step->kind, ['LEFT', 'FULL', 'OUTER APPLY'], true)) {
            $right->outer();
        }
        if ($step->natural || [] !== $step->using) {
            return $this->merged($step, $left, $right, $scope);
        }
        if (null !== $step->on) {
            // Names that the joined tables lack may stand further out.
            $of->frame = $of->frame->beside($scope->frame);
            $scope->conditions += $this->all->valuing->conditions($step->on, $of);
        }

        return $left->beside($right);
    }

    private function merged(Joined $step, Frame $left, Frame $right, Scope $scope): Frame
    {
        $names = $step->using;
        if ($step->natural) {
            $names = [];
            foreach ($left->all($this->all->dialect->queries->anyCase) as $column) {
                if (null !== $right->column($this->all->fold($column->name), $this->all->dialect->queries->anyCase)) {
                    $names[] = $column->name;
                }
            }
            $names = array_values(array_unique($names));
        }
        $merged = $hidden = [];
        foreach ($names as $name) {
            $folded = $this->all->fold($name);
            $a = $left->column($folded, $this->all->dialect->queries->anyCase);
            $b = $right->column($folded, $this->all->dialect->queries->anyCase);
            if (null === $a || null === $b) {
                if (!$left->isOpen() && !$right->isOpen()) {
                    $this->all->unknown($step->at, \sprintf('“%s”, by which two tables are joined, is not a field of both', $name));
                }
                $a ??= $b;
                $b ??= $a;
                if (null === $a || null === $b) {
                    continue;
                }
            }
            foreach ([$a, $b] as $side) {
                if (null !== $side->reference) {
                    $this->all->references[$side->reference] = true;
                }
            }
            $this->all->valuing->pair($a, $b, $step->at);
            $scope->conditions += $a->values + $b->values + $a->conditions + $b->conditions;
            $merged[] = $this->common($step->kind, $a, $b);
            $hidden[$folded] = true;
        }
        $frame = $this->parted($merged, $hidden, $left, $right);
        if (null !== $step->usingAlias) {
            $frame->relations[] = new Relation($this->all->fold($step->usingAlias), null, [], $merged, false, [], true, $this->all->dialect->queries->anyCase);
        }

        return $frame;
    }

    private function common(string $kind, Meaning $a, Meaning $b): Meaning
    {
        $of = 'RIGHT' === $kind ? $b : $a;
        $full = 'FULL' === $kind;

        return new Meaning(
            $a->name,
            $this->all->typing->common([$a->type, $b->type]),
            match (true) {
                !$full => $of->nullable,
                true === $a->nullable && true === $b->nullable => true,
                default => null,
            },
            $full ? $a->values + $b->values : $of->values,
            $full ? $a->conditions + $b->conditions : $of->conditions,
            $full ? null : $of->direct,
            $full ? 0 : $of->instance,
        );
    }

    /**
     * @param list<Meaning>       $merged
     * @param array<string, true> $hidden names that both have
     */
    private function parted(array $merged, array $hidden, Frame $left, Frame $right): Frame
    {
        $rest = fn (Frame $frame): array => array_values(array_filter(
            array_map(static fn (array $part): array => [$part[0], $part[1], $part[2] + $hidden], $frame->parts),
            fn (array $part): bool => null === $part[1] || !isset($hidden[$this->all->fold($part[1]->name)]),
        ));
        $relations = [...$left->relations, ...$right->relations];
        if ($this->all->dialect->queries->mergedFirst) {
            return new Frame($relations, [...array_map(static fn (Meaning $column): array => [null, $column, []], $merged), ...$rest($left), ...$rest($right)]);
        }
        // SQLite leaves them where they stood in the left one.
        $parts = [];
        $byName = [];
        foreach ($merged as $column) {
            $byName[$this->all->fold($column->name)] = $column;
        }
        foreach ($left->all($this->all->dialect->queries->anyCase) as $column) {
            $parts[] = [null, $byName[$this->all->fold($column->name)] ?? $column, []];
        }

        return new Frame($relations, [...$parts, ...$rest($right)]);
    }
}
