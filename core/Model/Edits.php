<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Place;
use Fasti\Core\Wording\Noun;

/** Changes of a model, each giving a new one in which everything that named what was changed follows. */
final class Edits
{
    /** Whatever has another name now, everywhere in the model. */
    public static function renamed(Model $model, Renamed $renamed): Model
    {
        $role = static fn (string $name): string => $renamed->roles[$name] ?? $name;
        $measure = static fn (string $name): string => $renamed->measures[$name] ?? $name;
        $text = static fn (string $expression): string => [] === $renamed->roles || '' === trim($expression) ? $expression : FormulaNames::replaced(
            $expression,
            static fn (?string $of, string $field): ?array => null !== $of && isset($renamed->roles[$of]) ? [$renamed->roles[$of], $field] : null,
        );
        $expression = static fn (Measure $one): string => !$one->aggregation->isOfMeasures() ? $text($one->expression) : FormulaNames::replaced(
            $one->expression,
            static fn (?string $of, string $name): ?array => null === $of && $measure($name) !== $name ? [null, $measure($name)] : null,
        );
        $keys = [];
        $joins = array_map(static function (ModelJoin $join) use ($role, &$keys): ModelJoin {
            $new = new ModelJoin($role($join->from), $role($join->to), $join->fields, $join->keys, $join->fromEnd, $join->toEnd, $join->where);
            $keys[$join->key()] = $new->key();

            return $new;
        }, $model->joins);

        return $model->with(
            roles: array_map(static fn (Role $one): Role => new Role(
                $role($one->name), $one->kind, $one->entry, $role($one->like), $one->meaning, $one->grain, $one->key,
                $renamed->attributes[$one->name."\0".$one->label] ?? $one->label,
                array_map(static fn (Attribute $attribute): Attribute => $attribute->with(
                    name: $renamed->attributes[$one->name."\0".$attribute->name] ?? $attribute->name,
                    expression: $text($attribute->expression),
                    sorted: $text($attribute->sorted),
                ), $one->attributes),
            ), $model->roles),
            joins: $joins,
            measures: array_map(static fn (Measure $one): Measure => $one->with(
                name: $measure($one->name), fact: $role($one->fact), expression: $expression($one), filter: $text($one->filter),
                of: $measure($one->of), by: $measure($one->by), notOver: array_map($role, $one->notOver),
                instant: null === $one->instant ? null : $renamed->level($one->instant, $model),
            ), $model->measures),
            hierarchies: array_map(static fn (Hierarchy $one): Hierarchy => new Hierarchy(
                $one->name, array_map(static fn (Level $level): Level => $renamed->level($level, $model), $one->levels), $one->ragged, $one->parent,
            ), $model->hierarchies),
            choices: array_map(static fn (Choice $one): Choice => new Choice($role($one->from), $role($one->to), array_map(
                static fn (string $key): string => $keys[$key] ?? $key,
                $one->by,
            )), $model->choices),
            sharings: array_map(
                static fn (Sharing $one): Sharing => new Sharing($role($one->link), $role($one->of), $one->how, $text($one->weight)),
                $model->sharings,
            ),
        );
    }

    /** An entry has another place in its source. */
    public static function entryMoved(Model $model, Place $from, Place $to): Model
    {
        return $model->with(roles: array_map(static fn (Role $one): Role => $one->entry->key() !== $from->key() ? $one
            : new Role($one->name, $one->kind, $to, $one->like, $one->meaning, $one->grain, $one->key, $one->label, $one->attributes), $model->roles));
    }

