<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Design\Attribute;
use Fasti\Core\Design\Count;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\DesignJoin;
use Fasti\Core\Design\Identifier;
use Fasti\Core\Design\Limit;
use Fasti\Core\Design\Names;
use Fasti\Core\Design\Physical;
use Fasti\Core\Design\Thing;
use Fasti\Core\Dialect\GeneralType;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A design that somebody has gone on with: the same for a seed. */
final class Mutation
{
    private readonly Randomizer $random;

    public function __construct(int $seed, private Design $design, Physical $physical)
    {
        $this->random = new Randomizer(new Mt19937($seed + 77));
        // It began with what there is: each thing says which table it was.
        $this->design = $design->with(things: array_map(static function (Thing $thing) use ($physical): Thing {
            $table = $physical->tables['t:'.Names::key($thing->name)] ?? null;

            return null === $table ? $thing : $thing->with(from: 'first.'.$table);
        }, $design->things));
    }

    public static function of(int $seed, Design $design, Physical $physical): Design
    {
        $self = new self($seed, $design, $physical);
        for ($n = $self->random->getInt(1, 4); $n > 0; --$n) {
            $self->mutate($physical);
        }

        return $self->design;
    }

    private function mutate(Physical $physical): void
    {
        $things = $this->design->things;
        $at = $this->random->getInt(0, \count($things) - 1);
        $thing = $things[$at];
        match ($this->random->getInt(0, 11)) {
            0 => $this->renameThing($thing),
            1, 2 => $this->onAttribute($at, fn (Attribute $attribute): Attribute => $this->renamed($attribute, $thing, $physical)),
            3, 4 => $this->addAttribute($at),
            5 => $this->removeAttribute($at),
            6 => $this->onAttribute($at, fn (Attribute $attribute): Attribute => $attribute->with(
                type: $this->one(
                    [
                        new GeneralType('text', 400),
                        new GeneralType('text', 20),
                        new GeneralType('whole', 64),
                        new GeneralType('date'),
                        new GeneralType('long text'),
                    ],
                ),
                given: null, limits: [], several: false, unique: false,
            )),
            7 => $this->onAttribute(
                $at,
                static fn (Attribute $attribute): Attribute => $attribute->with(required: !$attribute->required, filled: $attribute->filled),
            ),
            8 => $this->removeThing($at),
            9 => $this->design = $this->design->with(
                things: [...$things, new Thing('Newcomer '.\count($things), '', '', [new Attribute('label', new GeneralType('text', 20))])],
            ),
            10 => $this->joined($thing),
            default => $this->onAttribute($at, static fn (Attribute $attribute): Attribute => $attribute->with(meaning: 'It means something else now.')),
        };
    }

    private function renameThing(Thing $thing): void
    {
        $name = 'Renamed '.substr(md5($thing->name), 0, 4);
        $map = static fn (?string $said): ?string => null !== $said && Names::key($said) === Names::key($thing->name) ? $name : $said;
        $this->design = $this->design->with(
            things: array_map(
                static fn (Thing $one): Thing => $one === $thing ? $one->with(name: $name) : $one->with(kindOf: $map($one->kindOf)),
                $this->design->things,
            ),
            joins: array_map(static fn (DesignJoin $join): DesignJoin => $join->with(from: $map($join->from), to: $map($join->to)), $this->design->joins),
            views: [],
        );
    }

    private function renamed(Attribute $attribute, Thing $thing, Physical $physical): Attribute
    {
        $column = $physical->columns['t:'.Names::key($thing->name)]['a:'.Names::key($attribute->name)] ?? null;

        return null === $column || $attribute->several ? $attribute : $attribute->with(
            name: 'renamed '.substr(md5($attribute->name), 0, 4),
            formerly: $column,
            column: null,
        );
    }

