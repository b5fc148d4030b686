<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Join\End;
use Fasti\Core\Wording\Noun;

/** A design as tablets and lines, at each of its depths. Their numbers follow from names, so that they stay where they were put. */
final class Drawing
{
    /** @return array{list<Tablet>, list<Line>} things, and what they do with each other */
    public static function conceptual(Design $design): array
    {
        $tablets = $lines = [];
        foreach ($design->things as $thing) {
            $rows = array_map(
                static fn (Attribute $attribute): TabletRow => new TabletRow(
                    $attribute->name,
                    $attribute->name,
                    self::tells($thing, $attribute),
                    $attribute->meaning,
                ),
                $thing->attributes,
            );
            $tablets[] = new Tablet(self::id(Names::key($thing->name)), $thing->name, $rows, $thing->grain, tooltip: $thing->meaning, spoken: true);
            if (null !== $thing->kindOf && null !== ($whole = $design->thing($thing->kindOf))) {
                $lines[] = new Line(
                    self::id('kind '.Names::key($thing->name)), self::id(Names::key($thing->name)), '', self::id(Names::key($whole->name)), '',
                    End::of(true, false), End::of(false, false), 'is a kind of',
                );
            }
        }
        $ids = self::joinIds($design);
        foreach ($design->joins as $n => $join) {
            $lines[] = new Line(
                $ids[$n], self::id(Names::key($join->from)), '', self::id(Names::key($join->to)), '',
                $join->countBack->end(), $join->count->end(), $join->verb,
                tooltip: implode(' ', array_map(trim(...), \array_slice(OutlineWriter::join($join), 0, 1))),
            );
        }

        return [$tablets, $lines];
    }

    /** @return array{list<Tablet>, list<Line>} tables with their attributes and keys, in general words */
    public static function logical(Worked $worked): array
    {
        $tablets = $lines = [];
        foreach ($worked->tables as $key => $table) {
            $keyed = self::keyed($table);
            $rows = [];
            foreach ($table->columns as $columnKey => $column) {
                $rows[] = new TabletRow(
                    (string) $columnKey, $column->name, \in_array($columnKey, $keyed, true), self::why($column->why, $column->meaning),
                    $column->type->inWords().($column->required ? '' : ', may be empty'), self::leads($table, (string) $columnKey), null !== $column->why,
                );
            }
            $tablets[] = new Tablet(
                self::id((string) $key), $table->name, $rows, $table->grain, self::word($table), '', self::why($table->why, $table->meaning), spoken: true,
            );
            array_push($lines, ...self::references((string) $key, $table, $worked, static fn (string $of, string $column): string => $column));
        }

        return [$tablets, $lines];
    }

    /** @return array{list<Tablet>, list<Line>} tables of an engine, as they are named and typed there */
    public static function physical(Physical $physical): array
    {
        $tablets = $lines = [];
        $named = [];
        foreach ($physical->catalog->tables as $table) {
            $named[$table->name] = $table;
        }
        foreach ($physical->worked->tables as $key => $table) {
            $keyed = self::keyed($table);
            $rows = [];
            foreach ($table->columns as $columnKey => $column) {
                $name = $physical->columns[$key][$columnKey];
                $rows[] = new TabletRow(
                    $name, $name, \in_array($columnKey, $keyed, true), self::why($column->why, $column->meaning),
                    ($physical->types[$key][$columnKey] ?? '').($column->required ? '' : ', may be empty'), self::leads($table, (string) $columnKey),
                    null !== $column->why,
                );
            }
            $tablets[] = new Tablet(
                self::id((string) $key), $physical->tables[$key], $rows, $table->grain, self::word($table), '', self::why($table->why, $table->meaning),
            );
            array_push(
                $lines,
                ...self::references(
                    (string) $key,
                    $table,
                    $physical->worked,
                    static fn (string $of, string $column): string => $physical->columns[$of][$column],
                ),
            );
        }
        foreach ($physical->catalog->tables as $view) {
            if ($view->kind->isView()) {
                $tablets[] = new Tablet(
                    self::id('view '.$view->name), $view->name,
                    array_map(static fn ($column): TabletRow => new TabletRow($column->name, $column->name, false, '', $column->type), $view->columns),
                    '', $view->kind->value, '', $view->comment,
                );
            }
        }

        return [$tablets, $lines];
    }

