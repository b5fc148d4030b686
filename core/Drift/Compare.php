<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Facts;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Routine;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Sql\Alike;
use Fasti\Core\Wording\ColumnWords;

/** Compares two catalogs of a source, the older and the newer, in words. */
final class Compare
{
    /**
     * @param array<string, true>                             $gone  places (Place::key()) of tables that the older one knows as gone: they come back if
     *     they reappear
     * @param ?\Closure(Table, Column, Table, Column): ?float $alike how much the data of two columns is alike, where it is known
     *
     * @return list<TableDrift> renamed ones first, then changed, new, back and gone; each by schema and name
     */
    public static function catalogs(Catalog $before, Catalog $after, array $gone = [], ?\Closure $alike = null): array
    {
        $dialect = Dialects::ofCatalog($after);
        // A script says less than a server does.
        $same = (null === $before->statements) === (null === $after->statements);
        $old = $new = [];
        foreach ($before->tables as $table) {
            $old[self::place($table)] = $table;
        }
        foreach ($after->tables as $table) {
            $new[self::place($table)] = $table;
        }
        $lost = array_values(array_diff_key($old, $new, $gone));
        $fresh = array_values(array_diff_key($new, $old));
        $renames = Renames::tables($lost, $fresh, [...$before->tables, ...$after->tables]);
        $from = $to = $moved = [];
        foreach ($renames as [$was, $is, $reason]) {
            $from[self::place($was)] = $to[self::place($is)] = true;
            $moved[self::place($was)] = $is->place();
        }
        $drift = [];
        foreach ($renames as [$was, $is, $reason]) {
            [$words, $columns] = self::tables($was, $is, $dialect, $moved, $alike, $same);
            $drift[] = new TableDrift(Fate::Renamed, $was, $is, $words, $columns, $reason);
        }
        foreach ($new as $place => $table) {
            if (isset($to[$place])) {
                continue;
            }
            if (isset($gone[$place])) {
                [$words, $columns] = isset($old[$place]) ? self::tables($old[$place], $table, $dialect, $moved, $alike, $same) : [[], []];
                $drift[] = new TableDrift(Fate::Back, $old[$place] ?? null, $table, $words, $columns);
            } elseif (!isset($old[$place])) {
                $drift[] = new TableDrift(Fate::New, null, $table);
            } elseif (OpenForm::fingerprint($old[$place]) !== OpenForm::fingerprint($table)) {
                [$words, $columns] = self::tables($old[$place], $table, $dialect, $moved, $alike, $same);
                if ([] !== $words || [] !== $columns) {
                    $drift[] = new TableDrift(Fate::Changed, $old[$place], $table, $words, $columns);
                }
            }
        }
        foreach ($lost as $table) {
            if (!isset($from[self::place($table)])) {
                $drift[] = new TableDrift(Fate::Gone, $table, null);
            }
        }
        $order = [Fate::Renamed->value => 0, Fate::Changed->value => 1, Fate::New->value => 2, Fate::Back->value => 3, Fate::Gone->value => 4];
        usort(
            $drift,
            static fn (TableDrift $a, TableDrift $b): int => [
                $order[$a->change->value],
                $a->table()->schema,
                $a->table()->name,
            ] <=> [$order[$b->change->value], $b->table()->schema, $b->table()->name],
        );

        return $drift;
    }

    /**
     * @param array<string, Place>                            $moved key of the place of a renamed table → its new place
     * @param ?\Closure(Table, Column, Table, Column): ?float $alike
     * @param bool                                            $same  both were read in the same manner: from scripts, or from the source itself
     *
     * @return array{list<string>, list<ColumnDrift>}
     */
    public static function tables(
        Table $before, Table $after, Dialect $dialect, array $moved = [], ?\Closure $alike = null, bool $same = true,
    ): array {
        if ($before->schema !== $after->schema && '' !== $before->schema) {
            $before = self::inSchema($before, $after->schema, $dialect);
        }
        $renamed = [];
        $columns = [];
        foreach (Renames::columns($before, $after, $dialect, $alike) as [$was, $is, $reason]) {
            $renamed[$was->name] = $is->name;
            $columns[] = new ColumnDrift(Fate::Renamed, $was, $is, self::columnWords($was, $is, $dialect), $reason);
        }
        $taken = array_flip($renamed);
        foreach ($after->columns as $column) {
            $was = $before->column($column->name);
            if (null === $was) {
                if (!isset($taken[$column->name])) {
                    $columns[] = new ColumnDrift(Fate::New, null, $column, [$column->type]);
                }
            } elseif ([] !== ($words = self::columnWords($was, $column, $dialect))) {
                $columns[] = new ColumnDrift(Fate::Changed, $was, $column, $words);
            }
        }
        foreach ($before->columns as $column) {
            if (null === $after->column($column->name) && !isset($renamed[$column->name])) {
                $columns[] = new ColumnDrift(Fate::Gone, $column, null);
            }
        }

        return [(new TableWords($before, $after, $dialect, $renamed, $moved, $same))->all(), $columns];
    }

