<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\EntryKind;
use Fasti\Core\Join\Link;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/**
 * Proposes a model over chosen tables: which are facts and which dimensions, which joins lie between them, and where one dimension is used
 * twice and so has two roles. Of each dimension it takes the one attribute by which people know a row; no measure, since nobody has asked
 * for one yet.
 */
final class Proposal
{
    /** @var array<int, string> table → its main role */
    private array $main = [];
    /** @var list<Role> */
    private array $roles = [];
    /** @var list<ModelJoin> */
    private array $joins = [];
    /** @var array<string, string> */
    private array $reasons = [];
    /** @var array<string, true> */
    private array $taken = [];
    /** @var array<int, list<Link>> */
    private array $out = [];

    /**
     * @param list<Link>            $links   between tables by their number in the catalog
     * @param array<int, EntryKind> $kinds
     * @param array<int, string>    $because why a table is of its kind
     * @param array<int, string>    $names   business names of tables
     * @param array<int, string>    $grains
     */
    public function __construct(
        private readonly Catalog $catalog,
        array $links,
        private readonly array $kinds,
        private readonly array $because = [],
        private readonly array $names = [],
        private readonly array $grains = [],
    ) {
        foreach ($links as $link) {
            if ($link->from !== $link->to) {
                $this->out[$link->from][] = $link;
            }
        }
    }

    /** @return list<int> a table and everything on the one-side of its joins, to any depth */
    public function around(int $fact): array
    {
        $seen = [$fact => true];
        for ($wave = [$fact]; [] !== $wave;) {
            $next = [];
            foreach ($wave as $at) {
                foreach ($this->out[$at] ?? [] as $link) {
                    if (!isset($seen[$link->to]) && !$link->cardinality->to->many()) {
                        $seen[$link->to] = true;
                        $next[] = $link->to;
                    }
                }
            }
            $wave = $next;
        }

        return array_keys($seen);
    }

    /**
     * @param list<int> $chosen tables
     * @param list<int> $facts  those that are facts whatever they seem to be
     */
    public function of(string $name, array $chosen, array $facts = []): Proposed
    {
        $this->main = [];
        $this->roles = [];
        $this->joins = [];
        $this->reasons = [];
        $this->taken = [];
        $left = [];
        $kinds = [];
        foreach ($chosen as $table) {
            $kind = $this->kind($table, $facts, $chosen);
            if (null === $kind) {
                $left[] = \sprintf('%s: %s', $this->catalog->tables[$table]->name, 'nothing joins it to the others');
            } else {
                $kinds[$table] = $kind;
            }
        }
        // Dimensions first, so that facts find them.
        uasort($kinds, static fn (RoleKind $a, RoleKind $b): int => (RoleKind::Dimension === $b ? 1 : 0) <=> (RoleKind::Dimension === $a ? 1 : 0));
        foreach ($kinds as $table => $kind) {
            $this->main[$table] = $this->role($table, $kind, '');
        }
        foreach (array_keys($kinds) as $table) {
            $this->lead($table);
        }
        usort($this->roles, static fn (Role $a, Role $b): int => self::place($a) <=> self::place($b));

        return new Proposed(new Model($name, '', $this->roles, $this->joins), $this->reasons, $this->shape(), $left);
    }

    private static function place(Role $role): int
    {
        return match ($role->kind) {
            RoleKind::Fact => 0,
            RoleKind::Dimension => 1,
            RoleKind::Link => 2,
        };
    }

    /**
     * @param list<int> $facts
     * @param list<int> $chosen
     */
    private function kind(int $table, array $facts, array $chosen): ?RoleKind
    {
        $leads = array_filter($this->out[$table] ?? [], static fn (Link $link): bool => \in_array($link->to, $chosen, true));
        $led = false;
        foreach ($chosen as $other) {
            foreach ($this->out[$other] ?? [] as $link) {
                $led = $led || $link->to === $table;
            }
        }
        if (\in_array($table, $facts, true)) {
            return RoleKind::Fact;
        }
        if ([] === $leads && !$led && \count($chosen) > 1) {
            return null;
        }

        return match ($this->kinds[$table] ?? EntryKind::Other) {
            EntryKind::Fact => RoleKind::Fact,
            EntryKind::Link => RoleKind::Link,
            EntryKind::Log => $led ? RoleKind::Dimension : RoleKind::Fact,
            default => $led || [] === $leads ? RoleKind::Dimension : RoleKind::Fact,
        };
    }

    private function role(int $number, RoleKind $kind, string $like, string $name = ''): string
    {
        $table = $this->catalog->tables[$number];
        $name = $this->free('' === $name ? mb_strtolower($this->names[$number] ?? implode(' ', Naming::words($table->name))) : $name);
        $label = '' === $like ? $this->label($table, $kind) : '';
        $this->roles[] = new Role(
            $name,
            $kind,
            $table->place(),
            $like,
            '',
            $this->grains[$number] ?? '',
            $this->key($table),
            '' === $label ? '' : $this->attribute($label),
            match (true) {
                '' === $label => [],
                default => [new Attribute($this->attribute($label), FieldOffers::written($label))],
            });
        $this->reasons[$name] = '' === $like ? ($this->because[$number] ?? '') : "another role of $like";

        return $name;
    }

    private function attribute(string $field): string
    {
        return mb_strtolower(implode(' ', Naming::words($field)));
    }

    private function free(string $name): string
    {
        $name = '' === trim($name) ? 'role' : $name;
        for ($n = 2, $free = $name; isset($this->taken[$free]); ++$n) {
            $free = "$name $n";
        }
        $this->taken[$free] = true;

        return $free;
    }

