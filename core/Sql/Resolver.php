<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Dialect\Typing;
use Fasti\Core\Sql\Tree\Body;
use Fasti\Core\Sql\Tree\Combined;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Named;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\Select;
use Fasti\Core\Sql\Tree\Sorted;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\ValuesOf;

/** Says what the names of a query mean, by the rules of scope of its engine, and follows each of its columns to its fields. */
final class Resolver
{
    /** @var array<string, string> names in small letters */
    private array $folded = [];
    public Valuing $valuing;
    public readonly Typing $typing;
    /** @var array<string, true> fields of tables that the query names, by key */
    public array $references = [];
    /** @var array<string, Place> tables that it names, by key */
    public array $tables = [];
    /** @var array<int, string> by the place of a name, the key of the field that it means */
    public array $fieldAt = [];
    /** @var array<int, Place> by the place of a name, the table that it means */
    public array $tableAt = [];
    /** @var array<int, Unknown> by its place */
    public array $unknown = [];
    /** @var array<string, array{int, array<string, array{string, string}>}> pairs of fields that a join compares, by the two instances; with its place */
    public array $joins = [];

    public readonly ResolvedSources $sources;

    public function __construct(public readonly Tables $known, public readonly Grammar $dialect, public readonly string $schema, public readonly string $text)
    {
        $this->sources = new ResolvedSources($this);
        $this->typing = $known->typing;
        $this->valuing = new Valuing($this);
    }

    /** Ends its use: its parts know one another, and taken apart their memory is free at once. */
    public function close(): void
    {
        unset($this->valuing);
    }

    public function fold(string $name): string
    {
        return $this->dialect->queries->anyCase ? $this->folded[$name] ??= mb_strtolower($name) : $name;
    }

    public function unknown(int $at, string $what): void
    {
        $this->unknown[$at] ??= new Unknown($at, $what);
    }

    public function query(Query $query, ?Scope $around): Block
    {
        $scope = new Scope($around);
        foreach ($query->with as $named) {
            $scope->named[$this->fold($named->name)] = $this->named($named, $query->recursive || !$this->dialect->queries->ownOperators, $scope);
        }
        $inner = null;
        $block = $this->body($query->body, $scope, $inner);
        $of = $inner ?? $scope;
        if (null === $inner) {
            // Of a set of queries, the order knows the columns alone.
            $of = new Scope($scope);
            $of->frame = Frame::of(new Relation('', null, [], $block->columns, $block->open, [], false, $this->dialect->queries->anyCase));
        }
        foreach ($query->order as $sorted) {
            $block->conditions += $this->sorted($sorted, $of, $block->columns);
            $number = $sorted->by instanceof Literal ? (int) $sorted->by->text - 1 : -1;
            if (isset($block->columns[$number])) {
                // Ordering takes a type, which a text then gets.
                $block->columns[$number] = clone $block->columns[$number];
                $block->columns[$number]->type = $this->typing->stored($block->columns[$number]->type);
            }
        }
        foreach ([$query->limit, $query->skip] as $amount) {
            if (null !== $amount) {
                $block->conditions += $this->valuing->conditions($amount, $scope);
            }
        }

        return $block;
    }

    private function named(Named $named, bool $recursive, Scope $scope): Block
    {
        $self = $this->fold($named->name);
        $body = $named->query->body;
        if (!$recursive || !$body instanceof Combined || 'UNION' !== $body->kind) {
            return $this->stored($this->query($named->query, $scope), $named->columns);
        }
        // What it begins with says what its columns are; then it may name itself.
        $beginning = new Scope($scope);
        foreach ($named->query->with as $inner) {
            $beginning->named[$this->fold($inner->name)] = $this->named($inner, true, $beginning);
        }
        $unknown = $this->unknown;
        $first = $this->stored($this->body($body->left, $beginning), $named->columns);
        $this->unknown = $unknown;
        foreach ($named->added as $i => $added) {
            $first->columns[] = new Meaning($added, $this->addedType($i, \count($named->added)), false);
        }
        $within = new Scope($scope);
        $within->named[$self] = $first;
        $whole = $this->query($named->query, $within);
        foreach ($whole->columns as $i => $column) {
            if (isset($first->columns[$i])) {
                $first->columns[$i]->values += $column->values;
                $first->columns[$i]->conditions += $column->conditions;
                $first->columns[$i]->nullable = true === $first->columns[$i]->nullable || true === $column->nullable ? true : $column->nullable;
                // Only what it begins with decides the types.
                if ($first->columns[$i]->direct !== $column->direct) {
                    $first->columns[$i]->direct = null;
                }
            }
        }
        $first->conditions += $whole->conditions;

        return $first;
    }

    private function addedType(int $i, int $count): string
    {
        return match (true) {
            1 === $count || 0 === $i && 3 === $count => 'record[]',
            1 === $i && 3 === $count || 0 === $i => 'boolean',
            default => 'record[]',
        };
    }

