<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Wording\Noun;

/** Keys of tables, and what leads to them. */
final class WorkedKeys
{
    public function __construct(private readonly Working $all)
    {
    }

    /** Gives a table its key and its columns; those that it leads to first, since their keys come into it. */
    public function key(string $key): void
    {
        if (isset($this->all->keyed[$key]) || isset($this->all->open[$key])) {
            return;
        }
        $table = $this->all->tables[$key];
        $thing = $table->thing;
        if (null === $thing) {
            return;
        }
        $this->all->open[$key] = true;
        $keys = $thing->keys[0] ?? null;
        $single = self::single($thing);
        $mode = $this->before($key, $table, $thing, null !== $keys || null !== $single);
        if ('natural' === $mode && [] === $table->primary && !$thing->period) {
            $this->early($table, $thing, $keys, $single);
        }
        // Those in the key first: their own keys have to be known.
        foreach ($this->all->parents[$key] ?? [] as $join) {
            if ([] === $join->through) {
                $this->lead($table, $join);
            }
        }
        $this->attributes($table, $thing);
        foreach ($this->all->parents[$key] ?? [] as $join) {
            if ([] !== $join->through) {
                $this->lead($table, $join);
            }
        }
        $this->kindColumn($table, $thing);
        $from = $thing->period ? self::period($table) : null;
        if ('natural' === $mode && [] === $table->primary) {
            $columns = null !== $keys ? $this->all->identifying->resolved($table, $keys, $thing->name) : ['a:'.Names::key($single->name ?? '')];
            if (null !== $from) {
                $columns[] = $from;
            }
            $table->primary = array_values(array_unique($columns));
            $table->primaryName = $keys?->name;
            foreach ($table->primary as $column) {
                if (true !== $table->columns[$column]->attribute?->mayBeEmpty) {
                    $table->columns[$column]->required = true;
                }
            }
        }
        $table->primaryName = $thing->keyName ?? $table->primaryName;
        unset($this->all->open[$key]);
        $this->all->keyed[$key] = true;
    }

    /** The first attribute that tells the rows of a thing apart by itself. */
    private static function single(Thing $thing): ?Attribute
    {
        foreach ($thing->attributes as $attribute) {
            if ($attribute->unique && $attribute->required && !$attribute->several) {
                return $attribute;
            }
        }

        return null;
    }

    /**
     * A key that stands before all else: that of the whole, or one of its own.
     *
     * @return string how the table is keyed
     */
    private function before(string $key, WorkedTable $table, Thing $thing, bool $natural): string
    {
        $up = null === $thing->kindOf ? null : $this->all->design->thing($thing->kindOf);
        $upTable = null === $up || $this->all->design->rules->is('kinds', 'each') ? null : ($this->all->stand[Names::key($up->name)] ?? null);
        $mode = $thing->keyed ?? $this->all->design->rules->of('keys');
        $ruled = null === $thing->keyed;
        $reason = null;
        if ('natural' === $mode && !$natural) {
            $mode = 'number';
            $reason = new Why('keys', 'nothing tells its rows apart, so that it has a number of its own');
        }
        if (null !== $upTable && $upTable !== $key) {
            $this->key($upTable);
            $this->ofKind($table, $this->all->tables[$upTable]);
        } elseif ('number' === $mode || 'uuid' === $mode) {
            $name = $this->all->design->rules->is('keyName', 'thing') ? $thing->name.' id' : 'id';
            $column = new WorkedColumn($name, 'number' === $mode ? new GeneralType('whole', 32) : new GeneralType('UUID'), true);
            $column->numbered = 'number' === $mode;
            $column->why = $reason ?? new Why($ruled ? 'keys' : '', $ruled ? Rules::sentence('keys', $mode) : 'it is decided for this thing');
            $table->primary = [$table->add('key', $column)];
        }

        return $mode;
    }

    private function attributes(WorkedTable $table, Thing $thing): void
    {
        foreach ($this->all->identifying->attributesOf($thing) as [$attribute, $of]) {
            if ($attribute->several) {
                continue;
            }
            $column = WorkedColumn::of($attribute);
            if ($of !== $thing && $this->all->design->rules->is('kinds', 'one')) {
                $column->required = false;
                $column->why = new Why('kinds', \sprintf('it is known of %s only, which shares this table', Noun::plural(mb_strtolower($of->name))));
            } elseif ($of !== $thing) {
                $column->why = new Why('kinds', \sprintf('it is known of every %s', mb_strtolower($of->name)));
            }
            $own = 'a:'.Names::key($attribute->name);
            if (isset($table->columns[$own]) && $table->columns[$own]->attribute === $attribute) {
                // It was needed early; it stands where it is written.
                $column = $table->columns[$own];
                unset($table->columns[$own]);
                $table->columns[$own] = $column;
                continue;
            }
            $table->add($own, $column);
        }
    }

