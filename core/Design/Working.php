<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;
use Fasti\Core\Wording\Noun;

/**
 * Works out the logical depth of a design: which tables there are, what their keys are and where they go. Each part that nobody wrote
 * says by which rule it came about.
 */
final class Working
{
    private const AUDIT = [
        'times' => [['created at', 'instant', true, false], ['changed at', 'instant', true, true]],
        'people' => [['created by', 'text', false, false], ['changed by', 'text', false, false]],
    ];
    private const ACTIONS = [
        'refused' => 'RESTRICT', 'in the end' => 'NO ACTION', 'deletes' => 'CASCADE', 'follows' => 'CASCADE', 'empties' => 'SET NULL',
    ];

    /** @var array<string, WorkedTable> */
    private array $tables = [];
    /** @var list<DesignFinding> */
    private array $findings = [];
    /** @var array<string, true> tables whose keys are being worked out */
    private array $open = [];
    /** @var array<string, true> */
    private array $keyed = [];
    /** @var array<string, string> key of a thing → key of the table that stands for it */
    private array $stand = [];
    /** @var array<string, list<string>> key of a thing → tables of its kinds, where the whole has none */
    private array $spread = [];
    /** @var array<string, list<DesignJoin>> by key of the table that is the child */
    private array $parents = [];
    /** @var array<int, array<string, WorkedReference>> by number of the join (spl_object_id), then child table */
    private array $led = [];

    private function __construct(private readonly Design $design)
    {
    }

    public static function of(Design $design): Worked
    {
        $self = new self($design);
        $self->things();
        $self->joins();
        foreach (array_keys($self->tables) as $key) {
            $self->key((string) $key);
        }
        $self->links();
        $self->identifiers();
        $self->lists();
        foreach ($self->tables as $table) {
            $self->audit($table);
        }
        $self->histories();
        $self->indexes();

        return new Worked($design, $self->tables, $self->findings);
    }

    // ---- things ----

    private function things(): void
    {
        $rules = $this->design->rules;
        $kinds = [];
        foreach ($this->design->things as $thing) {
            if (null !== $thing->kindOf) {
                null === $this->design->thing($thing->kindOf)
                    ? $this->finding(
                        'unknown kind',
                        $thing->line,
                        \sprintf('%s is a kind of “%s”, which no thing is called.', $thing->name, $thing->kindOf),
                        'Write a block for it, or take the words away.',
                        $thing->name,
                        serious: true,
                    )
                    : $kinds[Names::key($thing->kindOf)][] = $thing;
            }
        }
        foreach ($this->design->things as $thing) {
            $key = Names::key($thing->name);
            $root = $this->root($thing);
            if ($root !== $thing && $rules->is('kinds', 'one')) {
                continue;
            }
            if ($rules->is('kinds', 'each') && isset($kinds[$key])) {
                continue;
            }
            $table = new WorkedTable('t:'.$key, 'thing', $thing->name);
            [$table->thing, $table->grain, $table->meaning, $table->table, $table->schema] = [
                $thing,
                $thing->grain,
                $thing->meaning,
                $thing->table,
                $thing->schema,
            ];
            [$table->stored, $table->sorted, $table->triggers] = [$thing->stored, $thing->sorted, $thing->triggers];
            $this->tables[$table->key] = $table;
            $this->stand[$key] = $table->key;
        }
        foreach ($this->design->things as $thing) {
            $key = Names::key($thing->name);
            if ($rules->is('kinds', 'one') && $this->root($thing) !== $thing) {
                $this->stand[$key] = $this->stand[Names::key($this->root($thing)->name)] ?? '';
            }
            if ($rules->is('kinds', 'each')) {
                for ($up = $thing; null !== $up->kindOf && null !== ($whole = $this->design->thing($up->kindOf)) && $whole !== $thing; $up = $whole) {
                    if (isset($this->stand[$key])) {
                        $this->spread[Names::key($whole->name)][] = $this->stand[$key];
                    }
                }
            }
        }
    }

    private function root(Thing $thing): Thing
    {
        for ($seen = [$thing->name => true]; null !== $thing->kindOf; $seen[$thing->name] = true) {
            $up = $this->design->thing($thing->kindOf);
            if (null === $up || isset($seen[$up->name])) {
                break;
            }
            $thing = $up;
        }

        return $thing;
    }

