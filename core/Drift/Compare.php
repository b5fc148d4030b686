<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Key;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Wording\ColumnWords;

/** Compares two catalogs of a source, the older and the newer, in words. */
final class Compare
{
    /**
     * @param array<string, true>                             $gone  places (Place::key()) of tables that the older one knows as gone: they come back if they reappear
     * @param ?\Closure(Table, Column, Table, Column): ?float $alike how much the data of two columns is alike, where it is known
     *
     * @return list<TableDrift> renamed ones first, then changed, new, back and gone; each by schema and name
     */
    public static function catalogs(Catalog $before, Catalog $after, array $gone = [], ?\Closure $alike = null): array
    {
        $dialect = Dialects::ofCatalog($after);
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
            [$words, $columns] = self::tables($was, $is, $dialect, $moved, $alike);
            $drift[] = new TableDrift(Fate::Renamed, $was, $is, $words, $columns, $reason);
        }
        foreach ($new as $place => $table) {
            if (isset($to[$place])) {
                continue;
            }
            if (isset($gone[$place])) {
                [$words, $columns] = isset($old[$place]) ? self::tables($old[$place], $table, $dialect, $moved, $alike) : [[], []];
                $drift[] = new TableDrift(Fate::Back, $old[$place] ?? null, $table, $words, $columns);
            } elseif (!isset($old[$place])) {
                $drift[] = new TableDrift(Fate::New, null, $table);
            } elseif (OpenForm::fingerprint($old[$place]) !== OpenForm::fingerprint($table)) {
                [$words, $columns] = self::tables($old[$place], $table, $dialect, $moved, $alike);
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
        usort($drift, static fn (TableDrift $a, TableDrift $b): int => [$order[$a->change->value], $a->table()->schema, $a->table()->name] <=> [$order[$b->change->value], $b->table()->schema, $b->table()->name]);

        return $drift;
    }

    /**
     * @param array<string, Place>                            $moved key of the place of a renamed table → its new place
     * @param ?\Closure(Table, Column, Table, Column): ?float $alike
     *
     * @return array{list<string>, list<ColumnDrift>}
     */
    public static function tables(Table $before, Table $after, Dialect $dialect, array $moved = [], ?\Closure $alike = null): array
    {
        $renamed = [];
        $columns = [];
        foreach (Renames::columns($before, $after, $dialect, $alike) as [$was, $is, $reason]) {
            $renamed[$was->name] = $is->name;
            $columns[] = new ColumnDrift(Fate::Renamed, $was, $is, self::columnWords($was, $is), $reason);
        }
        $taken = array_flip($renamed);
        foreach ($after->columns as $column) {
            $was = $before->column($column->name);
            if (null === $was) {
                if (!isset($taken[$column->name])) {
                    $columns[] = new ColumnDrift(Fate::New, null, $column, [$column->type]);
                }
            } elseif ([] !== ($words = self::columnWords($was, $column))) {
                $columns[] = new ColumnDrift(Fate::Changed, $was, $column, $words);
            }
        }
        foreach ($before->columns as $column) {
            if (null === $after->column($column->name) && !isset($renamed[$column->name])) {
                $columns[] = new ColumnDrift(Fate::Gone, $column, null);
            }
        }

        return [self::tableWords($before, $after, $renamed, $moved), $columns];
    }

    /** @return list<string> */
    private static function columnWords(Column $was, Column $is): array
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
        if ($was->generated != $is->generated) {
            $words[] = null === $is->generated ? 'it is not computed any more' : 'it is computed as '.$is->generated->expression;
        }
        if ($was->onUpdate !== $is->onUpdate) {
            $words[] = null === $is->onUpdate ? 'it is not set any more when the row changes' : 'it is set when the row changes';
        }
        if ($was->comment !== $is->comment) {
            $words[] = '' === $is->comment ? 'its comment was removed' : \sprintf('the database says “%s” of it%s', $is->comment, '' === $was->comment ? '' : \sprintf(' (was “%s”)', $was->comment));
        }
        if ($was->collation !== $is->collation) {
            $words[] = \sprintf('it is sorted as %s (was %s)', $is->collation ?? 'the table is', $was->collation ?? 'the table');
        }

        return $words;
    }

