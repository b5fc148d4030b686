<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Typing;
use Fasti\Core\Sql\Tree\ArrayOf;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\CaseOf;
use Fasti\Core\Sql\Tree\Cast;
use Fasti\Core\Sql\Tree\Element;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Member;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\RowOf;
use Fasti\Core\Sql\Tree\Star;
use Fasti\Core\Sql\Tree\Subquery;

/** Says what an expression means where it stands. */
final readonly class Valuing
{
    /** Parts of a name that belong to the engine: numbers of a sequence, and the row that is written. */
    private const SEQUENCES = ['nextval' => 1, 'currval' => 1];

    public Typing $typing;

    public readonly ValuedCalls $calls;

    public function __construct(public Resolver $resolver)
    {
        $this->calls = new ValuedCalls($this);
        $this->typing = $resolver->typing;
    }

    public function of(Expression $expression, Scope $scope): Meaning
    {
        return match (true) {
            $expression instanceof Ref => $this->ref($expression, $scope),
            $expression instanceof Literal => $this->literal($expression),
            $expression instanceof Operation => $this->operation($expression, $scope),
            $expression instanceof Call => $this->calls->call($expression, $scope),
            $expression instanceof Cast => $this->cast($expression, $scope),
            $expression instanceof CaseOf => $this->case($expression, $scope),
            $expression instanceof Subquery => $this->subquery($expression, $scope),
            $expression instanceof RowOf => $this->several($expression->items, $scope, $this->typing->rowOf()),
            $expression instanceof ArrayOf => $this->list($expression, $scope),
            $expression instanceof Element => $this->element($expression, $scope),
            $expression instanceof Member => $this->member($expression, $scope),
            $expression instanceof Star => $this->whole($expression, $scope),
            default => new Meaning(),
        };
    }

    /** @return array<string, true> the fields on which a condition depends; what it compares is kept as a join */
    public function conditions(Expression $condition, Scope $scope): array
    {
        if ($condition instanceof Operation && ('AND' === $condition->sign || 'OR' === $condition->sign)) {
            $found = [];
            foreach ($condition->operands as $operand) {
                $found += $this->conditions($operand, $scope);
            }

            return $found;
        }
        if ($condition instanceof Operation && '=' === $condition->sign && 2 === \count($condition->operands)) {
            $a = $this->of($condition->operands[0], $scope);
            $b = $this->of($condition->operands[1], $scope);
            $this->pair($a, $b, $condition->at);

            return $a->values + $a->conditions + $b->values + $b->conditions;
        }
        $meaning = $this->of($condition, $scope);

        return $meaning->values + $meaning->conditions;
    }

    /** Keeps that a join compares two fields. */
    public function pair(Meaning $a, Meaning $b, int $at): void
    {
        if (null === $a->direct || null === $b->direct || $a->instance === $b->instance || 0 === $a->instance || 0 === $b->instance) {
            return;
        }
        [$from, $to] = $a->instance > $b->instance ? [$b->direct, $a->direct] : [$a->direct, $b->direct];
        $instances = [min($a->instance, $b->instance), max($a->instance, $b->instance)];
        $key = implode('/', $instances);
        $this->resolver->joins[$key] ??= [$at, []];
        $this->resolver->joins[$key][1][$from."\1".$to] = [$from, $to];
    }

    /** @param list<string> $names before a star or a field */
    public function relation(array $names, Scope $scope): ?Relation
    {
        $name = $this->resolver->fold($names[\count($names) - 1]);
        $schema = $names[\count($names) - 2] ?? null;
        for ($around = $scope; null !== $around; $around = $around->around) {
            foreach ($around->frame->relations as $relation) {
                if ($relation->name !== $name) {
                    continue;
                }
                if (null === $schema
                    || (null !== $relation->table && !$relation->aliased && $this->resolver->fold($relation->table->schema) === $this->resolver->fold($schema))
                    || $relation->open) {
                    return $relation;
                }
            }
        }

        return null;
    }

    private function ref(Ref $ref, Scope $scope): Meaning
    {
        $found = 1 === \count($ref->names) ? $this->plain($ref, $scope) : $this->qualified($ref, $scope);
        if (null !== $found) {
            if (null !== $found->reference) {
                $this->resolver->references[$found->reference] = true;
                $this->resolver->fieldAt[$ref->at] = $found->reference;
            } elseif (null !== $found->direct) {
                $this->resolver->fieldAt[$ref->at] = $found->direct;
            }

            return $found;
        }
        if (isset(self::SEQUENCES[strtolower($ref->names[\count($ref->names) - 1])]) && \count($ref->names) > 1) {
            return new Meaning('', $this->typing->call('count', []), false);
        }
        $this->resolver->unknown($ref->at, \sprintf('No table here has a field “%s”', implode('.', $ref->names)));

        return new Meaning($ref->names[\count($ref->names) - 1]);
    }

    private function plain(Ref $ref, Scope $scope): ?Meaning
    {
        $name = $this->resolver->fold($ref->names[0]);
        $anyCase = $this->resolver->dialect->queries->anyCase;
        $open = false;
        for ($around = $scope; null !== $around; $around = $around->around) {
            if ('before' === $around->aliasesCome && isset($around->aliases[$name])) {
                return self::alias($around->aliases[$name]);
            }
            $found = $around->frame->column($name, $anyCase);
            if (null !== $found) {
                return $found;
            }
            if ('after' === $around->aliasesCome && isset($around->aliases[$name])) {
                return self::alias($around->aliases[$name]);
            }
            if ($this->resolver->dialect->queries->rowsAsValues) {
                $row = $this->relation($ref->names, $around);
                if (null !== $row) {
                    return $this->row($row);
                }
            }
            $own = $this->own($name, $around);
            if (null !== $own) {
                return $own;
            }
            $open = $open || $around->frame->isOpen();
        }
        if ($open) {
            return new Meaning($ref->names[0]);
        }
        if ($ref->quoted && $this->resolver->dialect->queries->unknownNamesAreTexts && '"' === $this->resolver->text[$ref->at]) {
            return new Meaning('', $this->typing->literal('text', $ref->names[0]), false);
        }

        return null;
    }

    /** What a query gives under a name is already counted where it is computed. */
    private static function alias(Meaning $meaning): Meaning
    {
        if (null === $meaning->reference) {
            return $meaning;
        }
        $copy = clone $meaning;
        $copy->reference = null;

        return $copy;
    }

    private function own(string $name, Scope $scope): ?Meaning
    {
        $own = $this->typing->ownFields();
        if (!\array_key_exists($name, $own)) {
            return null;
        }
        foreach ($scope->frame->relations as $relation) {
            if (null !== $relation->table && !$relation->table->kind->isView()) {
                return $this->ownOf($name, $relation);
            }
        }

        return null;
    }

    private function ownOf(string $name, Relation $relation): Meaning
    {
        // The number of a row is its key, where the key is declared to be that number.
        foreach ($this->resolver->dialect->catalog->rowids ? $relation->all() : [] as $column) {
            $key = $relation->table?->primaryKey?->columns;
            if ([$column->name] === $key && 'integer' === strtolower((string) $column->type)) {
                return $column;
            }
        }

        return new Meaning($name, $this->typing->ownFields()[$name] ?? null, false);
    }

    private function qualified(Ref $ref, Scope $scope): ?Meaning
    {
        $name = $ref->names[\count($ref->names) - 1];
        $before = \array_slice($ref->names, 0, -1);
        $relation = $this->relation($before, $scope) ?? (\count($before) > 2 ? $this->relation(\array_slice($before, -2), $scope) : null);
        if (null === $relation) {
            return null;
        }
        $found = $relation->column($this->resolver->fold($name));
        if (null !== $found) {
            return $found;
        }
        if (null !== $relation->table && \array_key_exists($this->resolver->fold($name), $this->typing->ownFields())) {
            return $this->ownOf($this->resolver->fold($name), $relation);
        }
        if ($relation->open) {
            return new Meaning($name);
        }

        return null;
    }

    /** A row of a table as one value. */
    private function row(Relation $relation): Meaning
    {
        $columns = $relation->all();
        if (1 === \count($columns) && null === $relation->table && '' === $columns[0]->name) {
            return $columns[0];
        }
        $values = $conditions = [];
        foreach ($columns as $column) {
            $values += $column->values;
            $conditions += $column->conditions;
        }

        return new Meaning(
            '',
            null === $relation->table ? $this->typing->rowOf() : (string) $relation->table->place(),
            $relation->outer,
            $values,
            $conditions,
        );
    }

    /** `t.*` as the argument of a function, or within a row. */
    private function whole(Star $star, Scope $scope): Meaning
    {
        if ([] === $star->names) {
            return new Meaning();
        }
        $relation = $this->relation($star->names, $scope);
        if (null === $relation) {
            return new Meaning();
        }

        return $this->row($relation);
    }

    /** @return list<Meaning> */
    public function starOf(Star $star, Scope $scope): array
    {
        $this->resolver->unknown($star->at, \sprintf('There is no table “%s” here', implode('.', $star->names)));

        return [];
    }

    private function literal(Literal $literal): Meaning
    {
        return new Meaning('', $literal->type ?? $this->typing->literal($literal->kind, $literal->text), 'null' === $literal->kind);
    }

    /**
     * @param list<Expression> $parts
     */
    private function several(array $parts, Scope $scope, ?string $type): Meaning
    {
        $result = new Meaning('', $type, false);
        foreach ($parts as $part) {
            $meaning = $this->of($part, $scope);
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
        }

        return $result;
    }

    private function operation(Operation $operation, Scope $scope): Meaning
    {
        $result = new Meaning();
        $types = $empty = [];
        foreach ($operation->operands as $operand) {
            $meaning = $this->of($operand, $scope);
            $types[] = $meaning->type;
            $empty[] = $meaning->nullable;
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
            if (('COLLATE' === $operation->sign || '(+)' === $operation->sign) && null === $result->direct) {
                $result->direct = $meaning->direct;
                $result->instance = $meaning->instance;
            }
        }
        $result->type = $this->folded($operation->sign, $types);
        $result->nullable = $this->typing->operationMayBeEmpty($operation->sign, $empty);

        return $result;
    }

    /**
     * A list of values with one operator between them, read from the left.
     *
     * @param list<?string> $types
     */
    private function folded(string $sign, array $types): ?string
    {
        if (\count($types) < 3 || 'AND' === $sign || 'OR' === $sign || str_contains($sign, 'BETWEEN') || str_contains($sign, 'IN')
            || str_contains($sign, 'LIKE')) {
            return $this->typing->operation($sign, $types);
        }
        $type = $types[0];
        foreach (\array_slice($types, 1) as $next) {
            $type = $this->typing->operation($sign, [$type, $next]);
        }

        return $type;
    }

    private function cast(Cast $cast, Scope $scope): Meaning
    {
        $value = clone $this->of($cast->value, $scope);
        $value->type = $this->typing->cast($value->type, $cast->type);
        $value->reference = null;
        $value->name = '';
        if (false === $value->nullable && $this->typing->castMayFail($cast->type)) {
            $value->nullable = null;
        }

        return $value;
    }

    private function case(CaseOf $case, Scope $scope): Meaning
    {
        $result = new Meaning('', null, null === $case->else ? true : false);
        $types = [];
        $parts = null === $case->subject ? [] : [$case->subject];
        foreach ($case->whens as [$when]) {
            $parts[] = $when;
        }
        foreach ($parts as $part) {
            $meaning = $this->of($part, $scope);
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
        }
        $values = array_map(static fn (array $when): Expression => $when[1], $case->whens);
        // The engine looks at what stands after ELSE first.
        foreach (null === $case->else ? $values : [$case->else, ...$values] as $value) {
            $meaning = $this->of($value, $scope);
            $types[] = $meaning->type;
            $result->nullable = Resolver::either($result->nullable, $meaning->nullable);
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
        }
        $result->type = $this->typing->common($types);

        return $result;
    }

    private function subquery(Subquery $subquery, Scope $scope): Meaning
    {
        $block = $this->resolver->query($subquery->query, $scope);
        if ('EXISTS' === $subquery->how) {
            return new Meaning('', $this->typing->literal('bool', ''), false, [], $block->conditions);
        }
        $result = new Meaning('', null, true, [], $block->conditions);
        foreach ($block->columns as $column) {
            $result->values += $column->values;
            $result->conditions += $column->conditions;
        }
        $type = $this->typing->stored($block->columns[0]->type ?? null);
        $result->type = 1 < \count($block->columns) ? $this->typing->rowOf() : $type;
        if ('' !== $subquery->how) {
            $result->type = $this->typing->listOf($type);
            $result->nullable = false;
        }
        if (1 === \count($block->columns)) {
            $result->direct = $block->columns[0]->direct;
            $result->instance = $block->columns[0]->instance;
        }

        return $result;
    }

    private function list(ArrayOf $list, Scope $scope): Meaning
    {
        $result = new Meaning('', null, false);
        $types = [];
        foreach ($list->items as $item) {
            $meaning = $this->of($item, $scope);
            $types[] = $meaning->type;
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
        }
        $common = $this->typing->stored($this->typing->common($types));
        // A list of lists is of the same type as its lists.
        $result->type = [] !== $list->items && $list->items[0] instanceof ArrayOf ? $common : $this->typing->listOf($common);

        return $result;
    }

    private function element(Element $element, Scope $scope): Meaning
    {
        $base = $this->of($element->base, $scope);
        $parts = $this->several(array_values(array_filter([$element->from, $element->to])), $scope, null);

        return new Meaning(
            '',
            $element->slice ? $base->type : $this->typing->elementOf($base->type),
            true,
            $base->values + $parts->values,
            $base->conditions + $parts->conditions,
        );
    }

    private function member(Member $member, Scope $scope): Meaning
    {
        $name = $this->resolver->fold($member->name);
        $relation = $this->rowsOf($member->base, $scope);
        $found = $relation?->column($name);
        if (null !== $found) {
            if (null !== $found->reference) {
                $this->resolver->references[$found->reference] = true;
                $this->resolver->fieldAt[$member->at] = $found->reference;
            }

            return $found;
        }
        $base = $this->of($member->base, $scope);
        foreach ($this->typeColumns($base) as $column) {
            if ($this->resolver->fold($column->name) === $name) {
                if (null !== $column->reference) {
                    $this->resolver->references[$column->reference] = true;
                }

                return $column;
            }
        }

        return new Meaning('', null, true, $base->values, $base->conditions);
    }

    /** @return list<Meaning> */
    public function members(Member $member, Scope $scope): array
    {
        $relation = $this->rowsOf($member->base, $scope);
        $columns = null !== $relation ? $relation->all() : $this->typeColumns($this->of($member->base, $scope));
        foreach ($columns as $column) {
            if (null !== $column->reference) {
                $this->resolver->references[$column->reference] = true;
            }
        }
        if ([] === $columns) {
            $this->resolver->unknown($member->at, 'What * stands for here is not known: the members of this type are not in the catalog');
        }

        return $columns;
    }

    /** The relation that a name in parentheses means, unless it is a field. */
    private function rowsOf(Expression $base, Scope $scope): ?Relation
    {
        if (!$base instanceof Ref) {
            return null;
        }
        $name = $this->resolver->fold($base->names[0]);
        for ($around = 1 === \count($base->names) ? $scope : null; null !== $around; $around = $around->around) {
            if (null !== $around->frame->column($name, $this->resolver->dialect->queries->anyCase)) {
                return null;
            }
        }

        return $this->relation($base->names, $scope);
    }

    /** @return list<Meaning> the columns of a table whose row type a value has */
    public function typeColumns(Meaning $base): array
    {
        if (null === $base->type || '' === $base->type) {
            return [];
        }
        $place = Place::parse(rtrim($base->type, '[]'));
        $table = null === $place ? null : $this->resolver->known->find('' === $place->schema ? null : $place->schema, $place->name, '');
        $columns = [];
        foreach ($table->columns ?? [] as $column) {
            $key = $table?->schema."\0".$table?->name."\0".$column->name;
            $columns[] = new Meaning($column->name, $column->type, true, $base->values, $base->conditions, null, 0, $key);
        }

        return $columns;
    }
}
