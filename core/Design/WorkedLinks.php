<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Wording\Noun;

/** Tables for many at both ends, and for attributes of several values. */
final class WorkedLinks
{
    public function __construct(private readonly Working $all)
    {
    }

    public function links(): void
    {
        foreach ($this->all->design->joins as $n => $join) {
            if (!$join->isLink()) {
                continue;
            }
            [$from, $to] = [$this->all->tablesOf($join->from), $this->all->tablesOf($join->to)];
            if (1 !== \count($from) || 1 !== \count($to)) {
                $this->all->finding(
                    'no one table',
                    $join->line,
                    \sprintf('%s and %s cannot be linked, since kinds have a table each.', $join->from, $join->to),
                    'Let kinds share a table, or add to that of the whole.',
                    $join->from,
                    serious: true,
                );
                continue;
            }
            [$a, $b] = [$this->all->tables[$from[0]], $this->all->tables[$to[0]]];
            if ([] === $a->primary || [] === $b->primary) {
                $this->all->finding(
                    'no key',
                    $join->line,
                    \sprintf('%s and %s cannot be linked: one of them has no key.', $join->from, $join->to),
                    'Say what tells its rows apart.',
                    $join->from,
                    serious: true,
                );
                continue;
            }
            $name = '' !== $join->link ? $join->link : mb_strtolower($a->name).' '.mb_strtolower($b->name);
            for ($key = 'l:'.Names::key($name), $m = 2; isset($this->all->tables[$key]) || isset($this->all->tables['t:'.substr($key, 2)]); ++$m) {
                $key = 'l:'.Names::key($name).' '.$m;
            }
            $table = new WorkedTable($key, 'link', mb_strtoupper(mb_substr($name, 0, 1)).mb_substr($name, 1).($m > 2 ? ' '.($m - 1) : ''));
            $why = new Why('links', WorkedKeys::sentence($join).', and the other way round: many at both ends');
            [$table->why, $table->join, $table->table, $table->schema] = [$why, $join, $join->table, $a->schema];
            $table->grain = \sprintf('%s and %s that go together', mb_strtolower($a->name), mb_strtolower($b->name));
            $mode = $join->keyed ?? ($this->all->design->rules->is('links', 'number') || ($join->again && [] === $join->keys) ? 'number' : 'both');
            if ('number' === $mode || 'uuid' === $mode) {
                $own = new WorkedColumn(
                    $this->all->design->rules->is('keyName', 'thing') ? $name.' id' : 'id',
                    'number' === $mode ? new GeneralType('whole', 32) : new GeneralType('UUID'),
                    true,
                );
                [$own->numbered, $own->why] = [
                    'number' === $mode,
                    new Why('links', $join->again && null === $join->keyed ? 'the same two may be linked again' : Rules::sentence('links', 'number')),
                ];
                $table->primary = [$table->add('key', $own)];
            }
            $ends = [
                $this->leading($table, $a, '', $why),
                $this->leading($table, $b, match (true) {
                    '' !== $join->role => $join->role,
                    $a === $b => 'other '.mb_strtolower($b->name),
                    default => '',
                }, $why),
            ];
            foreach ([[$a, $ends[0]], [$b, $ends[1]]] as $i => [$end, $columns]) {
                $action = 0 === $i ? ($join->onDelete ?? 'CASCADE') : 'RESTRICT';
                $table->references[] = new WorkedReference(
                    $columns,
                    $end->key,
                    $end->primary,
                    0 === $i ? $join->constraint : null,
                    $action,
                    $this->all->rest->changing(),
                    null,
                    match (true) {
                        0 === $i => $end->name,
                        '' !== $join->role => $join->role,
                        default => $end->name,
                    },
                    $why,
                );
            }
            foreach ($join->attributes as $attribute) {
                $table->add('a:'.Names::key($attribute->name), WorkedColumn::of($attribute));
            }
            $both = [...$ends[0], ...$ends[1]];
            $keys = array_map(
                fn (Identifier $key): array => [
                    'columns' => $this->all->identifying->resolved($table, $key, $table->name),
                    'name' => $key->name,
                    'why' => null,
                ],
                $join->keys,
            );
            if ([] === $keys && !$join->again) {
                $keys = [['columns' => $both, 'name' => null, 'why' => new Why('links', 'so that the same two are not linked twice')]];
            }
            foreach ($keys as $i => $unique) {
                if (0 === $i && [] === $table->primary) {
                    [$table->primary, $table->primaryName] = [$unique['columns'], $unique['name']];
                    foreach ($unique['columns'] as $column) {
                        $table->columns[$column]->required = true;
                    }
                } else {
                    $table->unique[] = $unique;
                }
            }
            foreach ($join->attributes as $attribute) {
                if ($attribute->unique) {
                    $table->unique[] = ['columns' => ['a:'.Names::key($attribute->name)], 'name' => null, 'why' => null];
                }
            }
            $this->all->tables[$table->key] = $table;
        }
    }

    /** What a row may have any number of becomes a table. */
    public function several(WorkedTable $of, Thing $thing): void
    {
        foreach ($this->all->identifying->attributesOf($thing) as [$attribute]) {
            if (!$attribute->several || [] === $of->primary) {
                continue;
            }
            $why = new Why('', \sprintf('%s may have any number of %s', Noun::withArticle(mb_strtolower($thing->name)), Noun::plural($attribute->name)));
            $table = new WorkedTable(
                's:'.Names::key($thing->name).':'.Names::key($attribute->name),
                'several',
                $thing->name.' '.mb_strtolower($attribute->name),
            );
            [$table->why, $table->schema, $table->thing] = [$why, $of->schema, null];
            $table->grain = \sprintf('%s of %s', $attribute->name, Noun::withArticle(mb_strtolower($thing->name)));
            $columns = $this->leading($table, $of, '', $why);
            $value = WorkedColumn::of($attribute);
            [$value->required, $value->column] = [true, $attribute->column];
            $key = $table->add('a:'.Names::key($attribute->name), $value);
            $table->references[] = new WorkedReference(
                $columns, $of->key, $of->primary, null, 'CASCADE', $this->all->rest->changing(), null, $thing->name, $why,
            );
            $table->primary = [...$columns, $key];
            $this->all->tables[$table->key] = $table;
        }
    }

    /** @return list<string> keys of the columns that hold the key of another table */
    private function leading(WorkedTable $table, WorkedTable $to, string $role, Why $why): array
    {
        $columns = [];
        foreach ($to->primary as $key) {
            $column = $this->all->keys->copied($to->columns[$key]);
            $column->name = WorkedKeys::keyName($to, $to->columns[$key]->name, $role);
            [$column->required, $column->why] = [true, $why];
            $columns[] = $table->add('p:'.Names::key('' === $role ? $to->name : $role).':'.$key, $column);
        }

        return $columns;
    }
}
