<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tree\Body;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Combined;
use Fasti\Core\Sql\Tree\Derived;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Joined;
use Fasti\Core\Sql\Tree\Literal;
use Fasti\Core\Sql\Tree\Named;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Produced;
use Fasti\Core\Sql\Tree\Query;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Sql\Tree\Select;
use Fasti\Core\Sql\Tree\Sorted;
use Fasti\Core\Sql\Tree\Source;
use Fasti\Core\Sql\Tree\TableRef;
use Fasti\Core\Sql\Tree\UnreadSource;
use Fasti\Core\Sql\Tree\ValuesOf;
use Fasti\Core\Wording\Amount;

/** Tells how a query makes its rows, step by step. */
final class Steps
{
    private readonly Grammar $dialect;
    /** @var array<string, Table> by key of the place */
    private array $tables = [];
    private Reading $reading;
    /**
     * @var list<array{kind: string, words: string, detail: string, rows: string, inputs: list<int>, schema: string, table: string, named: string, many: bool}>
     */
    private array $steps = [];
    /** @var array<int, true> steps of named queries whose rows were taken before */
    private array $used = [];
    /** @var array<string, true> names of the tables that were taken so far */
    private array $taken = [];
    /** @var list<string> fields of the query that was read last which together tell its rows apart; none where that does not follow */
    public array $key = [];
    /** @var array<string, Flow> queries that have a name, by folded name */
    private array $named = [];

    public function __construct(Catalog $catalog)
    {
        $this->dialect = Dialects::ofCatalog($catalog)->grammar() ?? new Grammar();
        foreach ($catalog->tables as $table) {
            $this->tables[$table->place()->key()] = $table;
        }
    }

    /** @return list<Step> none where the text is no query */
    public function of(Reading $reading): array
    {
        [$this->reading, $this->steps, $this->named, $this->key, $this->taken, $this->used] = [$reading, [], [], [], [], []];
        try {
            [$query] = Parser::query($reading->text, $this->dialect);
        } catch (SqlFault) {
            return [];
        }
        $flow = $this->query($query);
        $keys = array_map(static fn (array $key): array => array_map(strval(...), array_keys($key)), array_filter($flow->keys));
        usort($keys, static fn (array $a, array $b): int => \count($a) <=> \count($b));
        $this->key = $keys[0] ?? [];

        return Lanes::of($this->steps);
    }

    /** @param list<int> $inputs */
    private function step(
        string $kind,
        string $words,
        string $detail = '',
        array $inputs = [],
        string $rows = '',
        ?Place $place = null,
        bool $many = false,
    ): int {
        $this->steps[] = [
            'kind' => $kind, 'words' => $words, 'detail' => $detail, 'rows' => $rows, 'inputs' => $inputs, 'schema' => $place->schema ?? '',
            'table' => $place->name ?? '',
            'named' => '', 'many' => $many,
        ];

        return \count($this->steps) - 1;
    }

    private function query(Query $query): Flow
    {
        foreach ($query->with as $named) {
            $this->named($named);
        }
        $flow = $this->body($query->body);
        if ([] !== $query->order) {
            $flow->step = $this->step(
                'order',
                'Put them in order',
                implode(', ', array_map(fn (Sorted $sorted): string => $this->orderText($sorted, $query->body), $query->order)),
                [$flow->step],
            );
        }
        if (null !== $query->skip) {
            $flow->step = $this->step('limit', 'Leave out the first rows', $this->text($query->skip), [$flow->step]);
        }
        if (null !== $query->limit) {
            $flow->step = $this->step(
                'limit',
                $query->limit instanceof Literal ? \sprintf('Keep the first %s', $this->text($query->limit)) : 'Keep the first rows',
                $query->limit instanceof Literal ? '' : $this->text($query->limit),
                [$flow->step],
            );
        }

        return $flow;
    }

    private function orderText(Sorted $sorted, Body $body): string
    {
        $item = $body instanceof Select && $sorted->by instanceof Literal && 'number' === $sorted->by->kind
            ? $body->items[(int) $sorted->by->text - 1] ?? null : null;

        return null === $item ? $this->text($sorted) : ($item->name ?? $this->text($item->value)).($sorted->descending ? ' DESC' : '');
    }