    /** @param list<string> $names */
    public function stored(Block $block, array $names = []): Block
    {
        foreach ($block->columns as $i => $column) {
            $copy = clone $column;
            $copy->type = $this->typing->stored($copy->type);
            $copy->name = $names[$i] ?? $copy->name;
            $block->columns[$i] = $copy;
        }

        return $block;
    }

    /** @param-out ?Scope $inner the scope of its one SELECT, where there is one */
    private function body(Body $body, Scope $scope, ?Scope &$inner = null): Block
    {
        $inner = null;
        if ($body instanceof Query) {
            return $this->query($body, $scope);
        }
        if ($body instanceof Select) {
            $inner = new Scope($scope);

            return $this->select($body, $inner);
        }
        if ($body instanceof Combined) {
            return $this->combined($body, $scope);
        }

        return $body instanceof ValuesOf ? $this->values($body, $scope) : new Block([]);
    }

    private function combined(Combined $body, Scope $scope): Block
    {
        // A long chain of them leans to the left: it is gone down in a loop.
        $chain = [];
        $left = $body;
        while ($left instanceof Combined) {
            $chain[] = $left;
            $left = $left->left;
        }
        $result = $this->body($left, $scope);
        foreach (array_reverse($chain) as $step) {
            $right = $this->body($step->right, $scope);
            if (\count($right->columns) !== \count($result->columns) && !$right->open && !$result->open) {
                $this->unknown(
                    $step->right->at,
                    \sprintf('One side of the %s gives %d fields, the other %d', $step->kind, \count($result->columns), \count($right->columns)),
                );
            }
            $result = $this->together($step, $result, $right);
        }

        return $result;
    }

    private function together(Combined $step, Block $left, Block $right): Block
    {
        $columns = [];
        $union = 'UNION' === $step->kind;
        foreach ($left->columns as $i => $a) {
            $b = $right->columns[$i] ?? $a;
            $same = $a->type === $b->type && Typing::UNTYPED !== $a->type && $a->nullable === $b->nullable && $a->direct === $b->direct;
            if ($union && $same && [] === $b->conditions && $a->values === $b->values + $a->values) {
                $columns[] = $a;
                continue;
            }
            $columns[] = new Meaning(
                $a->name,
                $this->typing->common([$a->type, $b->type]),
                $union ? self::either($a->nullable, $b->nullable) : $a->nullable,
                $union ? $a->values + $b->values : $a->values,
                $union ? $a->conditions + $b->conditions : $a->conditions,
                $a->direct === $b->direct ? $a->direct : null,
                $a->direct === $b->direct ? $a->instance : 0,
            );
        }
        $conditions = $left->conditions + $right->conditions;
        if (!$union) {
            foreach ($right->columns as $column) {
                $conditions += $column->values + $column->conditions;
            }
        }

        return new Block($columns, $conditions, $left->open || $right->open);
    }

    public static function either(?bool $a, ?bool $b): ?bool
    {
        return match (true) {
            true === $a || true === $b => true,
            null === $a || null === $b => null,
            default => false,
        };
    }

    private function values(ValuesOf $body, Scope $scope): Block
    {
        $columns = $types = [];
        foreach ($body->rows as $row) {
            foreach ($row as $i => $value) {
                $meaning = $this->valuing->of($value, $scope);
                $types[$i][] = $meaning->type;
                $columns[$i] ??= new Meaning($this->typing->nameOf('values', (string) ($i + 1)) ?? $this->valuing->calls->nameOf($value), null, false);
                $columns[$i]->nullable = self::either($columns[$i]->nullable, $meaning->nullable);
                $columns[$i]->values += $meaning->values;
                $columns[$i]->conditions += $meaning->conditions;
            }
        }
        foreach ($columns as $i => $column) {
            $column->type = $this->typing->stored($this->typing->common($types[$i]));
        }

        return new Block(array_values($columns));
    }

    private function select(Select $select, Scope $scope): Block
    {
        foreach ($select->from as $source) {
            $scope->frame = $scope->frame->beside($this->sources->source($source, $scope));
        }
        foreach ($select->windows as $name => $window) {
            $scope->windows[$this->fold($name)] = $window;
        }
        $scope->grouped = [] !== $select->group;
        $block = new Block([]);
        if (null !== $select->where && !$this->dialect->queries->aliasesAnywhere) {
            $scope->conditions += $this->valuing->conditions($select->where, $scope);
        }
        foreach ($select->items as $item) {
            if ($item->value instanceof Star) {
                array_push($block->columns, ...$this->star($item->value, $scope, $block));
                continue;
            }
            if ($item->value instanceof Tree\Member && '*' === $item->value->name) {
                array_push($block->columns, ...$this->valuing->members($item->value, $scope));
                continue;
            }
            $meaning = $this->valuing->of($item->value, $scope);
            $name = $item->name ?? ($this->dialect->queries->aliasesAnywhere && $item->value instanceof Ref
                && '' !== $meaning->name ? $meaning->name : $this->valuing->calls->nameOf($item->value));
            $block->columns[] = $column = $meaning->named($name);
            $scope->aliases[$this->fold($name)] ??= $column;
        }
        $this->clauses($select, $scope, $block);
        foreach ($scope->frame->relations as $relation) {
            $scope->conditions += $relation->conditions;
        }
        $block->conditions += $scope->conditions;

        // Telling rows apart takes a type, which a text then gets.
        return $select->distinct ? $this->stored($block) : $block;
    }

