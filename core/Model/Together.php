<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Model\Aggregate\OfMeasures;

/** Branches of several facts put together, and what is computed of them. */
final class Together
{
    public function __construct(private readonly Composer $all)
    {
    }

    /** @return list<string> */
    public function byColumns(): array
    {
        return array_map($this->all->column(...), $this->all->question->by);
    }

    /** @return list<string> what the answer is split by, once more, with what it stands in order by */
    public function regrouped(): array
    {
        $select = [];
        foreach ($this->all->question->by as $level) {
            $select[] = $this->all->column($level);
            if (null !== $this->all->sorted($level)) {
                $select[] = 'MIN('.$this->all->inOrder($level).') AS '.$this->all->inOrder($level);
            }
        }

        return $select;
    }

    /** @return list<SqlLine> each value with its rank among those of its row of the answer, and how many they are */
    public function ranked(Branch $branch, Joining $joining): array
    {
        $measure = $branch->measures[0];
        $value = $this->all->written($joining, $branch->fact, $this->all->ground->formula($branch->fact, $measure->expression));
        $select = $parts = [];
        foreach ($this->all->question->by as $level) {
            $parts[] = $sql = $this->all->attributed($joining, $level);
            $select[] = $this->all->aggregating->as($sql, $this->all->column($level));
            $sorted = $this->all->sorted($level);
            if (null !== $sorted) {
                $select[] = $this->all->written($joining, $level->role, $sorted).' AS '.$this->all->inOrder($level);
            }
        }
        $over = [] === $parts ? '' : 'PARTITION BY '.implode(', ', $parts);
        $select[] = "$value AS v";
        array_push($select, ...$measure->aggregation->overRows($this->all->sql, $value, $over)[0]);
        $where = $this->all->wheres($branch, $joining);
        [$filters] = $this->all->filters($branch, $joining);
        if ([] !== $filters) {
            $where[] = '('.$filters[0].')';
        }
        $this->all->aggregating->remember($branch, $joining, $where);

        return [...Aggregating::selecting('  ', $select), ...$joining->lines('  '), ...Aggregating::filtering('  ', $where)];
    }

    /**
     * Each point with its place among those of its row of the answer, the instants that are none at the end; or among those of all rows, where
     * one point counts for all.
     *
     * @param list<string> $by what the points are told apart by
     */
    public static function marked(Instead $instead, string $from, array $by): string
    {
        $over = [] === $by ? '' : 'PARTITION BY '.implode(', ', $by).' ';
        $down = $instead->isFirst() ? '' : ' DESC';
        $place = $instead->isOfAll() ? 'RANK' : 'ROW_NUMBER';

        return "SELECT $from.*, $place() OVER ({$over}ORDER BY CASE WHEN i IS NULL THEN 1 ELSE 0 END, i$down) AS n, COUNT(i) OVER (".trim($over)
            .") AS c FROM $from";
    }

    /** The one figure of several points. Points at no instant count only where there are no others. */
    public static function settled(AskSql $sql, Instead $instead): string
    {
        $counts = 'CASE WHEN i IS NOT NULL OR c = 0 THEN v END';

        return match ($instead) {
            Instead::Average => $sql->average($counts),
            Instead::Least => "MIN($counts)",
            Instead::Greatest => "MAX($counts)",
            default => 'MAX(CASE WHEN n = 1 THEN v END)',
        };
    }

    /**
     * Several queries within, brought together by what they are split by.
     *
     * @param list<Branch> $branches
     *
     * @return list<SqlLine>
     */
    public function together(array $branches): array
    {
        $lines = [];
        $names = [];
        $with = [];
        foreach ($branches as $branch) {
            [$queries, $name] = $this->all->aggregating->within($branch);
            $with = [...$with, ...$queries];
            $names[] = [$name, $branch];
        }
        foreach ($with as $i => [$name, $inner]) {
            $lines[] = new SqlLine(
                (0 === $i ? 'WITH ' : '').$name.' AS (',
                0 === $i && \count($branches) > 1 ? 'each fact is brought to the asked grain by itself …' : '',
            );
            $lines = [...$lines, ...$inner, new SqlLine(isset($with[$i + 1]) ? '),' : ')')];
        }
        if ($this->all->question->isLayered()) {
            return (new Layering($this->all))->lines($names, $lines);
        }
        $one = 1 === \count($branches);
        $base = fn (Measure $measure): string => $this->figure($measure, $one);
        $select = $this->byColumns();
        foreach ($this->all->question->measures as $measure) {
            $select[] = $this->all->aggregating->as($this->computed($measure, $base), $this->all->column($measure));
        }
        $lines = [...$lines, ...Aggregating::selecting('', $select), ...$one ? [new SqlLine('FROM '.$names[0][0])] : $this->stacked($names)];
        $having = $this->having($base);
        if ($one) {
            $lines = [...$lines, ...Aggregating::filtering('', $having)];
        } elseif ([] !== $this->all->question->by) {
            $lines[] = new SqlLine('GROUP BY '.implode(', ', $this->byColumns()));
        }
        if (!$one && [] !== $having) {
            $lines[] = new SqlLine('HAVING '.implode(' AND ', $having), 'only these rows of the answer');
        }

        return [...$lines, ...$this->all->closing($this->ordered($one, $base))];
    }

