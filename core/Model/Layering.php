<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Model\Aggregate\OfMeasures;

/**
 * What is made of the figures of an answer once they are there, a query over a query each: others are put together, what stands beside measures is
 * computed over all rows, conditions on it hold, so many rows of each are taken, and shares of those that are shown are computed last.
 */
final class Layering
{
    /** Says of how many rows of the answer a row is put together. */
    private const OTHERS = 'put_together';

    /** @var list<SqlLine> */
    private array $lines = [];
    /** What the next query reads. */
    private string $from = '';

    public function __construct(private readonly Composer $all)
    {
    }

    /**
     * @param list<array{string, Branch}> $names  of the queries that have the figures of facts
     * @param list<SqlLine>               $within those queries
     *
     * @return list<SqlLine>
     */
    public function lines(array $names, array $within): array
    {
        $this->lines = $within;
        $this->from = $names[0][0];
        $question = $this->all->question;
        if (\count($names) > 1) {
            $this->layer('figures', $this->gathered($names), '… and only then brought together by what they share');
        }
        if (null !== $question->shift && !$question->shift->bounded) {
            $this->layer('dated', [new SqlLine("  SELECT $this->from.*, MAX(until_then) OVER () AS last_then"), new SqlLine("  FROM $this->from")],
                'up to when there are rows');
            $this->layer('come', [
                new SqlLine('  SELECT *'), new SqlLine("  FROM $this->from"),
                new SqlLine('  WHERE own_then = 1 OR since_then <= last_then', 'a period that has not come yet has no row'),
            ]);
        }
        if ($question->trial->others) {
            $this->others();
        }
        $this->layer('beside', $this->answered(), 'what stands beside each figure is computed over all rows');
        $having = $this->having();
        if ([] !== $question->each && !$question->trial->others) {
            $this->layer('placed', $this->placed($having), 'so many of each');
            $having = ['place <= '.$question->trial->limit];
        }

        return [] === array_filter($question->figures, static fn (Figure $figure): bool => $figure->as->isOfShown())
            ? $this->closed($this->shown(), $having) : $this->ofShown($having);
    }

    /** @param list<SqlLine> $inner */
    private function layer(string $wish, array $inner, string $does = ''): void
    {
        $name = $this->all->aggregating->name($wish);
        // What was the last query within is followed by one.
        $this->lines = [...\array_slice($this->lines, 0, -1), new SqlLine('),'), new SqlLine("$name AS (", $does), ...$inner, new SqlLine(')')];
        $this->from = $name;
    }

    /**
     * @param list<array{string, Branch}> $names
     *
     * @return list<SqlLine>
     */
    private function gathered(array $names): array
    {
        $gathering = $this->all->gathering;
        $question = $this->all->question;
        $select = $gathering->regrouped();
        foreach ($question->base as $measure) {
            $select[] = $gathering->figure($measure, false).' AS '.$this->all->column($measure);
            foreach (array_keys($question->shift->spans ?? []) as $k) {
                $name = $this->all->before($measure, $k + 1);
                $nothing = $measure->aggregation->ofNothing();
                $select[] = (null === $nothing ? "MAX($name)" : "COALESCE(MAX($name), $nothing)")." AS $name";
            }
            foreach ($question->trial->others ? array_keys($this->all->aggregating->parts($measure, 'x')[0]) : [] as $part) {
                $select[] = "MAX($part) AS $part";
            }
        }
        if (null !== $question->shift && !$question->shift->bounded) {
            array_push($select, 'MAX(own_then) AS own_then', 'MAX(until_then) AS until_then', 'MIN(since_then) AS since_then');
        }
        $by = $gathering->byColumns();
        $lines = array_map(static fn (SqlLine $line): SqlLine => new SqlLine('  '.$line->text, $line->does), $gathering->stacked($names));

        return [...Aggregating::selecting('  ', $select), ...$lines, ...[] === $by ? [] : [new SqlLine('  GROUP BY '.implode(', ', $by))]];
    }