    private function clauses(Select $select, Scope $scope, Block $block): void
    {
        if (null !== $select->where && $this->dialect->queries->aliasesAnywhere) {
            $scope->aliasesCome = 'after';
            $scope->conditions += $this->valuing->conditions($select->where, $scope);
        }
        $scope->aliasesCome = $this->dialect->queries->aliasesInGroup ? 'after' : '';
        foreach ($select->group as $by) {
            $scope->conditions += $this->placedOrValued($by, $scope, $block->columns);
        }
        if ('' !== $select->grouping) {
            $this->emptied($select, $block);
        }
        $scope->aliasesCome = $this->dialect->queries->aliasesInHaving ? 'after' : '';
        foreach ([$select->having, $select->qualify, $select->top, ...$select->repeat] as $condition) {
            if (null !== $condition) {
                $scope->conditions += $this->valuing->conditions($condition, $scope);
            }
        }
        $scope->aliasesCome = '';
        foreach ($select->on as $by) {
            $scope->conditions += $this->sorted(new Sorted($by), $scope, $block->columns);
        }
        foreach ($select->windows as $window) {
            // A window that nothing uses is read all the same: its names are references.
            $this->valuing->calls->window($window, $scope);
        }
    }

    /** Of the rows that sum up others, what they are grouped by is empty. */
    private function emptied(Select $select, Block $block): void
    {
        /** @var array<int|string, true> $by */
        $by = [];
        foreach ($select->group as $group) {
            $by[substr($this->text, $group->at, $group->end - $group->at)] = true;
        }
        foreach ($select->items as $i => $item) {
            $text = substr($this->text, $item->value->at, $item->value->end - $item->value->at);
            if (isset($block->columns[$i]) && (isset($by[$text]) || isset($by[$item->name ?? '']) || isset($by[$i + 1]))) {
                $block->columns[$i] = clone $block->columns[$i];
                $block->columns[$i]->nullable = true;
            }
        }
    }

    /**
     * What rows are ordered by: a number means a column, a plain name one of the list first.
     *
     * @param list<Meaning> $columns
     *
     * @return array<string, true>
     */
    private function sorted(Sorted $sorted, Scope $scope, array $columns): array
    {
        $plain = $sorted->by instanceof Ref && 1 === \count($sorted->by->names);
        $scope->aliasesCome = match (true) {
            $plain => 'before',
            $this->dialect->queries->anyCase => 'after',
            default => '',
        };
        $found = $this->placedOrValued($sorted->by, $scope, $columns);
        $scope->aliasesCome = '';

        return $found;
    }

    /**
     * @param list<Meaning> $columns
     *
     * @return array<string, true>
     */
    private function placedOrValued(Expression $by, Scope $scope, array $columns): array
    {
        if ($by instanceof Literal && 'number' === $by->kind) {
            $column = $columns[(int) $by->text - 1] ?? null;
            if (null === $column) {
                $this->unknown($by->at, \sprintf('There is no field number %s', $by->text));

                return [];
            }

            return $column->values + $column->conditions;
        }
        $meaning = $this->valuing->of($by, $scope);

        return $meaning->values + $meaning->conditions;
    }

    /** @return list<Meaning> */
    private function star(Star $star, Scope $scope, Block $block): array
    {
        if ([] === $star->names) {
            $all = $scope->frame->all($this->dialect->queries->anyCase);
            if ([] === $scope->frame->relations) {
                $this->unknown($star->at, '* stands where there is no table');
            }
            $block->open = $block->open || $scope->frame->isOpen();
        } else {
            $relation = $this->valuing->relation($star->names, $scope);
            if (null === $relation) {
                return $this->valuing->starOf($star, $scope);
            }
            $all = $relation->all();
            $block->open = $block->open || $relation->open;
        }
        if ($block->open) {
            $this->unknown($star->at, 'What * stands for here is not known, since not all its tables are');
        }
        foreach ($all as $column) {
            if (null !== $column->reference) {
                $this->references[$column->reference] = true;
            }
        }

        return $all;
    }
}