    /**
     * Fields of an entry have other names in their source.
     *
     * @param array<string, string> $names old → new
     */
    public static function fieldsRenamed(Model $model, Place $entry, array $names): Model
    {
        $of = [];
        foreach ($model->roles as $role) {
            if ($role->entry->key() === $entry->key()) {
                $of[$role->name] = true;
            }
        }
        $field = static fn (string $role, string $name): string => isset($of[$role]) ? ($names[$name] ?? $name) : $name;
        $text = static fn (string $role, string $expression): string => '' === trim($expression) ? $expression : FormulaNames::replaced(
            $expression,
            static fn (?string $said, string $name): ?array => $field($said ?? $role, $name) === $name ? null : [$said, $field($said ?? $role, $name)],
        );
        $keys = [];
        $joins = array_map(static function (ModelJoin $join) use ($field, &$keys): ModelJoin {
            $where = [] === $join->where ? [] : [$field($join->from, $join->where[0]), $join->where[1]];
            $new = new ModelJoin(
                $join->from,
                $join->to,
                self::each($join->fields, $field, $join->from),
                self::each($join->keys, $field, $join->to),
                $join->fromEnd,
                $join->toEnd,
                $where,
            );
            $keys[$join->key()] = $new->key();

            return $new;
        }, $model->joins);

        return $model->with(
            roles: array_map(static fn (Role $one): Role => new Role(
                $one->name, $one->kind, $one->entry, $one->like, $one->meaning, $one->grain, self::each($one->key, $field, $one->name), $one->label,
                array_map(static fn (Attribute $attribute): Attribute => $attribute->with(
                    expression: $text($one->name, $attribute->expression), sorted: $text($one->name, $attribute->sorted),
                ), $one->attributes),
            ), $model->roles),
            joins: $joins,
            measures: array_map(static fn (Measure $one): Measure => $one->with(
                expression: $text($one->fact, $one->expression), filter: $text($one->fact, $one->filter),
            ), $model->measures),
            hierarchies: array_map(static fn (Hierarchy $one): Hierarchy => new Hierarchy(
                $one->name, $one->levels, $one->ragged, self::each($one->parent, $field, $one->levels[0]->role ?? ''),
            ), $model->hierarchies),
            choices: array_map(static fn (Choice $one): Choice => new Choice($one->from, $one->to, array_map(
                static fn (string $key): string => $keys[$key] ?? $key,
                $one->by,
            )), $model->choices),
            sharings: array_map(
                static fn (Sharing $one): Sharing => new Sharing($one->link, $one->of, $one->how, $text($one->link, $one->weight)),
                $model->sharings,
            ),
        );
    }

    /**
     * @param list<string>                     $fields
     * @param callable(string, string): string $renamed
     *
     * @return list<string>
     */
    private static function each(array $fields, callable $renamed, string $role): array
    {
        return array_map(static fn (string $field): string => $renamed($role, $field), $fields);
    }

    /** @param string $old '' where it is new */
    public static function measure(Model $model, string $old, Measure $measure): Model
    {
        if ('' === $old) {
            return $model->with(measures: [...$model->measures, $measure]);
        }
        $model = $old === $measure->name ? $model : self::renamed($model, new Renamed([$old => $measure->name]));

        return $model->with(measures: array_map(static fn (Measure $one): Measure => $one->name === $measure->name ? $measure : $one, $model->measures));
    }

    public static function withoutMeasure(Model $model, string $name): Model
    {
        return $model->with(measures: array_values(array_filter($model->measures, static fn (Measure $one): bool => $one->name !== $name)));
    }

    /**
     * The order in which measures are offered.
     *
     * @param string $after what it stands after; '' for the first place
     */
    public static function measureAfter(Model $model, string $name, string $after): Model
    {
        return $model->with(measures: self::placed($model->measures, $name, $after));
    }

    /** @param string $after what it stands after; '' for the first place */
    public static function attributeAfter(Model $model, string $role, string $name, string $after): Model
    {
        return self::role($model, $role, static fn (Role $one): array => self::placed($one->attributes, $name, $after));
    }

    /**
     * @template T of Measure|Attribute
     *
     * @param list<T> $all
     *
     * @return list<T>
     */
    private static function placed(array $all, string $name, string $after): array
    {
        $moved = array_values(array_filter($all, static fn (object $one): bool => $one->name === $name));
        $others = array_values(array_filter($all, static fn (object $one): bool => $one->name !== $name));
        $at = '' === $after ? 0 : 1 + (int) array_search($after, array_map(static fn (object $one): string => $one->name, $others), true);
        array_splice($others, $at, 0, $moved);

        return $others;
    }

