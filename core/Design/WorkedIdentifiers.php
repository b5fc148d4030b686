<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** What tells things apart, and conditions between their attributes. */
final class WorkedIdentifiers
{
    public function __construct(private readonly Working $all)
    {
    }

    /** @return list<array{Attribute, Thing}> its own, and by the rule for kinds those of the kinds or of the whole */
    public function attributesOf(Thing $thing): array
    {
        $all = [];
        if ($this->all->design->rules->is('kinds', 'each')) {
            $chain = [];
            $whole = null === $thing->kindOf ? null : $this->all->design->thing($thing->kindOf);
            while (null !== $whole && !\in_array($whole, $chain, true)) {
                array_unshift($chain, $whole);
                $whole = null === $whole->kindOf ? null : $this->all->design->thing($whole->kindOf);
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
        if ($this->all->design->rules->is('kinds', 'one')) {
            foreach ($this->all->design->things as $other) {
                if ($other !== $thing && $this->all->root($other) === $thing) {
                    foreach ($other->attributes as $attribute) {
                        $all[] = [$attribute, $other];
                    }
                }
            }
        }

        return $all;
    }

    /**
     * The columns that the parts of an identifier stand for.
     *
     * @return list<string>
     */
    public function resolved(WorkedTable $table, Identifier $identifier, string $thing): array
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
            $this->all->finding(
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

    public function identifiers(): void
    {
        foreach ($this->all->tables as $table) {
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
            $this->all->linking->several($table, $thing);
        }
        foreach ($this->all->tables as $table) {
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
        if ($this->all->design->rules->is('kinds', 'each')) {
            for ($up = $thing, $seen = []; null !== $up->kindOf && null !== ($whole = $this->all->design->thing($up->kindOf)) && !isset($seen[$whole->name]);
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
}