    /** The first of each as they are, and what is left as one row. */
    private function others(): void
    {
        $question = $this->all->question;
        [$first, $down] = $question->order[0];
        $value = $first instanceof Measure ? $this->all->gathering->computed($first, $this->all->column(...))
            : throw new \LogicException('Beside has seen to it.');
        $by = [$this->all->sql->ordered("($value)", $down, "($value)"), ...array_map(
            fn (Level $level): string => $this->all->sql->ordered($this->all->column($level), false, $this->all->column($level)),
            $question->by,
        )];
        $each = array_map($this->all->column(...), $question->each);
        $over = ([] === $each ? '' : 'PARTITION BY '.implode(', ', $each).' ').'ORDER BY '.implode(', ', $by);
        $this->layer('placed', [
            new SqlLine("  SELECT $this->from.*, CASE WHEN $value IS NOT NULL THEN ROW_NUMBER() OVER ($over) END AS place"),
            new SqlLine("  FROM $this->from"),
        ], 'what has no figure has no place');
        $among = 'grouped.place <= '.$question->trial->limit;
        $select = $group = [];
        foreach ($question->by as $level) {
            $column = $this->all->column($level);
            $own = \in_array($level, $question->each, false);
            $group[] = $sql = $own ? "grouped.$column" : "CASE WHEN $among THEN grouped.$column END";
            $select[] = "$sql AS $column";
            if (null !== $this->all->sorted($level)) {
                $sorted = $this->all->inOrder($level);
                $select[] = ($own ? "MIN(grouped.$sorted)" : "MIN(CASE WHEN $among THEN grouped.$sorted END)")." AS $sorted";
            }
        }
        $group[] = "CASE WHEN $among THEN 0 ELSE 1 END";
        foreach ($question->base as $measure) {
            $whole = $this->all->aggregating->parts($measure, 'x')[1];
            $nothing = $measure->aggregation->ofNothing();
            $select[] = (null === $nothing ? $whole : "COALESCE($whole, $nothing)").' AS '.$this->all->column($measure);
        }
        $select[] = "CASE WHEN MIN(CASE WHEN $among THEN 0 ELSE 1 END) = 0 THEN 0 ELSE COUNT(*) END AS ".self::OTHERS;
        $from = $this->from;
        $this->layer('put_together', [
            ...Aggregating::selecting('  ', $select), new SqlLine("  FROM $from AS grouped"), new SqlLine('  GROUP BY '.implode(', ', $group)),
        ], 'the others are one row');
    }

    /** @return list<SqlLine> */
    private function answered(): array
    {
        $select = $this->carried();
        foreach ($this->all->question->needed() as $measure) {
            $select[] = $this->all->aggregating->as($this->all->gathering->computed($measure, $this->all->column(...)), $this->all->column($measure));
        }
        foreach ($this->all->question->figures as $figure) {
            if (!$figure->as->isOfShown()) {
                $select[] = $this->figure($figure).' AS '.$this->all->column($figure);
            }
        }

        return [...Aggregating::selecting('  ', $select), new SqlLine("  FROM $this->from")];
    }

    /** @return list<string> what the answer is split by, with what it stands in order by, and what is put together */
    private function carried(): array
    {
        $select = [];
        foreach ($this->all->question->by as $level) {
            $select[] = $this->all->column($level);
            if (null !== $this->all->sorted($level)) {
                $select[] = $this->all->inOrder($level);
            }
        }

        return [...$select, ...$this->all->question->trial->others ? [self::OTHERS] : []];
    }

    private function figure(Figure $figure): string
    {
        $measure = $this->all->ground->names()->measureNamed($figure->measure);
        $value = $this->all->gathering->computed($measure, $this->all->column(...));
        $value = $measure->aggregation instanceof OfMeasures ? "($value)" : $value;
        $before = '';
        if ($figure->as->isBefore()) {
            $count = $this->all->question->shift?->count($figure) ?? throw new \LogicException('The planner has seen to it.');
            $before = $this->all->gathering->computed($measure, fn (Measure $part): string => $this->all->before($part, $count));
            $before = $measure->aggregation instanceof OfMeasures ? "($before)" : $before;
        }
        $sql = $figure->as->sql($this->all->sql, $value, $before, $this->windows($figure, $value));
        if ($figure->as->runs()) {
            $along = $this->all->column($this->all->ground->names()->attribute($figure->along));
            $sql = "CASE WHEN $along IS NOT NULL THEN $sql END";
        }

        return $figure->as->ranks() && $this->all->question->trial->others ? 'CASE WHEN '.self::OTHERS." = 0 THEN $sql END" : $sql;
    }

    /** What the rows are parted by, and their order within that. */
    private function windows(Figure $figure, string $value): string
    {
        $names = $this->all->ground->names();
        $question = $this->all->question;
        $within = array_map($names->attribute(...), $figure->within);
        $order = [];
        if ($figure->as->runs()) {
            $along = $names->attribute($figure->along);
            $earlier = new Earlier($this->all->ground, $question);
            foreach ($question->by as $level) {
                if ($earlier->isAlong($level, $along)) {
                    $order[] = $this->all->sql->ordered(null === $this->all->sorted($level) ? $this->all->column($level) : $this->all->inOrder($level), false);
                } elseif (!\in_array($level, $within, false)) {
                    $within[] = $level;
                }
            }
        } elseif ($figure->as->ranks()) {
            $order = [...$question->trial->others ? [self::OTHERS.' <> 0'] : [], $this->all->sql->ordered($value, true, $value)];
        }
        $parted = [] === $within ? '' : 'PARTITION BY '.implode(', ', array_map($this->all->column(...), $within));

        return trim($parted.([] === $order ? '' : ' ORDER BY '.implode(', ', $order)));
    }

