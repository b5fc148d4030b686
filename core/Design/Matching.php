<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Renames;

/** Which tables and fields that there are become which of a design. */
final class Matching
{
    /** @var array<string, string> key of the place before → key of the place after */
    public array $tables = [];
    /** @var array<string, array<string, string>> key of the place before → column → column after */
    public array $columns = [];
    /** @var list<string> what was not said but seems so, in sentences */
    public array $guesses = [];
    /** @var array<string, string> what was said of tables, whether they are still called so or not: key of the place before → key of the place after */
    public array $taken = [];
    /** @var array<string, array<string, string>> the same of fields: key of the place after → column after → column before */
    public array $formerly = [];

    /** @param array<string, array<string, string>> $filled key of the place after → column → SQL of what its rows get that are there */
    private function __construct(public array $filled = [])
    {
    }

    public static function of(Catalog $before, Catalog $after, ?Physical $physical = null): self
    {
        $self = new self();
        [$taken, $formerly] = null === $physical ? [[], []] : $self->said($physical, $before, $after);

        return $self->matched($before, $after, $taken, $formerly);
    }

    /**
     * The same, of what no design says.
     *
     * @param array<string, string>                $taken    key of the place before → key of the place after
     * @param array<string, array<string, string>> $formerly key of the place after → column after → column before
     * @param array<string, array<string, string>> $filled   key of the place after → column → SQL of what its rows get that are there
     */
    public static function told(Catalog $before, Catalog $after, array $taken = [], array $formerly = [], array $filled = []): self
    {
        return (new self($filled))->matched($before, $after, $taken, $formerly);
    }

    /**
     * @param array<string, string>                $taken
     * @param array<string, array<string, string>> $formerly
     */
    private function matched(Catalog $before, Catalog $after, array $taken, array $formerly): self
    {
        $self = $this;
        $self->taken = $taken;
        $self->formerly = $formerly;
        $old = $new = [];
        foreach ($before->tables as $table) {
            if (!$table->kind->isView()) {
                $old[$table->place()->key()] = $table;
            }
        }
        foreach ($after->tables as $table) {
            if (!$table->kind->isView()) {
                $new[$table->place()->key()] = $table;
            }
        }
        foreach ($taken as $was => $is) {
            if (isset($old[$was], $new[$is]) && !\in_array($is, $self->tables, true)) {
                $self->tables[$was] = $is;
            }
        }
        foreach ($old as $was => $table) {
            if (!(isset($self->tables[$was]) || !isset($new[$was]) || \in_array($was, $self->tables, true))) {
                $self->tables[$was] = $was;
            }
        }
        $lost = array_values(array_diff_key($old, $self->tables));
        $fresh = array_values(array_diff_key($new, array_flip($self->tables)));
        foreach (Renames::tables($lost, $fresh, [...$before->tables, ...$after->tables]) as [$was, $is, $reason]) {
            $self->tables[$was->place()->key()] = $is->place()->key();
            $self->guesses[] = \sprintf('%s is taken to be %s: %s.', $is->name, $was->name, lcfirst($reason));
        }
        foreach ($self->tables as $was => $is) {
            $self->columns[$was] = $self->ofTable($old[$was], $new[$is], $formerly[$is] ?? []);
        }

        return $self;
    }

    /**
     * @param array<string, string> $formerly column after → column before
     *
     * @return array<string, string>
     */
    private function ofTable(Table $was, Table $is, array $formerly): array
    {
        $map = [];
        foreach ($formerly as $after => $before) {
            if (null !== $was->column($before) && null !== $is->column($after)) {
                $map[$before] = $after;
            }
        }
        foreach ($was->columns as $column) {
            if (!(isset($map[$column->name]) || \in_array($column->name, $map, true) || null === $is->column($column->name))) {
                $map[$column->name] = $column->name;
            }
        }
        // What a change that stopped half way has left under a name of its own.
        foreach ($was->columns as $column) {
            $meant = str_starts_with($column->name, Changes::BESIDE) ? substr($column->name, \strlen(Changes::BESIDE)) : '';
            if ('' !== $meant && !isset($map[$column->name]) && !\in_array($meant, $map, true) && null !== $is->column($meant)) {
                $map[$column->name] = $meant;
            }
        }
        $left = $was->with(columns: array_values(array_filter($was->columns, static fn ($column): bool => !isset($map[$column->name]))));
        $free = $is->with(columns: array_values(array_filter($is->columns, static fn ($column): bool => !\in_array($column->name, $map, true))));
        foreach (Renames::columns($left, $free, Dialects::of('')) as [$before, $after, $reason]) {
            $map[$before->name] = $after->name;
            $this->guesses[] = \sprintf(
                '%s.%s is taken to be %s: %s. Write “formerly "%s"” to say so.',
                $is->name,
                $after->name,
                $before->name,
                lcfirst($reason),
                $before->name,
            );
        }

        return $map;
    }

    /**
     * What the design itself says: taken from, formerly, for rows that are there.
     *
     * @return array{array<string, string>, array<string, array<string, string>>}
     */
    private function said(Physical $physical, Catalog $before, Catalog $after): array
    {
        $taken = $formerly = [];
        $given = new GivenValue($physical->dialect);
        foreach ($physical->worked->tables as $key => $worked) {
            $thing = $worked->thing;
            $schema = $physical->schemaOf($worked->schema);
            $is = $after->table($schema, $physical->tables[$key]) ?? self::named($after, $physical->tables[$key]);
            if (null === $is) {
                continue;
            }
            $place = $is->place()->key();
            if (null !== $thing && 'thing' === $worked->kind && '' !== $thing->from) {
                $dot = strrpos($thing->from, '.');
                $name = false === $dot ? $thing->from : substr($thing->from, $dot + 1);
                $was = null === $before->table($is->schema, $name) ? self::named($before, $name) : $before->table($is->schema, $name);
                if (null !== $was) {
                    $taken[$was->place()->key()] = $place;
                }
            }
            foreach ($worked->columns as $columnKey => $column) {
                $attribute = $column->attribute;
                $own = $physical->columns[$key][$columnKey];
                if (null !== $attribute?->formerly) {
                    $formerly[$place][$own] = $attribute->formerly;
                }
                if (null !== $attribute?->filled) {
                    $this->filled[$place][$own] = $attribute->filledSql ? $attribute->filled
                        : $given->written($attribute->filled, $column->type, $physical->types[$key][$columnKey]);
                }
            }
        }

        return [$taken, $formerly];
    }

    private static function named(Catalog $catalog, string $name): ?Table
    {
        $found = array_values(array_filter($catalog->tables, static fn (Table $table): bool => $table->name === $name && !$table->kind->isView()));

        return 1 === \count($found) ? $found[0] : null;
    }
}