    /** @return string the column from which a row is valid */
    private static function period(WorkedTable $table): string
    {
        $from = new WorkedColumn('valid from', new GeneralType('date'), true);
        $until = new WorkedColumn('valid until', new GeneralType('date'));
        $from->why = $until->why = new Why('', 'it is valid for a period');
        $key = $table->add('valid from', $from);
        $until->limits = [new Limit('after', $table->columns[$key]->name)];
        $table->add('valid until', $until);

        return $key;
    }

    /** A natural key of nothing but attributes is there before anything leads to it, so that things may lead to each other. */
    private function early(WorkedTable $table, Thing $thing, ?Identifier $keys, ?Attribute $single): void
    {
        $parts = null === $keys ? [$single] : array_map($thing->attribute(...), $keys->parts);
        foreach ($parts as $part) {
            if (null === $part || $part->several) {
                return;
            }
        }
        foreach (array_filter($parts) as $part) {
            $own = 'a:'.Names::key($part->name);
            $table->columns[$own] ??= WorkedColumn::of($part);
            $table->columns[$own]->required = !$part->mayBeEmpty;
            $table->primary = array_values(array_unique([...$table->primary, $own]));
        }
        $table->primaryName = $keys?->name;
    }

    private function ofKind(WorkedTable $table, WorkedTable $whole): void
    {
        $why = new Why('kinds', \sprintf('it is a kind of %s, whose key it has', mb_strtolower($whole->name)));
        if ([] === $whole->primary) {
            $this->all->finding(
                'key loop',
                $table->thing->line ?? 0,
                \sprintf('%s has the key of %s, whose own key needs it.', $table->name, mb_strtolower($whole->name)),
                \sprintf('Give %s a number of its own as its key.', mb_strtolower($whole->name)),
                $table->name,
                serious: true,
            );

            return;
        }
        $columns = [];
        foreach ($whole->primary as $key) {
            $column = $this->copied($whole->columns[$key]);
            $column->required = true;
            $column->why = $why;
            $columns[] = $table->add('k:'.$key, $column);
        }
        $table->primary = $columns;
        $table->references[] = new WorkedReference(
            $columns, $whole->key, $whole->primary, null, 'CASCADE', $this->all->rest->changing(), null, $whole->name, $why,
        );
    }

    private function kindColumn(WorkedTable $table, Thing $thing): void
    {
        if (!$this->all->design->rules->is('kinds', 'one')) {
            return;
        }
        $kinds = array_values(array_filter($this->all->design->things, fn (Thing $other): bool => $other !== $thing && $this->all->root($other) === $thing));
        if ([] === $kinds) {
            return;
        }
        $column = new WorkedColumn('kind', new GeneralType('one of', members: [
            mb_strtolower($thing->name), ...array_map(static fn (Thing $kind): string => mb_strtolower($kind->name), $kinds),
        ]), true);
        $column->why = new Why('kinds', Rules::sentence('kinds', 'one'));
        $key = $table->add('kind', $column);
        foreach ($kinds as $kind) {
            foreach ($kind->attributes as $attribute) {
                if ($attribute->required && !$attribute->several) {
                    $table->conditions[] = [
                        'sql' => '%k <> %v OR %a IS NOT NULL', 'name' => null, 'of' => null, 'texts' => ['%v' => mb_strtolower($kind->name)],
                        'columns' => ['%k' => $key, '%a' => 'a:'.Names::key($attribute->name)],
                    ];
                }
            }
        }
    }

    /** The key of a parent comes into a child. */
    private function lead(WorkedTable $child, DesignJoin $join): ?WorkedReference
    {
        $known = $this->all->led[spl_object_id($join)][$child->key] ?? null;
        $parent = null === $known ? $this->parent($join) : null;
        if (null === $parent) {
            return $known;
        }
        $this->key($parent->key);
        $to = [] === $join->key ? $parent->primary : array_map(static fn (string $name): string => 'a:'.Names::key($name), $join->key);
        $to = array_values(array_filter($to, static fn (string $key): bool => isset($parent->columns[$key])));
        if ([] === $to) {
            $this->withoutKey($child, $parent, $join);

            return null;
        }
        $required = $join->parents()->least > 0;
        $columns = [] === $join->through ? $this->comesIn($child, $parent, $to, $join, $required) : $this->through($child, $parent, $to, $join);
        if (null === $columns) {
            return null;
        }
        $action = $join->onDelete ?? Working::ACTIONS[$this->all->design->rules->of('deleting')];
        if (null === $join->onDelete && 'SET NULL' === $action && $required) {
            $action = 'RESTRICT';
        }
        $reference = new WorkedReference(
            $columns,
            $parent->key,
            $to,
            $join->constraint,
            $action,
            $join->onUpdate ?? $this->all->rest->changing(),
            $join,
            '' === $join->role ? $join->parent() : $join->role,
            [] === $join->through ? new Why('', self::sentence($join)) : null,
        );
        $child->references[] = $reference;
        $this->all->led[spl_object_id($join)][$child->key] = $reference;
        if (!$join->children()->many() && [] === $join->through) {
            $child->unique[] = ['columns' => $columns, 'name' => null, 'why' => new Why('', self::sentence($join))];
        }

        return $reference;
    }