    private function named(Named $named): void
    {
        $name = $this->fold($named->name);
        $body = $named->query->body;
        if ($body instanceof Combined && 'UNION' === $body->kind && self::names($body->right, $name, $this->fold(...))) {
            foreach ($named->query->with as $inner) {
                $this->named($inner);
            }
            $first = $this->body($body->left);
            $this->named[$name] = new Flow(-1, $named->name);
            $again = $this->body($body->right);
            $first->step = $this->step('repeat', 'Go on with what was found, until nothing new comes', '', [$first->step, $again->step]);
            $first->keys = [];
        } else {
            $first = $this->query($named->query);
        }
        $this->steps[$first->step]['named'] = $named->name;
        $first->label = $named->name;
        $this->named[$name] = $first;
    }

    /** Whether a query takes rows from a name. */
    private static function names(Node $node, string $name, callable $fold): bool
    {
        if ($node instanceof TableRef && 1 === \count($node->names) && $fold($node->names[0]) === $name) {
            return true;
        }
        foreach (get_object_vars($node) as $value) {
            foreach (\is_array($value) ? $value : [$value] as $each) {
                if ($each instanceof Node && self::names($each, $name, $fold)) {
                    return true;
                }
            }
        }

        return false;
    }

    private function body(Body $body): Flow
    {
        return match (true) {
            $body instanceof Query => $this->query($body),
            $body instanceof Combined => $this->combined($body),
            $body instanceof Select => $this->select($body),
            $body instanceof ValuesOf => new Flow(
                $this->step(
                    'values',
                    \sprintf('Take %s that %s in the query itself', Amount::of(\count($body->rows), 'row'), 1 === \count($body->rows) ? 'stands' : 'stand'),
                ),
                'these rows',
            ),
            default => new Flow($this->step('unread', 'Something that was not understood', $this->text($body)), 'rows'),
        };
    }

    private function combined(Combined $body): Flow
    {
        $chain = [];
        $left = $body;
        while ($left instanceof Combined) {
            $chain[] = $left;
            $left = $left->left;
        }
        $flow = $this->body($left);
        foreach (array_reverse($chain) as $step) {
            $right = $this->body($step->right);
            [$kind, $words] = match ($step->kind) {
                'UNION' => ['union', $step->all ? 'Put these rows below the others' : 'Put these rows below the others, each row once'],
                'INTERSECT' => ['intersect', 'Keep the rows that both have'],
                default => ['subtract', 'Take these rows away from the others'],
            };
            $flow = new Flow($this->step($kind, $words, '', [$flow->step, $right->step]), 'rows');
        }

        return $flow;
    }

    private function select(Select $select): Flow
    {
        $conditions = null === $select->where ? [] : self::conjuncts($select->where);
        $flow = null;
        foreach ($select->from as $source) {
            $next = $this->source($source, $flow);
            $flow = null === $flow ? $next : $this->beside($flow, $next, $conditions, $source);
        }
        $flow ??= new Flow($this->step('values', 'Begin with one row'), 'the row');
        if ([] !== $conditions) {
            $flow->step = $this->step('filter', 'Keep only rows where', implode(' AND ', array_map($this->text(...), $conditions)), [$flow->step]);
        }
        if ([] !== $select->repeat) {
            $flow->step = $this->step('repeat', 'Go down from row to row', implode('; ', array_map($this->text(...), $select->repeat)), [$flow->step]);
        }
        $this->grouped($select, $flow);
        $this->ranked($select, $flow);
        if ([] !== $select->on) {
            $flow->step = $this->step('distinct', 'Keep the first row of each', implode(', ', array_map($this->text(...), $select->on)), [$flow->step]);
        } elseif ($select->distinct) {
            $flow->step = $this->step('distinct', 'Keep each different row once', '', [$flow->step]);
        }
        if (null !== $select->top) {
            $flow->step = $this->step('limit', 'Keep the first '.$this->text($select->top), '', [$flow->step]);
        }
        $this->renamed($select, $flow);

        return $flow;
    }