    /** A table with defaults that name its schema, as they are in another. */
    private static function inSchema(Table $table, string $schema, Dialect $dialect): Table
    {
        $was = [$dialect->quoted($table->schema).'.', $table->schema.'.'];
        $is = [$dialect->quoted($schema).'.', $schema.'.'];

        return $table->with(columns: array_map(static fn (Column $column): Column => null === $column->default || !str_contains($column->default, '(') ? $column
            : $column->with(default: str_replace($was, $is, $column->default)), $table->columns));
    }

    /**
     * What became of routines. One that is called the same in another schema, with the same parameters, has moved.
     *
     * @return list<RoutineDrift> by schema and name
     */
    public static function routines(Catalog $before, Catalog $after): array
    {
        $key = static fn (Routine $routine, bool $place): string => ($place ? $routine->schema."\0" : '')
            .$routine->name."\0".$routine->kind."\0".$routine->parameters;
        $drift = [];
        $lost = array_combine(array_map(static fn (Routine $routine): string => $key($routine, true), $before->routines), $before->routines);
        $fresh = [];
        foreach ($after->routines as $routine) {
            $was = $lost[$key($routine, true)] ?? null;
            if (null === $was) {
                $fresh[] = $routine;
                continue;
            }
            unset($lost[$key($routine, true)]);
            $words = RoutineDrift::words($was, $routine);
            if ([] !== $words) {
                $drift[] = new RoutineDrift(Fate::Changed, $was, $routine, $words);
            }
        }
        foreach ($fresh as $routine) {
            // The same by name elsewhere, or the same name with other parameters here, is the same one.
            $was = array_filter($lost, static fn (Routine $each): bool => $key($each, false) === $key($routine, false))
                ?: array_filter(
                    $lost,
                    static fn (Routine $each): bool => $each->schema === $routine->schema && $each->name === $routine->name && $each->kind === $routine->kind,
                );
            if (1 !== \count($was)) {
                $drift[] = new RoutineDrift(Fate::New, null, $routine, []);
                continue;
            }
            $one = (string) array_key_first($was);
            $words = RoutineDrift::words($lost[$one], $routine);
            if ([] !== $words || $lost[$one]->schema === $routine->schema) {
                $drift[] = new RoutineDrift(Fate::Changed, $lost[$one], $routine, $words);
            }
            unset($lost[$one]);
        }
        foreach ($lost as $routine) {
            $drift[] = new RoutineDrift(Fate::Gone, $routine, null, []);
        }
        usort(
            $drift,
            static fn (RoutineDrift $a, RoutineDrift $b): int => [$a->routine()->schema, $a->routine()->name] <=> [$b->routine()->schema, $b->routine()->name],
        );

        return $drift;
    }

    /** @return list<string> */
    private static function columnWords(Column $was, Column $is, Dialect $dialect): array
    {
        $words = [];
        if ($was->type !== $is->type) {
            $words[] = \sprintf('the type was %s and is %s', $was->type ?: 'unknown', $is->type ?: 'unknown');
        } elseif ($was->base !== $is->base) {
            $words[] = \sprintf('%s stood for %s and stands for %s', $is->type, $was->base ?? 'itself', $is->base ?? 'itself');
        }
        if ($was->nullable !== $is->nullable) {
            $words[] = $is->nullable ? 'it may be empty now' : 'it is required now';
        }
        $words = [...$words, ...self::valueWords($was, $is, $dialect)];
        if ($was->comment !== $is->comment) {
            $words[] = '' === $is->comment
                ? 'its comment was removed'
                : \sprintf('the database says “%s” of it%s', $is->comment, '' === $was->comment ? '' : \sprintf(' (was “%s”)', $was->comment));
        }

        return [...$words, ...Facts::changes($was, $is)];
    }

    /** @return list<string> where its values come from */
    private static function valueWords(Column $was, Column $is, Dialect $dialect): array
    {
        $words = [];
        if ($was->default !== $is->default) {
            $words[] = match (true) {
                null === $is->default => \sprintf('it has no default any more (was %s)', $was->default),
                null === $was->default => ColumnWords::default($is->default),
                default => \sprintf('the default was %s and is %s', $was->default, $is->default),
            };
        }
        if ($was->autoNumbered !== $is->autoNumbered) {
            $words[] = $is->autoNumbered ? 'the database numbers it now' : 'the database does not number it any more';
        }
        $grammar = $dialect->grammar();
        $same = null !== $was->generated && null !== $is->generated && $was->generated->stored === $is->generated->stored && null !== $grammar
            && Alike::expressions($was->generated->expression, $is->generated->expression, $grammar);
        if ($was->generated != $is->generated && !$same) {
            $words[] = null === $is->generated ? 'it is not computed any more' : 'it is computed as '.$is->generated->expression;
        }
        if ($was->onUpdate !== $is->onUpdate) {
            $words[] = null === $is->onUpdate ? 'it is not set any more when the row changes' : 'it is set when the row changes, to '.$is->onUpdate;
        }

        return $words;
    }

    private static function place(Table $table): string
    {
        return $table->place()->key();
    }
}