    /** @return list<string> keys of the tables that stand for a thing */
    private function tablesOf(string $name): array
    {
        $key = Names::key($name);

        return isset($this->stand[$key]) ? [$this->stand[$key]] : ($this->spread[$key] ?? []);
    }

    private function joins(): void
    {
        foreach ($this->design->joins as $join) {
            if ($join->isLink()) {
                continue;
            }
            foreach ($this->tablesOf($join->child()) as $child) {
                $this->parents[$child][] = $join;
            }
        }
    }

    // ---- keys, and what leads to them ----

    /** Gives a table its key and its columns; those that it leads to first, since their keys come into it. */
    private function key(string $key): void
    {
        if (isset($this->keyed[$key]) || isset($this->open[$key])) {
            return;
        }
        $table = $this->tables[$key];
        $thing = $table->thing;
        if (null === $thing) {
            return;
        }
        $this->open[$key] = true;
        $keys = $thing->keys[0] ?? null;
        $single = null;
        foreach ($thing->attributes as $attribute) {
            if (null === $single && $attribute->unique && $attribute->required && !$attribute->several) {
                $single = $attribute;
            }
        }
        $natural = null !== $keys || null !== $single;
        $up = null === $thing->kindOf ? null : $this->design->thing($thing->kindOf);
        $upTable = null === $up || $this->design->rules->is('kinds', 'each') ? null : ($this->stand[Names::key($up->name)] ?? null);
        $mode = $thing->keyed ?? $this->design->rules->of('keys');
        $ruled = null === $thing->keyed;
        if ('natural' === $mode && !$natural) {
            $mode = 'number';
            $reason = new Why('keys', 'nothing tells its rows apart, so that it has a number of its own');
        }
        if (null !== $upTable && $upTable !== $key) {
            $this->key($upTable);
            $this->ofKind($table, $this->tables[$upTable]);
        } elseif ('number' === $mode || 'uuid' === $mode) {
            $name = $this->design->rules->is('keyName', 'thing') ? $thing->name.' id' : 'id';
            $column = new WorkedColumn($name, 'number' === $mode ? new GeneralType('whole', 32) : new GeneralType('UUID'), true);
            $column->numbered = 'number' === $mode;
            $column->why = $reason ?? new Why($ruled ? 'keys' : '', $ruled ? Rules::sentence('keys', $mode) : 'it is decided for this thing');
            $table->primary = [$table->add('key', $column)];
        }
        if ('natural' === $mode && [] === $table->primary && !$thing->period) {
            $this->early($table, $thing, $keys, $single);
        }
        // Those in the key first: their own keys have to be known.
        foreach ($this->parents[$key] ?? [] as $join) {
            if ([] === $join->through) {
                $this->lead($table, $join);
            }
        }
        foreach ($this->attributesOf($thing) as [$attribute, $of]) {
            if ($attribute->several) {
                continue;
            }
            $column = WorkedColumn::of($attribute);
            if ($of !== $thing && $this->design->rules->is('kinds', 'one')) {
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
        foreach ($this->parents[$key] ?? [] as $join) {
            if ([] !== $join->through) {
                $this->lead($table, $join);
            }
        }
        $this->kindColumn($table, $thing);
        if ($thing->period) {
            $from = new WorkedColumn('valid from', new GeneralType('date'), true);
            $until = new WorkedColumn('valid until', new GeneralType('date'));
            $from->why = $until->why = new Why('', 'it is valid for a period');
            $from = $table->add('valid from', $from);
            $until->limits = [new Limit('after', $table->columns[$from]->name)];
            $table->add('valid until', $until);
        }
        if ('natural' === $mode && [] === $table->primary) {
            $columns = null !== $keys ? $this->resolved($table, $keys, $thing->name) : ['a:'.Names::key($single->name ?? '')];
            if ($thing->period) {
                $columns[] = $from ?? 'valid from';
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
        unset($this->open[$key]);
        $this->keyed[$key] = true;
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

    /** @return list<array{Attribute, Thing}> its own, and by the rule for kinds those of the kinds or of the whole */
    private function attributesOf(Thing $thing): array
    {
        $all = [];
        if ($this->design->rules->is('kinds', 'each')) {
            for ($chain = [], $up = $thing; null !== $up->kindOf && null !== ($whole = $this->design->thing($up->kindOf)) && !\in_array($whole, $chain, true);
                $up = $whole) {
                array_unshift($chain, $whole);
            }
            foreach ($chain as $whole) {
                foreach ($whole->attributes as $attribute) {
                    $all[] = [$attribute, $whole];
                }
            }
        }
        foreach ($thing->attributes as $attribute) {
            $all[] = [$attribute, $thing];
        }
        if ($this->design->rules->is('kinds', 'one')) {
            foreach ($this->design->things as $other) {
                if ($other !== $thing && $this->root($other) === $thing) {
                    foreach ($other->attributes as $attribute) {
                        $all[] = [$attribute, $other];
                    }
                }
            }
        }

        return $all;
    }

    private function ofKind(WorkedTable $table, WorkedTable $whole): void
    {
        $why = new Why('kinds', \sprintf('it is a kind of %s, whose key it has', mb_strtolower($whole->name)));
        if ([] === $whole->primary) {
            $this->finding(
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
        $table->references[] = new WorkedReference($columns, $whole->key, $whole->primary, null, 'CASCADE', $this->changing(), null, $whole->name, $why);
    }

    private function kindColumn(WorkedTable $table, Thing $thing): void
    {
        if (!$this->design->rules->is('kinds', 'one')) {
            return;
        }
        $kinds = array_values(array_filter($this->design->things, fn (Thing $other): bool => $other !== $thing && $this->root($other) === $thing));
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
        if (isset($this->led[spl_object_id($join)][$child->key])) {
            return $this->led[spl_object_id($join)][$child->key];
        }
        $parents = $this->tablesOf($join->parent());
        if (1 !== \count($parents)) {
            if ([] !== $parents) {
                $this->finding(
                    'no one table',
                    $join->line,
                    \sprintf('%s leads to %s, of which each kind has a table of its own: no key can lead to all of them.', $join->child(), $join->parent()),
                    'Let kinds share a table, or add to that of the whole.', $join->child(), serious: true);
            }

            return null;
        }
        $parent = $this->tables[$parents[0]];
        $this->key($parent->key);
        $to = [] === $join->key ? $parent->primary : array_map(static fn (string $name): string => 'a:'.Names::key($name), $join->key);
        $to = array_values(array_filter($to, static fn (string $key): bool => isset($parent->columns[$key])));
        if ([] === $to) {
            if (isset($this->open[$parent->key]) && $parent !== $child) {
                $this->finding(
                    'key loop',
                    $join->line,
                    \sprintf('The key of %s needs that of %s, and the other way round.', $join->child(), $join->parent()),
                    'Give one of them a number of its own as its key.',
                    $join->child(),
                    serious: true,
                );
            } elseif ([] === $join->through || null !== $parent->thing && 'none' !== $parent->thing->keyed) {
                $this->finding(
                    'no key',
                    $join->line,
                    \sprintf('%s leads to %s, which has no key yet.', $join->child(), $join->parent()),
                    'Say what tells its rows apart.',
                    $join->parent(),
                    serious: true,
                );
            }

            return null;
        }
        $required = $join->parents()->least > 0;
        $columns = [];
        if ([] !== $join->through) {
            foreach ($join->through as $name) {
                $key = 'a:'.Names::key($name);
                if (!isset($child->columns[$key])) {
                    $this->finding(
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
            if (\count($columns) !== \count($to)) {
                $this->finding(
                    'through',
                    $join->line,
                    \sprintf('The key of %s has %d attributes, and “through” names %d.', $parent->name, \count($to), \count($columns)),
                    'Name one for each.',
                    $child->name,
                    serious: true,
                );

                return null;
            }
        } else {
            $why = new Why('', \sprintf('the key of %s, since %s', mb_strtolower($parent->name), self::sentence($join)));
            foreach ($to as $key) {
                $column = $this->copied($parent->columns[$key]);
                $column->name = self::keyName($parent, $parent->columns[$key]->name, $join->role);
                $column->required = $required;
                $column->why = $why;
                $columns[] = $child->add('p:'.Names::key('' === $join->role ? $parent->name : $join->role).':'.$key, $column);
            }
        }
        $action = $join->onDelete ?? self::ACTIONS[$this->design->rules->of('deleting')];
        if (null === $join->onDelete && 'SET NULL' === $action && $required) {
            $action = 'RESTRICT';
        }
        $reference = new WorkedReference(
            $columns,
            $parent->key,
            $to,
            $join->constraint,
            $action,
            $join->onUpdate ?? $this->changing(),
            $join,
            '' === $join->role ? $join->parent() : $join->role,
            [] === $join->through ? new Why('', self::sentence($join)) : null);
        $child->references[] = $reference;
        $this->led[spl_object_id($join)][$child->key] = $reference;
        if (!$join->children()->many() && [] === $join->through) {
            $child->unique[] = ['columns' => $columns, 'name' => null, 'why' => new Why('', self::sentence($join))];
        }

        return $reference;
    }

    private static function sentence(DesignJoin $join): string
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
    private static function keyName(WorkedTable $parent, string $key, string $role): string
    {
        $thing = mb_strtolower($parent->name);
        $base = '' === $role ? $thing : mb_strtolower($role);
        $own = mb_strtolower($key);
        $bare = str_starts_with($own, $thing.' ') ? substr($own, \strlen($thing) + 1) : $key;

        return $base.' '.$bare;
    }

    /** A column as it is where it leads to: its type alone. */
    private function copied(WorkedColumn $column): WorkedColumn
    {
        $copy = new WorkedColumn($column->name, $column->type, $column->required);
        [$copy->charset, $copy->sorted] = [$column->charset, $column->sorted];

        return $copy;
    }

    /**
     * The columns that the parts of an identifier stand for.
     *
     * @return list<string>
     */
    private function resolved(WorkedTable $table, Identifier $identifier, string $thing): array
    {
        $columns = [];
        foreach ($identifier->parts as $part) {
            $key = Names::key($part);
            if (isset($table->columns['a:'.$key])) {
                $columns[] = 'a:'.$key;
                continue;
            }
            $found = array_values(array_filter($table->references, static fn (WorkedReference $reference): bool => Names::key($reference->role) === $key
                || (null !== $reference->join && Names::key($reference->join->parent()) === $key)));
            if ([] !== $found) {
                array_push($columns, ...$found[0]->columns);
                continue;
            }
            foreach ($table->columns as $name => $column) {
                if (Names::key($column->name) === $key) {
                    $columns[] = (string) $name;
                    continue 2;
                }
            }
            $this->finding(
                'told apart',
                $identifier->line,
                \sprintf('%s is told apart by “%s”, which is neither known of it nor something that it leads to.', $thing, $part),
                'Write it below the thing, or the sentence that leads to it.',
                $thing,
                serious: true,
            );
        }

        return array_values(array_unique($columns));
    }

    private function identifiers(): void
    {
        foreach ($this->tables as $table) {
            $thing = $table->thing;
            if (null === $thing || 'thing' !== $table->kind) {
                continue;
            }
            foreach ($this->attributesOf($thing) as [$attribute, $of]) {
                $key = 'a:'.Names::key($attribute->name);
                if ($attribute->unique && !$attribute->several && [$key] !== $table->primary) {
                    $table->unique[] = ['columns' => [$key], 'name' => null, 'why' => null];
                }
            }
            foreach ($this->keysOf($thing) as $identifier) {
                $columns = $this->resolved($table, $identifier, $thing->name);
                if ($thing->period) {
                    $columns[] = 'valid from';
                }
                $again = null !== $identifier->name && $identifier !== ($thing->keys[0] ?? null);
                if ([] !== $columns && ($again || $columns !== $table->primary)) {
                    $table->unique[] = ['columns' => $columns, 'name' => $identifier->name, 'why' => null];
                }
            }
            $this->conditions($table, $thing);
            $this->several($table, $thing);
        }
        foreach ($this->tables as $table) {
            // The same said twice is guarded once.
            $seen = [implode(' ', $table->primary) => true];
            foreach ($table->unique as $unique) {
                if (null !== $unique['name']) {
                    $seen[implode(' ', $unique['columns'])] = true;
                }
            }
            $table->unique = array_values(array_filter($table->unique, static function (array $unique) use (&$seen): bool {
                $key = implode(' ', $unique['columns']);
                $known = null === $unique['name'] && isset($seen[$key]);
                $seen[$key] = true;

                return !$known;
            }));
        }
    }

    /** @return list<Identifier> its own, and by the rule for kinds those of the whole */
    private function keysOf(Thing $thing): array
    {
        $keys = $thing->keys;
        if ($this->design->rules->is('kinds', 'each')) {
            for ($up = $thing, $seen = []; null !== $up->kindOf && null !== ($whole = $this->design->thing($up->kindOf)) && !isset($seen[$whole->name]);
                $up = $whole) {
                $seen[$whole->name] = true;
                array_push($keys, ...$whole->keys);
            }
        }

        return $keys;
    }

    private function conditions(WorkedTable $table, Thing $thing): void
    {
        foreach ($thing->conditions as $always) {
            $of = null === $always->of ? null : 'a:'.Names::key($always->of);
            $table->conditions[] = [
                'sql' => $always->sql, 'name' => $always->name, 'of' => isset($table->columns[$of ?? '']) ? $of : null, 'columns' => [], 'texts' => [],
            ];
        }
        foreach ($thing->lookups as $lookup) {
            $columns = [];
            foreach ($lookup->parts as $i => $part) {
                $found = \in_array($i, $lookup->sql, true) ? [null] : $this->resolved(
                    $table,
                    new Identifier([$part->column], null, $lookup->line),
                    $thing->name,
                );
                if ([] === $found) {
                    continue 2;
                }
                array_push($columns, ...$found);
            }
            $table->lookups[] = ['lookup' => $lookup, 'columns' => $columns, 'why' => null];
        }
    }

    /** What a row may have any number of becomes a table. */
    private function several(WorkedTable $of, Thing $thing): void
    {
        foreach ($this->attributesOf($thing) as [$attribute]) {
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
            $table->references[] = new WorkedReference($columns, $of->key, $of->primary, null, 'CASCADE', $this->changing(), null, $thing->name, $why);
            $table->primary = [...$columns, $key];
            $this->tables[$table->key] = $table;
        }
    }

    /** @return list<string> keys of the columns that hold the key of another table */
    private function leading(WorkedTable $table, WorkedTable $to, string $role, Why $why): array
    {
        $columns = [];
        foreach ($to->primary as $key) {
            $column = $this->copied($to->columns[$key]);
            $column->name = self::keyName($to, $to->columns[$key]->name, $role);
            [$column->required, $column->why] = [true, $why];
            $columns[] = $table->add('p:'.Names::key('' === $role ? $to->name : $role).':'.$key, $column);
        }

        return $columns;
    }

    // ---- many at both ends ----

    private function links(): void
    {
        foreach ($this->design->joins as $n => $join) {
            if (!$join->isLink()) {
                continue;
            }
            [$from, $to] = [$this->tablesOf($join->from), $this->tablesOf($join->to)];
            if (1 !== \count($from) || 1 !== \count($to)) {
                $this->finding(
                    'no one table',
                    $join->line,
                    \sprintf('%s and %s cannot be linked, since kinds have a table each.', $join->from, $join->to),
                    'Let kinds share a table, or add to that of the whole.',
                    $join->from,
                    serious: true,
                );
                continue;
            }
            [$a, $b] = [$this->tables[$from[0]], $this->tables[$to[0]]];
            if ([] === $a->primary || [] === $b->primary) {
                $this->finding(
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
            for ($key = 'l:'.Names::key($name), $m = 2; isset($this->tables[$key]) || isset($this->tables['t:'.substr($key, 2)]); ++$m) {
                $key = 'l:'.Names::key($name).' '.$m;
            }
            $table = new WorkedTable($key, 'link', mb_strtoupper(mb_substr($name, 0, 1)).mb_substr($name, 1).($m > 2 ? ' '.($m - 1) : ''));
            $why = new Why('links', self::sentence($join).', and the other way round: many at both ends');
            [$table->why, $table->join, $table->table, $table->schema] = [$why, $join, $join->table, $a->schema];
            $table->grain = \sprintf('%s and %s that go together', mb_strtolower($a->name), mb_strtolower($b->name));
            $mode = $join->keyed ?? ($this->design->rules->is('links', 'number') || ($join->again && [] === $join->keys) ? 'number' : 'both');
            if ('number' === $mode || 'uuid' === $mode) {
                $own = new WorkedColumn(
                    $this->design->rules->is('keyName', 'thing') ? $name.' id' : 'id',
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
                    $this->changing(),
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
                fn (Identifier $key): array => ['columns' => $this->resolved($table, $key, $table->name), 'name' => $key->name, 'why' => null],
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
            $this->tables[$table->key] = $table;
        }
    }

    // ---- lists, history, who and when, indexes ----

    private function lists(): void
    {
        foreach ($this->tables as $table) {
            foreach ($table->columns as $key => $column) {
                $type = $column->type;
                if ('' !== $type->list) {
                    $list = $this->design->valueList($type->list);
                    if (null === $list) {
                        if (null !== $column->attribute) {
                            $this->finding(
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
                if ('one of' !== $type->kind || !$this->design->rules->is('lists', 'tables') || [] === $type->members || 'kind' === $key) {
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
        $values = $this->design->valueList($name)->values ?? array_fill_keys($column->type->members, '');
        $listKey = 'v:'.Names::key($name);
        $longest = max([1, ...array_map(static fn (int|string $value): int => mb_strlen((string) $value), array_keys($values))]);
        if (!isset($this->tables[$listKey])) {
            $list = new WorkedTable($listKey, 'list', mb_strtoupper(mb_substr($name, 0, 1)).mb_substr($name, 1));
            [$list->why, $list->grain, $list->schema] = [$why, 'value that may stand in its place', $table->schema];
            $value = new WorkedColumn('value', new GeneralType('text', $longest), true);
            $meaning = new WorkedColumn('meaning', new GeneralType('text', 400));
            $value->why = $meaning->why = $why;
            $list->primary = [$list->add('value', $value)];
            $list->add('meaning', $meaning);
            foreach ($values as $one => $means) {
                $list->rows[] = [(string) $one, $means];
            }
            $this->tables[$listKey] = $list;
        }
        $column->type = new GeneralType('text', $longest);
        $table->references[] = new WorkedReference([$key], $listKey, ['value'], null, 'RESTRICT', $this->changing(), null, $column->name, $why);
    }

    private function audit(WorkedTable $table): void
    {
        if ('list' === $table->kind || 'several' === $table->kind) {
            return;
        }
        foreach (self::AUDIT as $rule => $columns) {
            if (!$this->design->rules->is($rule, 'yes')) {
                continue;
            }
            foreach ($columns as $i => [$usual, $kind, $required, $changes]) {
                $name = $this->design->rules->called[$rule][$i] ?? $usual;
                $column = new WorkedColumn($name, 'text' === $kind ? new GeneralType('text', 80) : new GeneralType($kind), $required);
                $column->whenMade = 'instant' === $kind;
                $column->whenChanged = $changes;
                if ('text' === $kind && isset($this->design->rules->filled[$rule])) {
                    [$column->given, $column->givenSql] = [$this->design->rules->filled[$rule], true];
                }
                $column->why = new Why($rule, Rules::sentence($rule, 'yes'));
                $table->add('w:'.$usual, $column);
            }
        }
        if ($this->design->rules->is('version', 'yes')) {
            $column = new WorkedColumn($this->design->rules->called['version'][0] ?? 'version', new GeneralType('whole', 32), true);
            [$column->given, $column->why] = ['1', new Why('version', Rules::sentence('version', 'yes'))];
            $table->add('w:version', $column);
        }
    }

    private function histories(): void
    {
        foreach ($this->tables as $of) {
            if (null === $of->thing || !$of->thing->history || 'thing' !== $of->kind || [] === $of->primary) {
                continue;
            }
            $why = new Why('', \sprintf('%s keeps its history', mb_strtolower($of->thing->name)));
            $table = new WorkedTable('h:'.substr($of->key, 2), 'history', $of->name.' history');
            [$table->why, $table->schema, $table->grain] = [$why, $of->schema, mb_strtolower($of->name).' as it was from one change to the next'];
            $until = new WorkedColumn('until', new GeneralType('instant', decimals: 6), true);
            $until->why = $why;
            foreach ($of->columns as $key => $column) {
                $copy = $this->copied($column);
                $copy->why = $why;
                $copy->computed = null;
                $table->add($key, $copy);
            }
            $table->primary = [...$of->primary, $table->add('until', $until)];
            $this->tables[$table->key] = $table;
        }
    }

    private function indexes(): void
    {
        if (!$this->design->rules->is('indexes', 'yes')) {
            return;
        }
        foreach ($this->tables as $table) {
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
    private function changing(): string
    {
        return self::ACTIONS[$this->design->rules->of('changing')];
    }

    private function finding(string $check, int $line, string $words, string $todo, string $about = '', bool $serious = false): void
    {
        $this->findings[] = new DesignFinding($check, $line, $words, $todo, $about, '', $serious);
    }
}
