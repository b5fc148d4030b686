<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Call;
use Fasti\Core\Sql\Tree\Ref;

/**
 * The branch of a fact that is looked at from later, its rows gone over once: they are grouped by what they fall under now and from later, and only
 * the few groups count more than once.
 */
final class Shifting
{
    /** @var list<string> what the inner query gives, and what it is grouped by */
    private array $inner = [];
    /** @var list<string> */
    private array $group = [];
    /** @var list<string> what the outer query gives, and what it is grouped by */
    private array $select = [];
    /** @var list<string> */
    private array $again = [];
    /** @var list<string> conditions on the inner rows */
    private array $where = [];
    /** @var list<array{string, string}> what is looked up for the groups */
    private array $joins = [];
    private readonly Joining $joining;
    /** @var list<int> 0 for a row as it is, and one for each time that it is looked at from later */
    private readonly array $counts;

    public function __construct(private readonly Composer $all, private readonly Branch $branch, private readonly Shift $shift)
    {
        $this->joining = new Joining($all->ground, $all->sql, $branch->fact);
        $this->counts = array_keys([0, ...$shift->spans]);
    }

    /** Whether all its measures come of figures of groups. */
    public static function can(Branch $branch, AskSql $sql): bool
    {
        return null === $branch->sharing
            && [] === array_filter($branch->measures, static fn (Measure $measure): bool => null === $measure->aggregation->inParts($sql, 'x', '0'));
    }

    /** @return list<SqlLine> */
    public function lines(string $indent): array
    {
        $this->split();
        $meets = $this->meeting();
        [$filters, $same] = $this->all->filters($this->branch, $this->joining);
        $this->times();
        foreach ($this->branch->measures as $i => $measure) {
            $this->measured($measure, $i, $same);
        }
        if (!$this->shift->bounded) {
            $later = implode('', array_map(static fn (int $k): string => " WHEN $k THEN grouped.t_$k", \array_slice($this->counts, 1)));
            $this->select[] = 'MAX(CASE WHEN '.Shift::COUNT.' = 0 THEN 1 END) AS own_then';
            $this->select[] = 'MAX(CASE WHEN '.Shift::COUNT.' = 0 THEN grouped.t_0 END) AS until_then';
            $this->select[] = 'MIN(CASE '.Shift::COUNT."$later END) AS since_then";
        }
        if ([] !== $filters) {
            $this->where[] = '(('.implode(') OR (', $filters).'))';
        }
        $this->all->aggregating->rememberUnshifted($this->branch, $this->joining);
        $group = array_values(array_unique($this->group));

        return [
            ...Aggregating::selecting($indent, $this->select),
            new SqlLine($indent.'FROM (', 'the rows are gone over once, and grouped by what they fall under now and from later …'),
            ...Aggregating::selecting($indent.'  ', $this->inner),
            ...$this->joining->lines($indent.'  '),
            ...Aggregating::filtering($indent.'  ', $this->where),
            ...[] === $group ? [] : [new SqlLine($indent.'  GROUP BY '.implode(', ', $group))],
            new SqlLine($indent.') AS grouped'),
            ...array_map(static fn (array $join): SqlLine => new SqlLine($indent.$join[0], $join[1]), $this->joins),
            new SqlLine($indent.'  CROSS JOIN '.$this->shift->times(), '… and only the groups count once as they are, and once more from later'),
            new SqlLine($indent.'WHERE CASE '.Shift::COUNT."$meets END = 1"),
            ...[] === $this->again ? [] : [new SqlLine($indent.'GROUP BY '.implode(', ', $this->again))],
        ];
    }

    private function split(): void
    {
        $late = (new Late($this->all->ground, $this->all->question, $this->all->sql))->levels($this->branch);
        $taken = ['grouped' => true, 'times' => true];
        foreach ($this->all->question->by as $i => $level) {
            $route = $this->all->route($this->joining, $level->role);
            $column = $this->all->column($level);
            if (\in_array($level, $late, true) && $level->role !== $this->shift->role && Composer::on($route, $this->shift) === $route) {
                $sql = $this->all->aggregating->lookedUp($level, $this->joining, $i, $this->inner, $this->group, $this->joins, $taken);
            } else {
                $sql = $this->each("a$i", $level, $this->all->ground->formula($level->role, $this->all->attribute($level)->expression));
            }
            $this->again[] = $sql;
            $this->select[] = "$sql AS $column";
            $sorted = $this->all->sorted($level);
            if (null !== $sorted) {
                $this->select[] = 'MIN('.$this->each("o$i", $level, $sorted).') AS '.$this->all->inOrder($level);
            }
        }
    }

    /** A value now and from later, in the inner query; once where they are the same. */
    private function each(string $name, Level $level, Formula $formula): string
    {
        $values = array_map(fn (int $k): string => $this->all->written($this->joining, $level->role, $formula, $this->at($k)), $this->counts);
        $one = 1 === \count(array_unique($values));
        foreach ($one ? [$values[0]] : $values as $k => $value) {
            $this->group[] = $value;
            $this->inner[] = "$value AS {$name}_$k";
        }

        return $one ? "grouped.{$name}_0" : 'CASE '.Shift::COUNT.implode('', array_map(
            static fn (int $k): string => " WHEN $k THEN grouped.{$name}_$k",
            $this->counts,
        )).' END';
    }

