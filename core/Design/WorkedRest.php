<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;

/** Lists of values, histories, who and when, indexes. */
final class WorkedRest
{
    private const AUDIT = [
        'times' => [['created at', 'instant', true, false], ['changed at', 'instant', true, true]],
        'people' => [['created by', 'text', false, false], ['changed by', 'text', false, false]],
    ];

    public function __construct(private readonly Working $all)
    {
    }

    public function lists(): void
    {
        foreach ($this->all->tables as $table) {
            foreach ($table->columns as $key => $column) {
                $type = $column->type;
                if ('' !== $type->list) {
                    $list = $this->all->design->valueList($type->list);
                    if (null === $list) {
                        if (null !== $column->attribute) {
                            $this->all->finding(
                                'unknown list',
                                $column->attribute->line,
                                \sprintf('There is no list “%s”.', $type->list),
                                \sprintf('Write “Values of %s” and below it a value a line.', $type->list),
                                $table->name,
                                serious: true,
                            );
                        }
                        $column->type = new GeneralType('text', 80);
                        continue;
                    }
                    $column->type = $type = new GeneralType($type->kind, members: $list->members(), list: $list->name);
                }
                if ('one of' !== $type->kind || !$this->all->design->rules->is('lists', 'tables') || [] === $type->members || 'kind' === $key) {
                    continue;
                }
                $name = '' !== $type->list ? $type->list : $table->name.' '.mb_strtolower($column->name);
                $this->toList($table, (string) $key, $column, $name);
            }
        }
    }

    private function toList(WorkedTable $table, string $key, WorkedColumn $column, string $name): void
    {
        $why = new Why('lists', Rules::sentence('lists', 'tables'));
        $values = $this->all->design->valueList($name)->values ?? array_fill_keys($column->type->members, '');
        $listKey = 'v:'.Names::key($name);
        $longest = max([1, ...array_map(static fn (int|string $value): int => mb_strlen((string) $value), array_keys($values))]);
        if (!isset($this->all->tables[$listKey])) {
            $list = new WorkedTable($listKey, 'list', mb_strtoupper(mb_substr($name, 0, 1)).mb_substr($name, 1));
            $list->why = $why;
            $list->grain = 'value that may stand in its place';
            $list->schema = $table->schema;
            $value = new WorkedColumn('value', new GeneralType('text', $longest), true);
            $meaning = new WorkedColumn('meaning', new GeneralType('text', 400));
            $value->why = $meaning->why = $why;
            $list->primary = [$list->add('value', $value)];
            $list->add('meaning', $meaning);
            foreach ($values as $one => $means) {
                $list->rows[] = [(string) $one, $means];
            }
            $this->all->tables[$listKey] = $list;
        }
        $column->type = new GeneralType('text', $longest);
        $table->references[] = new WorkedReference([$key], $listKey, ['value'], null, 'RESTRICT', $this->changing(), null, $column->name, $why);
    }

    public function audit(WorkedTable $table): void
    {
        if ('list' === $table->kind || 'several' === $table->kind) {
            return;
        }
        foreach (self::AUDIT as $rule => $columns) {
            if (!$this->all->design->rules->is($rule, 'yes')) {
                continue;
            }
            foreach ($columns as $i => [$usual, $kind, $required, $changes]) {
                $name = $this->all->design->rules->called[$rule][$i] ?? $usual;
                $column = new WorkedColumn($name, 'text' === $kind ? new GeneralType('text', 80) : new GeneralType($kind), $required);
                $column->whenMade = 'instant' === $kind;
                $column->whenChanged = $changes;
                if ('text' === $kind && isset($this->all->design->rules->filled[$rule])) {
                    $column->given = $this->all->design->rules->filled[$rule];
                    $column->givenSql = true;
                }
                $column->why = new Why($rule, Rules::sentence($rule, 'yes'));
                $table->add('w:'.$usual, $column);
            }
        }
        if ($this->all->design->rules->is('version', 'yes')) {
            $column = new WorkedColumn($this->all->design->rules->called['version'][0] ?? 'version', new GeneralType('whole', 32), true);
            $column->given = '1';
            $column->why = new Why('version', Rules::sentence('version', 'yes'));
            $table->add('w:version', $column);
        }
    }

    public function histories(): void
    {
        foreach ($this->all->tables as $of) {
            if (null === $of->thing || !$of->thing->history || 'thing' !== $of->kind || [] === $of->primary) {
                continue;
            }
            $why = new Why('', \sprintf('%s keeps its history', mb_strtolower($of->thing->name)));
            $table = new WorkedTable('h:'.substr($of->key, 2), 'history', $of->name.' history');
            $table->why = $why;
            $table->schema = $of->schema;
            $table->grain = mb_strtolower($of->name).' as it was from one change to the next';
            $until = new WorkedColumn('until', new GeneralType('instant', decimals: 6), true);
            $until->why = $why;
            foreach ($of->columns as $key => $column) {
                $copy = $this->all->keys->copied($column);
                $copy->why = $why;
                $copy->computed = null;
                $table->add($key, $copy);
            }
            $table->primary = [...$of->primary, $table->add('until', $until)];
            $this->all->tables[$table->key] = $table;
        }
    }

    public function indexes(): void
    {
        if (!$this->all->design->rules->is('indexes', 'yes')) {
            return;
        }
        foreach ($this->all->tables as $table) {
            $led = [$table->primary, ...array_map(static fn (array $unique): array => $unique['columns'], $table->unique)];
            foreach ($table->lookups as $lookup) {
                $led[] = null === $lookup['lookup']->where ? array_map(strval(...), $lookup['columns']) : [];
            }
            foreach ($table->references as $reference) {
                $columns = $reference->columns;
                foreach ($led as $known) {
                    if (\array_slice($known, 0, \count($columns)) === $columns) {
                        continue 2;
                    }
                }
                $led[] = $columns;
                $table->lookups[] = ['lookup' => new Lookup([]), 'columns' => $columns, 'why' => new Why('indexes', Rules::sentence('indexes', 'yes'))];
            }
        }
    }

    /** What happens where a key is changed and nothing else is said. */
    public function changing(): string
    {
        return Working::ACTIONS[$this->all->design->rules->of('changing')];
    }
}