    private function grouped(Select $select, Flow $flow): void
    {
        $calls = [];
        foreach ($select->items as $item) {
            self::calls($item->value, $calls);
        }
        $sums = array_values(
            array_filter(
                $calls,
                fn (Call $call): bool => null === $call->over && $this->dialect->typing()->isAggregate(strtolower($call->names[\count($call->names) - 1])),
            ),
        );
        if ([] !== $select->group) {
            $group = array_map(static fn (Expression $by): Expression => self::meant($by, $select), $select->group);
            $by = implode(', ', array_map($this->text(...), $group));
            $words = 'One row for each different '.(\count($select->group) > 1 ? 'set of' : 'value of');
            $how = [
                'ROLLUP' => ', and one for each total above them',
                'CUBE' => ', and one for each total of any of them',
                'SETS' => ', as grouping sets say',
            ][$select->grouping] ?? '';
            $flow->step = $this->step('group', $words, $by.$how, [$flow->step]);
            $flow->keys = '' === $select->grouping ? [
                array_fill_keys(array_map(fn (Expression $by): string => $this->fieldOf($by, $flow) ?? $this->text($by), $group), true),
            ] : [];
        } elseif ([] !== $sums) {
            $flow->step = $this->step('group', 'One row of all of them', '', [$flow->step]);
            $flow->keys = [[]];
        }
        if (null !== $select->having) {
            $flow->step = $this->step(
                'filter',
                [] === $select->group ? 'Keep it only where' : 'Keep only groups where',
                $this->text($select->having),
                [$flow->step],
            );
        }
    }

    /** A number stands for a field of the list. */
    private static function meant(Expression $by, Select $select): Expression
    {
        return $by instanceof Literal && 'number' === $by->kind ? $select->items[(int) $by->text - 1]->value ?? $by : $by;
    }

    private function ranked(Select $select, Flow $flow): void
    {
        $calls = [];
        foreach ($select->items as $item) {
            self::calls($item->value, $calls);
        }
        $over = array_values(array_filter($calls, static fn (Call $call): bool => null !== $call->over));
        if ([] === $over) {
            return;
        }
        $names = array_values(array_unique(array_map(static fn (Call $call): string => strtolower($call->names[\count($call->names) - 1]), $over)));
        $windows = [];
        foreach ($over as $call) {
            $window = $call->over;
            $named = null !== $window?->name ? ($select->windows[$window->name] ?? $window) : $window;
            $windows[] = null === $named ? '' : trim($this->text($named), '()');
        }
        $windows = array_values(array_filter(array_unique($windows)));
        $flow->step = $this->step('rank', \sprintf('Compare each row with others: %s', implode(', ', $names)), implode('; ', $windows), [$flow->step]);
    }

    /** What tells the rows apart, in the names that the query gives. */
    private function renamed(Select $select, Flow $flow): void
    {
        $names = [];
        foreach ($select->items as $item) {
            $field = $this->fieldOf($item->value, $flow) ?? $this->text($item->value);
            $names[$field] ??= $item->name ?? ($item->value instanceof Ref ? $item->value->names[\count($item->value->names) - 1] : $field);
            if ($item->value instanceof \Fasti\Core\Sql\Tree\Star) {
                $names['*'] = '*';
            }
        }
        $keys = [];
        foreach ($flow->keys as $key) {
            $renamed = [];
            foreach (array_keys($key) as $field) {
                $name = $names[$field] ?? (isset($names['*']) ? substr((string) strrchr('.'.$field, '.'), 1) : null);
                if (null === $name) {
                    continue 2;
                }
                $renamed[$this->fold($name)] = true;
            }
            $keys[] = $renamed;
        }
        $flow->keys = $keys;
        $flow->places = [];
    }

    private function source(Source $source, ?Flow $before): Flow
    {
        return match (true) {
            $source instanceof TableRef => $this->table($source),
            $source instanceof Derived => $this->derived($source),
            $source instanceof Produced => new Flow(
                $this->step('make', 'Make rows with', implode(', ', array_map($this->text(...), $source->calls))),
                $source->alias ?? $source->calls[0]->names[\count($source->calls[0]->names) - 1],
                [$this->fold($source->alias ?? $source->calls[0]->names[\count($source->calls[0]->names) - 1]) => ''],
            ),
            $source instanceof Joined => $this->joined($source),
            default => new Flow(
                $this->step('unread', 'Something that was not understood', $source instanceof UnreadSource ? $source->text : $this->text($source)),
                'rows',
            ),
        };
    }