    /** The one table that a join leads to. */
    private function parent(DesignJoin $join): ?WorkedTable
    {
        $parents = $this->all->tablesOf($join->parent());
        if (1 === \count($parents)) {
            return $this->all->tables[$parents[0]];
        }
        if ([] !== $parents) {
            $this->all->finding(
                'no one table',
                $join->line,
                \sprintf('%s leads to %s, of which each kind has a table of its own: no key can lead to all of them.', $join->child(), $join->parent()),
                'Let kinds share a table, or add to that of the whole.',
                $join->child(),
                serious: true,
            );
        }

        return null;
    }

    private function withoutKey(WorkedTable $child, WorkedTable $parent, DesignJoin $join): void
    {
        if (isset($this->all->open[$parent->key]) && $parent !== $child) {
            $this->all->finding(
                'key loop',
                $join->line,
                \sprintf('The key of %s needs that of %s, and the other way round.', $join->child(), $join->parent()),
                'Give one of them a number of its own as its key.',
                $join->child(),
                serious: true,
            );
        } elseif ([] === $join->through || null !== $parent->thing && 'none' !== $parent->thing->keyed) {
            $this->all->finding(
                'no key',
                $join->line,
                \sprintf('%s leads to %s, which has no key yet.', $join->child(), $join->parent()),
                'Say what tells its rows apart.',
                $join->parent(),
                serious: true,
            );
        }
    }

    /**
     * The attributes that are said to lead there; null, with a finding, where they cannot.
     *
     * @param list<string> $to
     *
     * @return list<string>|null
     */
    private function through(WorkedTable $child, WorkedTable $parent, array $to, DesignJoin $join): ?array
    {
        $columns = [];
        foreach ($join->through as $name) {
            $key = 'a:'.Names::key($name);
            if (!isset($child->columns[$key])) {
                $this->all->finding(
                    'through',
                    $join->line,
                    \sprintf('%s has no “%s”, through which it should lead to %s.', $child->name, $name, $parent->name),
                    'Write it below the thing, or take “through …” away.',
                    $child->name,
                    serious: true,
                );

                return null;
            }
            $columns[] = $key;
        }
        if (\count($columns) === \count($to)) {
            return $columns;
        }
        $this->all->finding(
            'through',
            $join->line,
            \sprintf('The key of %s has %d attributes, and “through” names %d.', $parent->name, \count($to), \count($columns)),
            'Name one for each.',
            $child->name,
            serious: true,
        );

        return null;
    }

    /**
     * Columns for the key of a parent.
     *
     * @param list<string> $to
     *
     * @return list<string>
     */
    private function comesIn(WorkedTable $child, WorkedTable $parent, array $to, DesignJoin $join, bool $required): array
    {
        $columns = [];
        $why = new Why('', \sprintf('the key of %s, since %s', mb_strtolower($parent->name), self::sentence($join)));
        foreach ($to as $key) {
            $column = $this->copied($parent->columns[$key]);
            $column->name = self::keyName($parent, $parent->columns[$key]->name, $join->role);
            $column->required = $required;
            $column->why = $why;
            $columns[] = $child->add('p:'.Names::key('' === $join->role ? $parent->name : $join->role).':'.$key, $column);
        }

        return $columns;
    }

    public static function sentence(DesignJoin $join): string
    {
        return \sprintf(
            '%s %s %s %s',
            Noun::withArticle(mb_strtolower($join->from)),
            $join->verb,
            $join->count->inWords(),
            $join->count->many() ? Noun::plural(mb_strtolower($join->to)) : mb_strtolower($join->to),
        );
    }

    /** "station" and "id" → "station id"; with a role "home station", "home station id". A key that is named after its thing is not named twice. */
    public static function keyName(WorkedTable $parent, string $key, string $role): string
    {
        $thing = mb_strtolower($parent->name);
        $base = '' === $role ? $thing : mb_strtolower($role);
        $own = mb_strtolower($key);
        $bare = str_starts_with($own, $thing.' ') ? substr($own, \strlen($thing) + 1) : $key;

        return $base.' '.$bare;
    }

    /** A column as it is where it leads to: its type alone. */
    public function copied(WorkedColumn $column): WorkedColumn
    {
        $copy = new WorkedColumn($column->name, $column->type, $column->required);
        $copy->charset = $column->charset;
        $copy->sorted = $column->sorted;

        return $copy;
    }
}