    /** @param \Closure(Attribute): Attribute $change */
    private function onAttribute(int $at, \Closure $change): void
    {
        $thing = $this->design->things[$at];
        if ([] === $thing->attributes) {
            return;
        }
        $n = $this->random->getInt(0, \count($thing->attributes) - 1);
        $was = $thing->attributes[$n];
        $is = $change($was);
        $attributes = $thing->attributes;
        $attributes[$n] = $is;
        $map = static fn (string $said): string => Names::key($said) === Names::key($was->name) ? $is->name : $said;
        $typed = $was->type != $is->type;
        $this->put($at, $thing->with(
            attributes: array_map(static fn (Attribute $one): Attribute => $one->with(limits: array_map(
                static fn (Limit $limit): Limit => $limit->value ? $limit : new Limit($limit->words, $map($limit->than), false),
                $one->limits,
            )), $attributes),
            keys: $typed ? [] : array_map(static fn (Identifier $key): Identifier => new Identifier(array_map($map, $key->parts), $key->name), $thing->keys),
            lookups: [], dependencies: [],
        ));
        $this->design = $this->design->with(views: []);
    }

    private function addAttribute(int $at): void
    {
        $thing = $this->design->things[$at];
        $required = 0 === $this->random->getInt(0, 2);
        $type = $this->one([new GeneralType('text', 30), new GeneralType('whole'), new GeneralType('date'), new GeneralType('yes or no')]);
        $filled = ['text' => 'so far', 'whole' => '7', 'date' => '2026-02-03', 'yes or no' => 'no'][$type->kind] ?? null;
        $added = new Attribute('added '.\count($thing->attributes), $type, $required, filled: $required ? $filled : null);
        $this->put($at, $thing->with(attributes: [...$thing->attributes, $added]));
    }

    private function removeAttribute(int $at): void
    {
        $thing = $this->design->things[$at];
        if ([] === $thing->attributes) {
            return;
        }
        $gone = Names::key($thing->attributes[$this->random->getInt(0, \count($thing->attributes) - 1)]->name);
        $this->put($at, $thing->with(
            attributes: array_values(array_filter($thing->attributes, static fn (Attribute $one): bool => Names::key($one->name) !== $gone)),
            keys: array_values(
                array_filter($thing->keys, static fn (Identifier $key): bool => !\in_array($gone, array_map(Names::key(...), $key->parts), true)),
            ),
            lookups: [], dependencies: [],
        ));
        $this->design = $this->design->with(views: []);
    }

    private function removeThing(int $at): void
    {
        $thing = $this->design->things[$at];
        if (\count($this->design->things) < 2 || [] !== array_filter($this->design->things, static fn (Thing $one): bool => $one->kindOf === $thing->name)) {
            return;
        }
        $this->design = $this->design->with(
            things: array_values(array_filter($this->design->things, static fn (Thing $one): bool => $one !== $thing)),
            joins: array_values(
                array_filter($this->design->joins, static fn (DesignJoin $join): bool => !\in_array($thing->name, [$join->from, $join->to], true)),
            ),
            views: [], questions: [],
        );
    }

    private function joined(Thing $thing): void
    {
        $joins = $this->design->joins;
        if ([] !== $joins && 1 === $this->random->getInt(0, 1)) {
            array_splice($joins, $this->random->getInt(0, \count($joins) - 1), 1);
        } else {
            $other = $this->one($this->design->things);
            $joins[] = new DesignJoin(
                $thing->name,
                'meets',
                new Count(0, $this->one([1, null])),
                $other->name,
                'is met by',
                new Count(0, null),
                'newly met '.\count($joins),
            );
        }
        $this->design = $this->design->with(joins: array_values($joins), views: []);
    }

    private function put(int $at, Thing $thing): void
    {
        $things = $this->design->things;
        $things[$at] = $thing;
        $this->design = $this->design->with(things: array_values($things));
    }

    /**
     * @template T
     *
     * @param array<T> $of
     *
     * @return T
     */
    private function one(array $of): mixed
    {
        $of = array_values($of);

        return [] === $of ? throw new \LogicException('Nothing to choose from.') : $of[$this->random->getInt(0, \count($of) - 1)];
    }
}