    private function table(TableRef $ref): Flow
    {
        $name = $ref->names[\count($ref->names) - 1];
        $alias = $this->fold($ref->alias ?? $name);
        $called = null !== $ref->alias && $this->fold($ref->alias) !== $this->fold($name) ? \sprintf(', called %s', $ref->alias) : '';
        $place = $this->reading->tableAt[$ref->at] ?? null;
        $named = null === $place && 1 === \count($ref->names) ? $this->named[$this->fold($name)] ?? null : null;
        if (null !== $named) {
            if (-1 === $named->step) {
                return new Flow($this->step('take', 'Take what was found last'.$called), $ref->alias ?? $name, [$alias => '']);
            }
            $used = isset($this->used[$named->step]);
            $this->used[$named->step] = true;
            $step = $used ? $this->step('take', \sprintf('Take %s once more', $named->label).$called) : $named->step;

            return new Flow($step, $ref->alias ?? $name, [$alias => ''], self::under($alias, $named->keys));
        }
        $table = null === $place ? null : $this->tables[$place->key()] ?? null;
        $keys = [];
        foreach (null === $table ? [] : array_filter([$table->primaryKey, ...$table->uniqueKeys]) as $key) {
            $keys[] = array_fill_keys(array_map($this->fold(...), $key->columns), true);
        }

        $step = $this->step('take', 'Take '.$name.$called, '', [], '', $place);
        // Of a table that is taken twice, each is called by its own name.
        $again = null !== $ref->alias && '' !== $called && (isset($this->taken[$name]) || \strlen($ref->alias) > 2) ? $ref->alias : null;
        $this->taken[$name] = true;

        return new Flow(
            $step,
            $again ?? $name,
            [$alias => null === $place ? '' : $place->key()],
            self::under($alias, $keys),
        );
    }

    private function derived(Derived $source): Flow
    {
        $flow = $this->query($source->query);
        $alias = $this->fold($source->alias ?? '');
        if (null !== $source->alias) {
            $this->steps[$flow->step]['named'] = $source->alias;
        }

        return new Flow($flow->step, $source->alias ?? 'these rows', [$alias => ''], [] === $source->columns ? self::under($alias, $flow->keys) : []);
    }

    /**
     * @param list<array<string, true>> $keys
     *
     * @return list<array<string, true>>
     */
    private static function under(string $alias, array $keys): array
    {
        return array_map(
            static fn (array $key): array => array_fill_keys(
                array_map(static fn (string $field): string => "$alias.$field", array_map(strval(...), array_keys($key))),
                true,
            ),
            $keys,
        );
    }

    private function joined(Joined $join): Flow
    {
        $chain = [];
        $left = $join;
        while ($left instanceof Joined) {
            $chain[] = $left;
            $left = $left->left;
        }
        $flow = $this->source($left, null);
        foreach (array_reverse($chain) as $step) {
            $right = $this->source($step->right, $flow);
            $flow = $this->put($flow, $right, $step);
        }

        return $flow;
    }

    private function put(Flow $left, Flow $right, Joined $join): Flow
    {
        $detail = match (true) {
            null !== $join->on => $this->text($join->on),
            [] !== $join->using => 'using '.implode(', ', $join->using),
            $join->natural => 'by the fields that have the same name',
            default => '',
        };
        $words = match ($join->kind) {
            'LEFT' => \sprintf('Join %s where there is any; rows without stay', $right->label),
            'RIGHT' => \sprintf('Join %s, all of it; rows without any drop out', $right->label),
            'FULL' => \sprintf('Join %s; rows of either side without the other stay', $right->label),
            'CROSS' => \sprintf('Put each row beside every row of %s', $right->label),
            'APPLY' => \sprintf('Put each row beside what %s gives for it', $right->label),
            'OUTER APPLY' => \sprintf('Put each row beside what %s gives for it; rows without stay', $right->label),
            default => \sprintf('Join %s; rows without drop out', $right->label),
        };
        $equal = null !== $join->on ? $this->equalities(self::conjuncts($join->on), $left, $right) : [];
        foreach ($join->using as $name) {
            $equal[] = [$this->inEither($left, $name), $this->inEither($right, $name)];
        }

        $fixed = null === $join->on ? [] : $this->fixed(self::conjuncts($join->on), $right);

        return $this->besides(
            $left,
            $right,
            $words,
            $detail,
            [...$equal, ...$fixed],
            \in_array($join->kind, ['CROSS', 'APPLY', 'OUTER APPLY'], true) && [] === $equal,
        );
    }