    /**
     * @param array<string, string>                $renamed
     * @param array<string, Place>                 $moved
     *
     * @return list<string>
     */
    private static function tableWords(Table $was, Table $is, array $renamed, array $moved): array
    {
        $name = static fn (string $column): string => $renamed[$column] ?? $column;
        $words = [];
        if ($was->kind !== $is->kind) {
            $words[] = \sprintf('it was a %s and is a %s', $was->kind->value, $is->kind->value);
        }
        if ($was->comment !== $is->comment) {
            $words[] = '' === $is->comment ? 'its comment was removed' : \sprintf('the database says “%s” of it%s', $is->comment, '' === $was->comment ? '' : \sprintf(' (was “%s”)', $was->comment));
        }
        $oldKey = array_map($name, $was->primaryKey->columns ?? []);
        $newKey = $is->primaryKey->columns ?? [];
        if ($oldKey !== $newKey) {
            $words[] = [] === $newKey ? \sprintf('it has no primary key any more (was %s)', implode(', ', $oldKey)) : \sprintf('its primary key is %s%s', implode(', ', $newKey), [] === $oldKey ? '' : ' (was '.implode(', ', $oldKey).')');
        }
        $unique = static fn (Key $key): string => implode(', ', array_map($name, $key->columns));
        array_push($words, ...self::sets(array_map($unique, $was->uniqueKeys), array_map(static fn (Key $key): string => implode(', ', $key->columns), $is->uniqueKeys), '%s stands only once now', '%s may stand more than once now'));
        $leads = static function (ForeignKey $key) use ($name, $moved): string {
            $far = $key->references->place();

            return \sprintf('%s to %s', implode(', ', array_map($name, $key->columns)), $moved[$far->key()] ?? $far);
        };
        $plain = static fn (ForeignKey $key): string => \sprintf('%s to %s', implode(', ', $key->columns), $key->references->place());
        $oldLeads = array_map($leads, $was->foreignKeys);
        $newLeads = array_map($plain, $is->foreignKeys);
        array_push($words, ...self::sets($oldLeads, $newLeads, 'a join leads from %s', 'no join leads from %s any more'));
        foreach ($is->foreignKeys as $i => $key) {
            $at = array_search($newLeads[$i], $oldLeads, true);
            if (false !== $at && [$was->foreignKeys[$at]->onDelete, $was->foreignKeys[$at]->onUpdate] !== [$key->onDelete, $key->onUpdate]) {
                $words[] = \sprintf('the join from %s acts otherwise: on delete %s, on update %s', $newLeads[$i], strtolower($key->onDelete), strtolower($key->onUpdate));
            }
        }
        $check = static fn (CheckConstraint $check): string => $check->expression;
        array_push($words, ...self::sets(array_map($check, $was->checks), array_map($check, $is->checks), 'it is checked now that %s', 'it is not checked any more that %s'));
        $index = static fn (Index $index): string => implode(', ', array_map(static fn (IndexPart $part): string => $name($part->column), $index->parts));
        array_push($words, ...self::sets(array_map($index, $was->indexes), array_map(static fn (Index $index): string => implode(', ', array_map(static fn (IndexPart $part): string => $part->column, $index->parts)), $is->indexes), 'there is an index over %s', 'there is no index over %s any more'));
        array_push($words, ...self::sets(array_map(static fn (object $trigger): string => $trigger->name, $was->triggers), array_map(static fn (object $trigger): string => $trigger->name, $is->triggers), 'the trigger %s runs', 'the trigger %s does not run any more'));
        array_push($words, ...self::sets($was->traits, $is->traits, 'it says of itself: %s', 'it does not say any more: %s'));
        if (preg_replace('/\s+/', ' ', (string) $was->definition) !== preg_replace('/\s+/', ' ', (string) $is->definition)) {
            $words[] = 'its query is another';
        }
        if ($was->storage !== $is->storage) {
            $words[] = \sprintf('it is kept as %s (was %s)', $is->storage ?? 'usual', $was->storage ?? 'usual');
        }

        return $words;
    }

    /**
     * @param list<string> $was
     * @param list<string> $is
     *
     * @return list<string>
     */
    private static function sets(array $was, array $is, string $added, string $removed): array
    {
        return [
            ...array_map(static fn (string $what): string => \sprintf($added, $what), array_values(array_unique(array_diff($is, $was)))),
            ...array_map(static fn (string $what): string => \sprintf($removed, $what), array_values(array_unique(array_diff($was, $is)))),
        ];
    }

    private static function place(Table $table): string
    {
        return $table->place()->key();
    }
}