    /** @return list<string> */
    private function key(Table $table): array
    {
        return $table->primaryKey->columns ?? $table->uniqueKeys[0]->columns ?? [];
    }

    /** The field by which people know a row: its name, its title, its code, its date; '' where none looks like one. */
    private function label(Table $table, RoleKind $kind): string
    {
        if (RoleKind::Dimension !== $kind) {
            return '';
        }
        $dialect = Dialects::ofCatalog($this->catalog);
        $best = '';
        $worth = 0;
        foreach ($table->columns as $i => $column) {
            $type = $dialect->typeOf($column);
            $words = NameWords::singular(NameWords::of($column->name));
            $last = $words[\count($words) - 1] ?? '';
            $unique = [] !== array_filter($table->uniqueKeys, static fn ($key): bool => $key->columns === [$column->name]);
            $points = match (true) {
                TypeFamily::Text === $type->family => 10 + (match (true) {
                    'name' === $last => 10,
                    'title' === $last => 9,
                    'label' === $last => 8,
                    'code' === $last => 4,
                    default => 0,
                }) + ($unique ? 2 : 0),
                TypeFamily::Time === $type->family => 6 + ('date' === $last ? 3 : 0) + ($unique ? 8 : 0),
                default => 0,
            };
            $points -= $i / 100;
            if ($points > $worth) {
                $best = $column->name;
                $worth = $points;
            }
        }

        return $best;
    }

    private function lead(int $table): void
    {
        $links = array_values(array_filter($this->out[$table] ?? [], fn (Link $link): bool => isset($this->main[$link->to])));
        $by = [];
        foreach ($links as $link) {
            $by[$link->to][] = $link;
        }
        foreach ($by as $to => $same) {
            // The one that is always filled says what the rows are of; the others are roles of their own.
            usort($same, fn (Link $a, Link $b): int => $this->open($table, $a) <=> $this->open($table, $b));
            foreach ($same as $i => $link) {
                $role = 0 === $i ? $this->main[$to] : $this->second($table, $link);
                $this->join($this->main[$table], $role, $link);
            }
            if (\count($same) > 1) {
                $this->reasons[$this->main[$to]] = trim(
                    $this->reasons[$this->main[$to]].\sprintf(
                        '; %s leads there by %s first',
                        $this->main[$table],
                        implode(' and ', array_column($same[0]->pairs, 0)),
                    ),
                    '; ',
                );
            }
        }
    }

    private function open(int $table, Link $link): int
    {
        foreach ($link->pairs as [$field]) {
            if (true === $this->catalog->tables[$table]->column($field)?->nullable) {
                return 1;
            }
        }

        return 0;
    }

    private function join(string $from, string $to, Link $link): void
    {
        $this->joins[] = new ModelJoin(
            $from,
            $to,
            array_column($link->pairs, 0),
            array_column($link->pairs, 1),
            $link->cardinality->from,
            $link->cardinality->to,
            $link->where ?? [],
        );
    }

    /** Another role of a dimension, named after the field that leads there; what the dimension leads on to has another role, too. */
    private function second(int $table, Link $link): string
    {
        $words = NameWords::of($link->pairs[0][0]);
        $last = $words[\count($words) - 1] ?? '';
        $name = implode(' ', \count($words) > 1 && NameWords::isKeyEnding($last) ? \array_slice($words, 0, -1) : $words);
        $dimension = $this->main[$link->to];
        $kind = RoleKind::Dimension;
        $role = $this->role($link->to, $kind, $dimension, $name === $dimension ? "$dimension of ".$this->main[$table] : $name);
        $this->beyond($link->to, $role);

        return $role;
    }

    private function beyond(int $table, string $role, int $depth = 0): void
    {
        foreach ($depth > 6 ? [] : ($this->out[$table] ?? []) as $link) {
            if (isset($this->main[$link->to]) && !$link->cardinality->to->many()) {
                $further = $this->role($link->to, RoleKind::Dimension, $this->main[$link->to], $this->main[$link->to].' of '.$role);
                $this->join($role, $further, $link);
                $this->beyond($link->to, $further, $depth + 1);
            }
        }
    }

    /** @return list<string> */
    private function shape(): array
    {
        $of = fn (RoleKind $kind): array => array_values(array_filter($this->roles, static fn (Role $role): bool => $role->kind === $kind));
        $facts = $of(RoleKind::Fact);
        $names = array_map(static fn (Role $role): string => $role->name, $facts);
        $outer = array_filter($this->joins, static fn (ModelJoin $join): bool => !\in_array($join->from, $names, true));
        $shape = [];
        $shape[] = match (true) {
            [] === $facts => 'no fact yet: nothing here leads to others and is led to by none',
            [] !== $outer => 'a snowflake: '.implode(
                ', ',
                array_unique(array_map(static fn (ModelJoin $join): string => "$join->from leads on to $join->to", \array_slice($outer, 0, 4))),
            ),
            default => 'a star: every dimension stands one step from its fact',
        };
        if (\count($facts) > 1) {
            $led = [];
            foreach ($this->joins as $join) {
                if (\in_array($join->from, $names, true)) {
                    $led[$join->to][$join->from] = true;
                }
            }
            $shared = array_map(strval(...), array_keys(array_filter($led, static fn (array $by): bool => \count($by) > 1)));
            $shape[] = \count($facts).' facts, which share '.([] === $shared ? 'no dimension' : implode(', ', $shared));
        }
        $again = array_filter($this->roles, static fn (Role $role): bool => '' !== $role->like);
        if ([] !== $again) {
            $shape[] = \count($again).' '.(1 === \count($again) ? 'role' : Noun::plural('role')).' of a dimension that has one already';
        }

        return $shape;
    }
}
