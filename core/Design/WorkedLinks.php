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
        foreach ($this->all->design->joins as $join) {
            if ($join->isLink()) {
                $this->link($join);
            }
        }
    }

    private function link(DesignJoin $join): void
    {
        $linked = $this->ends($join);
        if (null === $linked) {
            return;
        }
        [$a, $b] = $linked;
        $name = '' !== $join->link ? $join->link : mb_strtolower($a->name).' '.mb_strtolower($b->name);
        $table = $this->named($name);
        $why = new Why('links', WorkedKeys::sentence($join).', and the other way round: many at both ends');
        $table->why = $why;
        $table->join = $join;
        $table->table = $join->table;
        $table->schema = $a->schema;
        $table->grain = \sprintf('%s and %s that go together', mb_strtolower($a->name), mb_strtolower($b->name));
        $this->ownKey($table, $join, $name);
        $far = match (true) {
            '' !== $join->role => $join->role,
            $a === $b => 'other '.mb_strtolower($b->name),
            default => '',
        };
        $near = $this->leading($table, $a, '', $why);
        $back = $this->leading($table, $b, $far, $why);
        $changing = $this->all->rest->changing();
        $deleting = $join->onDelete ?? 'CASCADE';
        $table->references[] = new WorkedReference($near, $a->key, $a->primary, $join->constraint, $deleting, $changing, null, $a->name, $why);
        $role = '' !== $join->role ? $join->role : $b->name;
        $table->references[] = new WorkedReference($back, $b->key, $b->primary, null, 'RESTRICT', $changing, null, $role, $why);
        foreach ($join->attributes as $attribute) {
            $table->add('a:'.Names::key($attribute->name), WorkedColumn::of($attribute));
        }
        $this->keys($table, $join, [...$near, ...$back]);
        $this->all->tables[$table->key] = $table;
    }

    /** @return array{WorkedTable, WorkedTable}|null null, with a finding, where the two cannot be linked */
    private function ends(DesignJoin $join): ?array
    {
        $from = $this->all->tablesOf($join->from);
        $to = $this->all->tablesOf($join->to);
        if (1 !== \count($from) || 1 !== \count($to)) {
            $this->all->finding(
                'no one table',
                $join->line,
                \sprintf('%s and %s cannot be linked, since kinds have a table each.', $join->from, $join->to),
                'Let kinds share a table, or add to that of the whole.',
                $join->from,
                serious: true,
            );

            return null;
        }
        $a = $this->all->tables[$from[0]];
        $b = $this->all->tables[$to[0]];
        if ([] === $a->primary || [] === $b->primary) {
            $this->all->finding(
                'no key',
                $join->line,
                \sprintf('%s and %s cannot be linked: one of them has no key.', $join->from, $join->to),
                'Say what tells its rows apart.',
                $join->from,
                serious: true,
            );

            return null;
        }

        return [$a, $b];
    }

    /** A table whose name is not taken. */
    private function named(string $name): WorkedTable
    {
        $key = 'l:'.Names::key($name);
        for ($m = 2; isset($this->all->tables[$key]) || isset($this->all->tables['t:'.substr($key, 2)]); ++$m) {
            $key = 'l:'.Names::key($name).' '.$m;
        }

        return new WorkedTable($key, 'link', mb_strtoupper(mb_substr($name, 0, 1)).mb_substr($name, 1).($m > 2 ? ' '.($m - 1) : ''));
    }

    private function ownKey(WorkedTable $table, DesignJoin $join, string $name): void
    {
        $numbered = $this->all->design->rules->is('links', 'number') || ($join->again && [] === $join->keys);
        $mode = $join->keyed ?? ($numbered ? 'number' : 'both');
        if ('number' !== $mode && 'uuid' !== $mode) {
            return;
        }
        $called = $this->all->design->rules->is('keyName', 'thing') ? $name.' id' : 'id';
        $own = new WorkedColumn($called, 'number' === $mode ? new GeneralType('whole', 32) : new GeneralType('UUID'), true);
        $own->numbered = 'number' === $mode;
        $own->why = new Why('links', $join->again && null === $join->keyed ? 'the same two may be linked again' : Rules::sentence('links', 'number'));
        $table->primary = [$table->add('key', $own)];
    }

    /**
     * What tells two links apart.
     *
     * @param list<string> $both the columns of both ends
     */
    private function keys(WorkedTable $table, DesignJoin $join, array $both): void
    {
        $keys = array_map(
            fn (Identifier $key): array => ['columns' => $this->all->identifying->resolved($table, $key, $table->name), 'name' => $key->name, 'why' => null],
            $join->keys,
        );
        if ([] === $keys && !$join->again) {
            $keys = [['columns' => $both, 'name' => null, 'why' => new Why('links', 'so that the same two are not linked twice')]];
        }
        foreach ($keys as $i => $unique) {
            if (0 === $i && [] === $table->primary) {
                $table->primary = $unique['columns'];
                $table->primaryName = $unique['name'];
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
            $table->why = $why;
            $table->schema = $of->schema;
            $table->thing = null;
            $table->grain = \sprintf('%s of %s', $attribute->name, Noun::withArticle(mb_strtolower($thing->name)));
            $columns = $this->leading($table, $of, '', $why);
            $value = WorkedColumn::of($attribute);
            $value->required = true;
            $value->column = $attribute->column;
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
            $column->required = true;
            $column->why = $why;
            $columns[] = $table->add('p:'.Names::key('' === $role ? $to->name : $role).':'.$key, $column);
        }

        return $columns;
    }
}
