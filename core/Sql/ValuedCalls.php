<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Catalog\Place;
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
use Fasti\Core\Sql\Tree\Window;

/** What calls give, and from which fields. */
final readonly class ValuedCalls
{
    public function __construct(private Valuing $all)
    {
    }

    public function call(Call $call, Scope $scope): Meaning
    {
        $name = strtolower($call->names[\count($call->names) - 1]);
        $result = new Meaning();
        $types = $empty = $literals = [];
        foreach ($call->arguments as $i => $argument) {
            $meaning = $this->all->of($argument, $scope);
            if ($argument instanceof Literal) {
                $literals[$i] = $argument->text;
            }
            if ($argument instanceof Star && [] === $argument->names) {
                continue;
            }
            $types[] = $meaning->type;
            $empty[] = $meaning->nullable;
            $result->values += $meaning->values;
            $result->conditions += $meaning->conditions;
        }
        foreach ($call->order as $sorted) {
            $meaning = $this->all->of($sorted->by, $scope);
            if ($call->within) {
                $types[] = $meaning->type;
                $result->values += $meaning->values;
            } else {
                $result->conditions += $meaning->values;
            }
            $result->conditions += $meaning->conditions;
        }
        if (null !== $call->filter) {
            $result->conditions += $this->all->conditions($call->filter, $scope);
            $empty[] = true;
        }
        if (null !== $call->over) {
            $result->conditions += $this->window($call->over, $scope);
        }
        $routine = $this->all->resolver->known->routine(
            \count($call->names) > 1 ? $call->names[\count($call->names) - 2] : null,
            $call->names[\count($call->names) - 1],
        );
        $result->type = $call->type ?? (null === $routine || null === $routine->returns ? $this->all->typing->call(
            $name,
            $types,
            null !== $call->over,
            $literals,
        )
            : (string) preg_replace('/^(?:SETOF|TABLE)\s*/i', '', $routine->returns));
        $result->nullable = null !== $routine ? null : $this->all->typing->callMayBeEmpty($name, $empty, $scope->grouped, null !== $call->over);

        return $result;
    }

    /** @return array<string, true> the fields that decide what rows a function looks at */
    public function window(Window $window, Scope $scope): array
    {
        $conditions = [];
        foreach ([
            ...$window->partition,
            ...array_map(static fn (Tree\Sorted $sorted): Expression => $sorted->by, $window->order),
            ...$window->bounds,
        ] as $part) {
            $meaning = $this->all->of($part, $scope);
            $conditions += $meaning->values + $meaning->conditions;
        }
        if (null !== $window->name) {
            $named = $scope->windows[$this->all->resolver->fold($window->name)] ?? null;
            if (null === $named) {
                $this->all->resolver->unknown($window->at, \sprintf('There is no window “%s”', $window->name));
            } elseif ($named !== $window) {
                $conditions += $this->window($named, $scope);
            }
        }

        return $conditions;
    }

    /** What a column without a name is called. */
    public function nameOf(Expression $expression): string
    {
        if ($expression instanceof Ref) {
            return $expression->names[\count($expression->names) - 1];
        }
        if ($expression instanceof Literal && 'text' === $expression->kind && $this->all->resolver->dialect->queries->charsetTexts) {
            return $expression->text;
        }
        [$kind, $name] = $this->figured($expression);

        return $this->all->typing->nameOf($kind, $name) ?? substr($this->all->resolver->text, $expression->at, $expression->end - $expression->at);
    }

    /** @return array{string, ?string} the kind of what names it, and the name */
    private function figured(Expression $expression): array
    {
        return match (true) {
            $expression instanceof Ref => ['ref', $expression->names[\count($expression->names) - 1]],
            $expression instanceof Call => ['call', $expression->names[\count($expression->names) - 1]],
            $expression instanceof Member => ['member', $expression->name],
            $expression instanceof Element => $this->figured($expression->base),
            $expression instanceof Cast => $this->figuredOr($expression->value, ['other', 'cast', 'caseof'], ['cast', $expression->type]),
            $expression instanceof Literal => null === $expression->type ? ['other', null] : ['cast', $expression->type],
            $expression instanceof CaseOf => null === $expression->else ? ['caseof', null] : $this->figuredOr(
                $expression->else,
                ['other', 'cast', 'caseof'],
                ['caseof', null],
            ),
            $expression instanceof ArrayOf => ['arrayof', null],
            $expression instanceof RowOf => ['rowof', null],
            $expression instanceof Subquery => match (true) {
                'EXISTS' === $expression->how => ['exists', null],
                'ARRAY' === $expression->how => ['arrayof', null],
                default => $this->figuredQuery($expression->query),
            },
            $expression instanceof Operation && 'COLLATE' === $expression->sign => $this->figured($expression->operands[0]),
            $expression instanceof Operation && ('AT TIME ZONE' === $expression->sign || 'OVERLAPS' === $expression->sign) => [
                'call',
                'OVERLAPS' === $expression->sign ? 'overlaps' : 'timezone',
            ],
            $expression instanceof Operation && str_starts_with($expression->sign, 'INTERVAL') => ['cast', 'interval'],
            default => ['other', null],
        };
    }

    /**
     * @param list<string>          $weak kinds of names that something better takes the place of
     * @param array{string, ?string} $or
     *
     * @return array{string, ?string}
     */
    private function figuredOr(Expression $expression, array $weak, array $or): array
    {
        $figured = $this->figured($expression);

        return \in_array($figured[0], $weak, true) ? $or : $figured;
    }

    /** @return array{string, ?string} */
    private function figuredQuery(Tree\Query $query): array
    {
        $body = $query->body;
        while ($body instanceof Tree\Query || $body instanceof Tree\Combined) {
            $body = $body instanceof Tree\Query ? $body->body : $body->left;
        }
        $first = $body instanceof Tree\Select ? ($body->items[0] ?? null) : null;
        if ($body instanceof Tree\ValuesOf) {
            return ['ref', 'column1'];
        }
        if (null === $first) {
            return ['other', null];
        }

        return ['ref', $first->name ?? $this->nameOf($first->value)];
    }
}