    /** @return list<string> conditions on what is shown */
    private function having(): array
    {
        $names = $this->all->ground->names();
        $having = [];
        foreach ($this->all->question->having as [$what, $condition]) {
            $value = $this->all->column($what);
            $measure = $what instanceof Figure ? $names->measureNamed($what->measure) : $what;
            $family = $this->all->ground->familyOf($measure);
            $having[] = $this->all->conditions->whole($value, $what instanceof Figure ? $what->as->family($family) : $family, $condition);
        }

        return $having;
    }

    /**
     * @param list<string> $having
     *
     * @return list<SqlLine>
     */
    private function placed(array $having): array
    {
        $each = array_map($this->all->column(...), $this->all->question->each);
        $over = 'PARTITION BY '.implode(', ', $each).' ORDER BY '.implode(', ', $this->ordered());

        return [
            new SqlLine("  SELECT $this->from.*, ROW_NUMBER() OVER ($over) AS place"), new SqlLine("  FROM $this->from"),
            ...Aggregating::filtering('  ', $having),
        ];
    }

    /** @return list<string> */
    private function ordered(): array
    {
        $by = $this->all->question->trial->others ? [self::OTHERS.' <> 0'] : [];
        $each = $this->all->question->each;
        foreach ($this->all->order() as $i => [$what, $descending]) {
            $column = $what instanceof Level && null !== $this->all->sorted($what) ? $this->all->inOrder($what) : $this->all->column($what);
            $one = $this->all->sql->ordered($column, $descending, $column);
            // The others stand at the end of what they are the others of.
            $by = $i < \count($each) && $this->all->question->trial->others ? [...\array_slice($by, 0, $i), $one, ...\array_slice($by, $i)] : [...$by, $one];
        }

        return array_values(array_unique($by));
    }

    /** @return list<string> */
    private function shown(): array
    {
        return [
            ...$this->all->gathering->byColumns(), ...array_map($this->all->column(...), $this->all->question->shown()),
            ...$this->all->question->trial->others ? [self::OTHERS] : [],
        ];
    }

    /**
     * @param list<string> $select
     * @param list<string> $having
     *
     * @return list<SqlLine>
     */
    private function closed(array $select, array $having): array
    {
        return [
            ...$this->lines, ...Aggregating::selecting('', $select), new SqlLine("FROM $this->from"), ...Aggregating::filtering('', $having),
            ...$this->closing(),
        ];
    }

    /** @return list<SqlLine> */
    private function closing(): array
    {
        $lines = [new SqlLine('ORDER BY '.implode(', ', $this->ordered()), 'rows without a value stand last')];
        $lines = [] === $this->all->order() ? [] : $lines;
        $question = $this->all->question;
        if (null !== $question->trial->limit && [] === $question->each && !$question->trial->others) {
            $lines[] = new SqlLine($this->all->sql->limited($question->trial->limit));
        }

        return $lines;
    }

    /**
     * @param list<string> $having
     *
     * @return list<SqlLine>
     */
    private function ofShown(array $having): array
    {
        $all = [...$this->carried(), ...array_map($this->all->column(...), $this->all->question->needed())];
        foreach ($this->all->question->figures as $figure) {
            if (!$figure->as->isOfShown()) {
                $all[] = $this->all->column($figure);
            }
        }
        $this->layer('shown', array_map(static fn (SqlLine $line): SqlLine => new SqlLine('  '.$line->text, $line->does), [
            ...Aggregating::selecting('', $all), new SqlLine("FROM $this->from"), ...Aggregating::filtering('', $having), ...$this->closing(),
        ]), 'only what is shown counts');
        $select = [];
        foreach ($this->all->question->shown() as $what) {
            $select[] = $what instanceof Figure && $what->as->isOfShown() ? $what->as->sql(
                $this->all->sql,
                $this->all->column($this->all->ground->names()->measureNamed($what->measure)),
                '',
                $this->windows($what, ''),
            ).' AS '.$this->all->column($what) : $this->all->column($what);
        }
        $closing = $this->closing();
        $last = \count($closing) - 1;
        // What is shown has been chosen.
        $closing = [] !== $closing && !str_starts_with($closing[$last]->text, 'ORDER') ? \array_slice($closing, 0, -1) : $closing;

        return [
            ...$this->lines,
            ...Aggregating::selecting('', [
                ...$this->all->gathering->byColumns(), ...$select, ...$this->all->question->trial->others ? [self::OTHERS] : [],
            ]),
            new SqlLine("FROM $this->from"), ...$closing,
        ];
    }
}