    /** The number of a tablet, by the key of its thing or table. A thing has the same at every depth. */
    public static function id(string $key): int
    {
        return crc32(str_starts_with($key, 't:') ? substr($key, 2) : $key);
    }

    /**
     * The numbers of the lines of its sentences: one stays while its ends and its verb do.
     *
     * @return list<int>
     */
    public static function joinIds(Design $design): array
    {
        $ids = $seen = [];
        foreach ($design->joins as $join) {
            $name = implode('|', [Names::key($join->from), Names::key($join->to), $join->role, implode(',', $join->through), $join->verb]);
            $before = $seen[$name] ?? 0;
            $seen[$name] = $before + 1;
            $ids[] = crc32('join '.$name.($before > 0 ? ' '.$before : ''));
        }

        return $ids;
    }

    private static function tells(Thing $thing, Attribute $attribute): bool
    {
        foreach ($thing->keys as $key) {
            if (\in_array(Names::key($attribute->name), array_map(Names::key(...), $key->parts), true)) {
                return true;
            }
        }

        return $attribute->unique && $attribute->required;
    }

    /** @return list<string> */
    private static function keyed(WorkedTable $table): array
    {
        $keyed = $table->primary;
        foreach ($table->unique as $unique) {
            array_push($keyed, ...$unique['columns']);
        }

        return $keyed;
    }

    private static function leads(WorkedTable $table, string $column): bool
    {
        return [] !== array_filter($table->references, static fn (WorkedReference $reference): bool => \in_array($column, $reference->columns, true));
    }

    private static function why(?Why $why, string $meaning): string
    {
        return trim($meaning.(null === $why ? '' : ('' === $meaning ? '' : "\n").'Worked out: '.$why->words.'.'));
    }

    private static function word(WorkedTable $table): string
    {
        return ['link' => 'link', 'list' => 'list of values', 'several' => 'any number of', 'history' => 'history'][$table->kind] ?? '';
    }

    /**
     * @param \Closure(string, string): string $row table and column, by their keys → name of the row
     *
     * @return list<Line>
     */
    private static function references(string $key, WorkedTable $table, Worked $worked, \Closure $row): array
    {
        $lines = [];
        foreach ($table->references as $reference) {
            $join = $reference->join;
            $required = [] === array_filter($reference->columns, static fn (string $column): bool => !($table->columns[$column]->required ?? false));
            $alone = [] === array_diff($reference->columns, $table->primary) && \count($reference->columns) === \count($table->primary);
            foreach ($table->unique as $unique) {
                $alone = $alone || $unique['columns'] === $reference->columns;
            }
            $from = array_map(static fn (string $column): string => $row($key, $column), $reference->columns);
            $to = array_map(static fn (string $column): string => $row($reference->to, $column), $reference->toColumns);
            $lines[] = new Line(
                crc32('reference '.$key.' '.implode(',', $reference->columns)), self::id($key), $from[0] ?? '', self::id($reference->to), $to[0] ?? '',
                null === $join ? End::of(true, !$alone) : $join->children()->end(), End::of(!$required, false),
                match (true) {
                    null === $join => '',
                    $join->fromHolds() => $join->verb,
                    '' === $join->verbBack => 'leads to',
                    default => $join->verbBack,
                },
                tooltip: \sprintf(
                    '%s leads to %s %s%s',
                    $table->name,
                    $required ? 'exactly one' : 'at most one',
                    Noun::singular(mb_strtolower($worked->tables[$reference->to]->name)),
                    null === $reference->why ? '' : '. Worked out: '.$reference->why->words.'.',
                ),
                fromMore: \array_slice($from, 1), toMore: \array_slice($to, 1),
            );
        }

        return $lines;
    }
}
