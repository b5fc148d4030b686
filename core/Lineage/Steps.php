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
    public array $tables = [];
    public Reading $reading;
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

    public readonly JoinSteps $joins;

    public function __construct(Catalog $catalog)
    {
        $this->joins = new JoinSteps($this);
        $this->dialect = Dialects::ofCatalog($catalog)->grammar() ?? new Grammar();
        foreach ($catalog->tables as $table) {
            $this->tables[$table->place()->key()] = $table;
        }
    }

    /** @return list<Step> none where the text is no query */
    public function of(Reading $reading): array
    {
        $this->reading = $reading;
        $this->steps = [];
        $this->named = [];
        $this->key = [];
        $this->taken = [];
        $this->used = [];
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
    public function step(
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
        $conditions = null === $select->where ? [] : JoinSteps::conjuncts($select->where);
        $flow = null;
        foreach ($select->from as $source) {
            $next = $this->source($source, $flow);
            $flow = null === $flow ? $next : $this->joins->beside($flow, $next, $conditions, $source);
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
                array_fill_keys(array_map(fn (Expression $by): string => $this->joins->fieldOf($by, $flow) ?? $this->text($by), $group), true),
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
            $field = $this->joins->fieldOf($item->value, $flow) ?? $this->text($item->value);
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

    public function source(Source $source, ?Flow $before): Flow
    {
        return match (true) {
            $source instanceof TableRef => $this->table($source),
            $source instanceof Derived => $this->derived($source),
            $source instanceof Produced => new Flow(
                $this->step('make', 'Make rows with', implode(', ', array_map($this->text(...), $source->calls))),
                $source->alias ?? $source->calls[0]->names[\count($source->calls[0]->names) - 1],
                [$this->fold($source->alias ?? $source->calls[0]->names[\count($source->calls[0]->names) - 1]) => ''],
            ),
            $source instanceof Joined => $this->joins->joined($source),
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

    public function fold(string $name): string
    {
        return $this->dialect->queries->anyCase ? mb_strtolower($name) : $name;
    }

    public function text(Node $node): string
    {
        return $this->between($node, $node);
    }

    private function between(Node $first, Node $last): string
    {
        return trim((string) preg_replace('/\s+/', ' ', substr($this->reading->text, $first->at, $last->end - $first->at)));
    }
}