    /**
     * @param \Closure(Measure): string $base
     *
     * @return list<string> conditions on figures
     */
    private function having(\Closure $base): array
    {
        $having = [];
        foreach ($this->all->question->having as [$measure, $condition]) {
            if (!$measure instanceof Measure) {
                throw new \LogicException('Such a question has layers.');
            }
            $value = $this->computed($measure, $base);
            $having[] = $this->all->conditions->whole($value, $this->all->ground->familyOf($measure), $condition);
        }

        return $having;
    }

    /**
     * @param \Closure(Measure): string $base
     *
     * @return list<string> what the rows stand in order by
     */
    private function ordered(bool $one, \Closure $base): array
    {
        $by = [];
        foreach ($this->all->order() as [$what, $descending]) {
            $sorted = $what instanceof Level && null !== $this->all->sorted($what) ? $this->all->inOrder($what) : null;
            $expression = !$one && $what instanceof Measure ? $this->computed($what, $base) : '';
            $by[] = $this->all->sql->ordered(match (true) {
                null === $sorted => $this->all->column($what),
                $one => $sorted,
                default => "MIN($sorted)",
            }, $descending, $expression);
        }

        return $by;
    }

    /** A figure where results are brought together: that of the one query that has it. */
    public function figure(Measure $measure, bool $one): string
    {
        $name = $this->all->column($measure);
        $nothing = $measure->aggregation->ofNothing();

        return match (true) {
            $one => $name,
            null !== $nothing => "COALESCE(MAX($name), $nothing)",
            default => "MAX($name)",
        };
    }

    /** @param \Closure(Measure): string $base */
    public function computed(Measure $measure, \Closure $base): string
    {
        if (!$measure->aggregation instanceof OfMeasures) {
            return $base($measure);
        }
        $names = $this->all->ground->names();

        return $measure->aggregation->computed($this->all->ground, $measure, function (string $name) use ($names, $base): string {
            $part = $names->measureNamed($name);
            $sql = $this->computed($part, $base);

            return $part->aggregation instanceof Computed ? "($sql)" : $sql;
        });
    }

    /**
     * @param list<array{string, Branch}> $names
     *
     * @return list<SqlLine>
     */
    public function stacked(array $names): array
    {
        $lines = [new SqlLine('FROM (', '… and only then brought together by what they share')];
        foreach ($names as $i => [$name, $branch]) {
            $select = [];
            foreach ($this->all->question->by as $level) {
                $select[] = $this->all->column($level);
                if (null !== $this->all->sorted($level)) {
                    $select[] = $this->all->inOrder($level);
                }
            }
            foreach ($this->all->question->base as $measure) {
                $select[] = \in_array($measure, $branch->measures, true)
                    ? $this->all->column($measure)
                    : $this->none($measure).' AS '.$this->all->column($measure);
                array_push($select, ...$this->beside($measure, $branch));
            }
            if (null !== $this->all->question->shift && !$this->all->question->shift->bounded) {
                $date = $this->all->sql->none(TypeFamily::Time, $this->all->question->shift->type);
                array_push($select, ...null === $branch->shift ? ['1 AS own_then', "$date AS until_then", "$date AS since_then"]
                    : ['own_then', 'until_then', 'since_then']);
            }
            $lines[] = new SqlLine('  SELECT '.implode(', ', $select)." FROM $name");
            if (isset($names[$i + 1])) {
                $lines[] = new SqlLine('  UNION ALL');
            }
        }

        return [...$lines, new SqlLine(') AS together')];
    }

    /** @return list<string> what a measure was before, and what it is put together of */
    private function beside(Measure $measure, Branch $branch): array
    {
        $own = \in_array($measure, $branch->measures, true);
        $select = [];
        foreach (array_keys($this->all->question->shift->spans ?? []) as $k) {
            $name = $this->all->before($measure, $k + 1);
            $select[] = $own && null !== $branch->shift ? $name : $this->none($measure).' AS '.$name;
        }
        foreach ($this->all->question->trial->others ? array_keys($this->all->aggregating->parts($measure, 'x')[0]) : [] as $part) {
            $select[] = $own ? $part : $this->none($measure).' AS '.$part;
        }

        return $select;
    }

    private function none(Measure $measure): string
    {
        $family = $this->all->ground->familyOf($measure);
        $written = $measure->aggregation->isValue() ? $this->all->ground->formula($measure->fact, $measure->expression)->written : '';

        return $this->all->sql->none($family, $written);
    }
}