    /** @param string $old '' where it is new */
    public static function attribute(Model $model, string $role, string $old, Attribute $attribute): Model
    {
        if ('' !== $old && $old !== $attribute->name) {
            $model = self::renamed($model, new Renamed(attributes: ["$role\0$old" => $attribute->name]));
        }

        return self::role($model, $role, static fn (Role $one): array => '' === $old ? [...$one->attributes, $attribute]
            : array_map(static fn (Attribute $each): Attribute => $each->name === $attribute->name ? $attribute : $each, $one->attributes));
    }

    public static function withoutAttribute(Model $model, string $role, string $name): Model
    {
        return self::role(
            $model,
            $role,
            static fn (Role $one): array => array_values(array_filter($one->attributes, static fn (Attribute $each): bool => $each->name !== $name)),
        );
    }

    /** @param callable(Role): list<Attribute> $attributes */
    private static function role(Model $model, string $name, callable $attributes): Model
    {
        return $model->with(roles: array_map(static fn (Role $one): Role => $one->name !== $name ? $one : new Role(
            $one->name, $one->kind, $one->entry, $one->like, $one->meaning, $one->grain, $one->key, $one->label, $attributes($one),
        ), $model->roles));
    }

    public static function replaceRole(Model $model, string $old, Role $role): Model
    {
        $model = $old === $role->name ? $model : self::renamed($model, new Renamed(roles: [$old => $role->name]));

        return $model->with(roles: array_map(static fn (Role $one): Role => $one->name === $role->name ? $role : $one, $model->roles));
    }

    /** A role goes with its joins and its measures; roles that were like it say for themselves what it said. */
    public static function withoutRole(Model $model, string $name): Model
    {
        $gone = $model->role($name);
        $heir = null;
        $roles = [];
        foreach ($model->roles as $role) {
            if ($role->name === $name) {
                continue;
            }
            if ($role->like === $name && null !== $gone) {
                $role = new Role(
                    $role->name,
                    $role->kind,
                    $role->entry,
                    $heir ?? '',
                    $role->meaning,
                    $role->grain,
                    $role->key,
                    null === $heir ? $gone->label : '',
                    null === $heir ? $gone->attributes : [],
                );
                $heir ??= $role->name;
            }
            $roles[] = $role;
        }
        $other = static fn (string $one): bool => $one !== $name;

        return $model->with(
            roles: $roles,
            joins: array_values(array_filter($model->joins, static fn (ModelJoin $one): bool => $one->from !== $name && $one->to !== $name)),
            measures: array_values(array_filter($model->measures, static fn (Measure $one): bool => $one->fact !== $name)),
            choices: array_values(array_filter($model->choices, static fn (Choice $one): bool => $other($one->from) && $other($one->to))),
            sharings: array_values(array_filter($model->sharings, static fn (Sharing $one): bool => $other($one->link) && $other($one->of))),
            hierarchies: array_values(
                array_filter(
                    $model->hierarchies,
                    static fn (Hierarchy $one): bool => [] === array_filter($one->levels, static fn (Level $level): bool => $level->role === $name),
                ),
            ),
        );
    }

    public static function withoutJoin(Model $model, string $key): Model
    {
        return $model->with(joins: array_values(array_filter($model->joins, static fn (ModelJoin $one): bool => $one->key() !== $key)));
    }

    /** A join leads to a role of its own from now on, and on from there to roles of their own. */
    public static function ownRole(Model $model, string $key, string $name): Model
    {
        $roles = $model->roles;
        $joins = [];
        foreach ($model->joins as $join) {
            if ($join->key() !== $key) {
                $joins[] = $join;
                continue;
            }
            $to = $model->role($join->to) ?? throw new ModelError(\sprintf('The model has no role “%s”.', $join->to));
            $joins[] = new ModelJoin($join->from, $name, $join->fields, $join->keys, $join->fromEnd, $join->toEnd, $join->where);
            $roles[] = new Role($name, $to->kind, $to->entry, $model->dimension($to)->name, '', '', $to->key);
            self::beyond($model, $to->name, $name, $roles, $joins, 0);
        }
        $known = array_map(static fn (Role $role): string => $role->name, $roles);
        if (\count($known) !== \count(array_unique($known))) {
            throw new ModelError(\sprintf('There is a role “%s” already. Choose another name.', $name));
        }

        return $model->with(roles: $roles, joins: $joins);
    }