    /**
     * What stands beside others by a comma: what is compared in WHERE joins them.
     *
     * @param list<Expression> $conditions those that are used up are taken out
     */
    private function beside(Flow $left, Flow $right, array &$conditions, Source $source): Flow
    {
        if ($source instanceof Produced || ($source instanceof Derived && $source->lateral)) {
            return $this->besides($left, $right, \sprintf('Put each row beside what %s gives for it', $right->label), '', [], true);
        }
        $used = $equal = $others = [];
        foreach ($conditions as $condition) {
            $found = $this->equalities([$condition], $left, $right);
            if ([] !== $found) {
                $used[] = $this->text($condition);
                array_push($equal, ...$found);
            } else {
                $others[] = $condition;
            }
        }
        $conditions = $others;
        $words = [] === $equal ? \sprintf('Put each row beside every row of %s', $right->label) : \sprintf('Join %s; rows without drop out', $right->label);

        return $this->besides($left, $right, $words, implode(' AND ', $used), $equal, [] === $equal);
    }

    /** @param list<array{string, string}> $equal fields of the left and of the right, as `alias.field` */
    private function besides(Flow $left, Flow $right, string $words, string $detail, array $equal, bool $crossed): Flow
    {
        $ofLeft = array_fill_keys(array_column($equal, 0), true);
        $ofRight = array_fill_keys(array_column($equal, 1), true);
        $oneRight = self::covers($right->keys, $ofRight);
        $oneLeft = self::covers($left->keys, $ofLeft);
        $rows = $crossed ? '' : \sprintf(
            '%s %s to each row, %s to each %s',
            match (true) {
                !$oneRight => 'any number of',
                $this->isSure($left, $right, $equal) => 'exactly one',
                default => 'at most one',
            },
            $right->label,
            $oneLeft ? 'at most one row' : 'any number of rows',
            $right->label,
        );
        $step = $this->step('join', $words, $detail, [$left->step, $right->step], $rows, null, !$oneRight);
        $keys = [];
        if ($oneRight) {
            $keys = $left->keys;
        }
        if ($oneLeft) {
            array_push($keys, ...$right->keys);
        }
        if ([] === $keys) {
            foreach (\array_slice($left->keys, 0, 3) as $a) {
                foreach (\array_slice($right->keys, 0, 3) as $b) {
                    $keys[] = $a + $b;
                }
            }
        }

        return new Flow($step, 'rows', $left->places + $right->places, $keys);
    }

    /**
     * Whether a reference that may not be empty leads there.
     *
     * @param list<array{string, string}> $equal
     */
    private function isSure(Flow $left, Flow $right, array $equal): bool
    {
        $target = array_values($right->places)[0] ?? '';
        foreach ($left->places as $alias => $place) {
            foreach ($this->tables[$place]->foreignKeys ?? [] as $key) {
                $pairs = [];
                foreach ($key->columns as $i => $column) {
                    $pairs[] = [$alias.'.'.$this->fold($column), array_key_first($right->places).'.'.$this->fold($key->references->columns[$i] ?? '')];
                }
                $required = [] === array_filter($key->columns, fn (string $column): bool => $this->tables[$place]->column($column)->nullable ?? true);
                if ($required && $target === (new Place($key->references->schema, $key->references->table))->key()
                    && [] === array_udiff($pairs, $equal, static fn (array $a, array $b): int => $a <=> $b)) {
                    return true;
                }
            }
        }

        return false;
    }