    private function at(int $count): ?Shift
    {
        return 0 === $count ? null : $this->shift->only($count);
    }

    /** The date of a row as it is, or the later one. */
    private function date(int $count): string
    {
        $route = $this->all->route($this->joining, $this->shift->role);

        return $this->joining->field($this->joining->at(Composer::on($route, $this->at($count))), $this->shift->column);
    }

    /** What says of which of the counts a group meets the conditions: what stands within CASE times.k … END. */
    private function meeting(): string
    {
        $dated = [];
        foreach ($this->branch->conditions as $condition) {
            $values = array_map(fn (int $k): string => $this->all->held($condition, $this->joining, false, 1, $this->at($k)), $this->counts);
            if (1 === \count(array_unique($values))) {
                $this->where[] = $values[0];
            } else {
                $dated[] = $values;
            }
        }
        if ([] !== $dated) {
            $any = array_map(static fn (int $k): string => '('.implode(' AND ', array_column($dated, $k)).')', $this->counts);
            $this->where[] = '('.implode(' OR ', $any).')';
        }
        $meets = '';
        $telling = [] === $dated ? $this->telling() : null;
        foreach ($this->counts as $k) {
            $all = array_column($dated, $k);
            if ($k > 0 && null === $telling) {
                $all[] = $this->date($k).' IS NOT NULL';
            }
            if ([] !== $all) {
                $this->group[] = $flag = 'CASE WHEN '.implode(' AND ', $all).' THEN 1 ELSE 0 END';
                $this->inner[] = "$flag AS c_$k";
            }
            $meets .= " WHEN $k THEN ".match (true) {
                [] !== $all => "grouped.c_$k",
                0 === $k => '1',
                // Where there is no later date, there is nothing that tells of it.
                default => "CASE WHEN grouped.a{$telling}_$k IS NOT NULL THEN 1 ELSE 0 END",
            };
        }

        return $meets;
    }

    /** The number of what the answer is split by that has a value wherever there is a date, and none where there is none; null where nothing is sure to. */
    private function telling(): ?int
    {
        foreach ($this->all->question->by as $i => $level) {
            $formula = $this->all->ground->formula($level->role, $this->all->attribute($level)->expression);
            $sure = $this->shift->calendar ? $this->isAlwaysGiven($level, $formula) : $this->isOfDate($formula);
            if ($sure && $this->shift->moves($this->all->ground, $formula)) {
                return $i;
            }
        }

        return null;
    }

    /** A field of the calendar that each of its rows has. */
    private function isAlwaysGiven(Level $level, Formula $formula): bool
    {
        $field = $formula->field();

        return null !== $field && $level->role === $this->shift->role && false === $this->all->ground->column($field->role, $field->column)?->nullable;
    }

    /** The date itself, or a part of it. */
    private function isOfDate(Formula $formula): bool
    {
        $tree = $formula->tree;
        $function = $tree instanceof Call ? FormulaReader::function($tree->names[\count($tree->names) - 1]) : '';
        $others = array_filter(
            $formula->fields,
            fn (FieldUse $use): bool => $use->role !== $this->shift->role || $use->column !== $this->shift->column,
        );

        return [] === $others && ($tree instanceof Ref || 'EXTRACT' === $function || str_starts_with($function, 'FISCAL_'));
    }

    /** Up to when there are rows, and from when those are that are looked at from later. */
    private function times(): void
    {
        foreach ($this->shift->bounded ? [] : $this->counts as $k) {
            $date = 0 === $k || $this->shift->calendar ? $this->date($k) : $this->shift->only($k)->later($this->all->sql, $this->date(0));
            $this->inner[] = (0 === $k ? 'MAX' : 'MIN')."($date) AS t_$k";
        }
    }

    private function measured(Measure $measure, int $number, bool $same): void
    {
        $fact = $this->branch->fact;
        $written = fn (string $text): string => $this->all->written($this->joining, $fact, $this->all->ground->formula($fact, $text));
        $value = '' === trim($measure->expression) ? null : $written($measure->expression);
        $filter = '' === trim($measure->filter) || $same ? null : $written($measure->filter);
        [$parts, $whole] = $measure->aggregation->inParts($this->all->sql, Aggregating::counted($value, $filter), (string) $number)
            ?? throw new \LogicException('It has been seen to.');
        foreach ($parts as $part => $sql) {
            $this->inner[] = "$sql AS $part";
        }
        foreach ($this->counts as $k) {
            $only = [];
            foreach (array_keys($parts) as $part) {
                $only["grouped.$part)"] = 'CASE WHEN '.Shift::COUNT." = $k THEN grouped.$part END)";
            }
            $figure = strtr($whole, $only);
            $nothing = $measure->aggregation->ofNothing();
            $name = 0 === $k ? $this->all->column($measure) : $this->all->before($measure, $k);
            $this->select[] = (null === $nothing ? $figure : "COALESCE($figure, $nothing)")." AS $name";
        }
    }
}