    /**
     * @param list<Role>      $roles
     * @param list<ModelJoin> $joins
     */
    private static function beyond(Model $model, string $from, string $name, array &$roles, array &$joins, int $depth): void
    {
        foreach ($depth > 6 ? [] : $model->joins as $join) {
            $to = $join->from === $from && !$join->toEnd->many() ? $model->role($join->to) : null;
            if (null !== $to && $join->to !== $from) {
                $further = $model->dimension($to)->name.' of '.$name;
                $roles[] = new Role($further, $to->kind, $to->entry, $model->dimension($to)->name, '', '', $to->key);
                $joins[] = new ModelJoin($name, $further, $join->fields, $join->keys, $join->fromEnd, $join->toEnd, $join->where);
                self::beyond($model, $to->name, $further, $roles, $joins, $depth + 1);
            }
        }
    }

    public static function choose(Model $model, Choice $choice): Model
    {
        $others = array_values(array_filter($model->choices, static fn (Choice $one): bool => $one->from !== $choice->from || $one->to !== $choice->to));

        return $model->with(choices: [] === $choice->by ? $others : [...$others, $choice]);
    }

    /** How what belongs to several counts; one that is said already is said anew. */
    public static function sharing(Model $model, Sharing $sharing, bool $out = false): Model
    {
        $others = array_values(array_filter(
            $model->sharings,
            static fn (Sharing $one): bool => $one->link !== $sharing->link || $one->of !== $sharing->of,
        ));

        return $model->with(sharings: $out ? $others : [...$others, $sharing]);
    }

    public static function hierarchy(Model $model, Hierarchy $hierarchy): Model
    {
        return $model->with(
            hierarchies: [...array_values(array_filter($model->hierarchies, static fn (Hierarchy $one): bool => $one->name !== $hierarchy->name)), $hierarchy],
        );
    }

    public static function withoutHierarchy(Model $model, string $name): Model
    {
        return $model->with(hierarchies: array_values(array_filter($model->hierarchies, static fn (Hierarchy $one): bool => $one->name !== $name)));
    }

    /**
     * What differs between two, in short phrases.
     *
     * @return list<string>
     */
    public static function between(Model $before, Model $after): array
    {
        $words = [];
        foreach ([
            'role' => [$before->roles, $after->roles], 'measure' => [$before->measures, $after->measures], 'hierarchy' => [
                $before->hierarchies,
                $after->hierarchies,
            ],
        ] as $what => [$old, $new]) {
            $words = [...$words, ...self::listed($what, self::named($old), self::named($new))];
            if (array_keys(self::named($old)) !== array_keys(self::named($new)) && self::named($old) == self::named($new)) {
                $words[] = \sprintf('put the %s in another order', Noun::plural($what));
            }
        }
        $words = [...$words, ...self::listed('join', self::keyed($before->joins), self::keyed($after->joins))];
        if ($before->choices != $after->choices) {
            $words[] = 'chose routes';
        }
        if ($before->sharings != $after->sharings) {
            $words[] = 'said how what belongs to several counts';
        }

        return $words;
    }

    /**
     * @param list<Role|Measure|Hierarchy> $things
     *
     * @return array<string, object>
     */
    private static function named(array $things): array
    {
        $named = [];
        foreach ($things as $thing) {
            $named[$thing->name] = $thing;
        }

        return $named;
    }

    /**
     * @param list<ModelJoin> $joins
     *
     * @return array<string, object>
     */
    private static function keyed(array $joins): array
    {
        $keyed = [];
        foreach ($joins as $join) {
            $keyed[$join->key()] = $join;
        }

        return $keyed;
    }

    /**
     * @param array<string, object> $old
     * @param array<string, object> $new
     *
     * @return list<string>
     */
    private static function listed(string $what, array $old, array $new): array
    {
        $words = [];
        foreach (['took in the' => array_diff_key($new, $old), 'took out the' => array_diff_key($old, $new), 'changed the' => array_filter(
            array_intersect_key($new, $old),
            static fn (object $thing, string $name): bool => $thing != $old[$name],
            \ARRAY_FILTER_USE_BOTH,
        )] as $verb => $things) {
            foreach (array_keys($things) as $name) {
                $words[] = "$verb $what $name";
            }
        }

        return $words;
    }
}