    /**
     * @param list<array<string, true>> $keys
     * @param array<string, true>       $fields
     */
    private static function covers(array $keys, array $fields): bool
    {
        foreach ($keys as $key) {
            if ([] === array_diff_key($key, $fields)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param list<Expression> $conditions
     *
     * @return list<array{string, string}> fields of the left and of the right that must be equal
     */
    private function equalities(array $conditions, Flow $left, Flow $right): array
    {
        $found = [];
        foreach ($conditions as $condition) {
            if (!$condition instanceof Operation || '=' !== $condition->sign || 2 !== \count($condition->operands)) {
                continue;
            }
            [$a, $b] = $condition->operands;
            $pair = [$this->fieldOf($a, $left), $this->fieldOf($b, $right)];
            if (null === $pair[0] || null === $pair[1]) {
                $pair = [$this->fieldOf($b, $left), $this->fieldOf($a, $right)];
            }
            if (null !== $pair[0] && null !== $pair[1]) {
                $found[] = [$pair[0], $pair[1]];
            }
        }

        return $found;
    }

    /**
     * Fields of the right that must equal a value which does not depend on it.
     *
     * @param list<Expression> $conditions
     *
     * @return list<array{string, string}>
     */
    private function fixed(array $conditions, Flow $right): array
    {
        $found = [];
        foreach ($conditions as $condition) {
            if ($condition instanceof Operation && '=' === $condition->sign && 2 === \count($condition->operands)) {
                foreach ([0, 1] as $side) {
                    $field = $this->fieldOf($condition->operands[$side], $right);
                    $other = $condition->operands[1 - $side];
                    if (null !== $field && ($other instanceof Literal || ($other instanceof Call && [] === $other->arguments))) {
                        $found[] = ['', $field];
                    }
                }
            }
        }

        return $found;
    }

    /** @return ?string `alias.field` where an expression is a field of these rows */
    private function fieldOf(Expression $expression, Flow $flow): ?string
    {
        if (!$expression instanceof Ref) {
            return null;
        }
        $name = $this->fold($expression->names[\count($expression->names) - 1]);
        if (\count($expression->names) > 1) {
            $alias = $this->fold($expression->names[\count($expression->names) - 2]);

            return isset($flow->places[$alias]) ? "$alias.$name" : null;
        }
        $place = ($this->reading->fieldAt[$expression->at] ?? null)?->place()->key();
        $aliases = array_keys(array_filter($flow->places, static fn (string $of): bool => $of === $place));
        if (1 === \count($aliases)) {
            return $aliases[0].'.'.$name;
        }

        return null === $place && 1 === \count($flow->places) ? array_key_first($flow->places).'.'.$name : null;
    }

    private function inEither(Flow $flow, string $name): string
    {
        $name = $this->fold($name);
        foreach ($flow->places as $alias => $place) {
            foreach ($this->tables[$place]->columns ?? [] as $column) {
                if ($this->fold($column->name) === $name) {
                    return "$alias.$name";
                }
            }
        }

        return array_key_last($flow->places).'.'.$name;
    }

    /** @return list<Expression> */
    private static function conjuncts(Expression $condition): array
    {
        if (!$condition instanceof Operation || 'AND' !== $condition->sign) {
            return [$condition];
        }
        $all = [];
        foreach ($condition->operands as $operand) {
            array_push($all, ...self::conjuncts($operand));
        }

        return $all;
    }

    /** @param list<Call> $calls */
    private static function calls(Node $node, array &$calls): void
    {
        if ($node instanceof Query) {
            return;
        }
        if ($node instanceof Call) {
            $calls[] = $node;
        }
        foreach (get_object_vars($node) as $value) {
            foreach (\is_array($value) ? $value : [$value] as $each) {
                foreach (\is_array($each) ? $each : [$each] as $one) {
                    if ($one instanceof Node) {
                        self::calls($one, $calls);
                    }
                }
            }
        }
    }

    private function fold(string $name): string
    {
        return $this->dialect->anyCase ? mb_strtolower($name) : $name;
    }

    private function text(Node $node): string
    {
        return $this->between($node, $node);
    }

    private function between(Node $first, Node $last): string
    {
        return trim((string) preg_replace('/\s+/', ' ', substr($this->reading->text, $first->at, $last->end - $first->at)));
    }
}
