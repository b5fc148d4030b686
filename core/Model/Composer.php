<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/** Writes the query of a trial that Planner has found to be answerable. */
final class Composer
{
    /** @var array<string, true> names of queries within the query */
    private array $named = [];
    /** @var array<string, string> of levels and measures, by a key → name of the column */
    private array $columns = [];
    /** @var list<Guard> */
    private array $guards = [];
    /** @var list<Losses> */
    private array $losses = [];
    /** @var array<string, true> */
    private array $reads = [];
    /** @var array<string, string> what the answer is split by → its expression, and what it stands in order by */
    private array $splitting = [];
    /** @var array<string, string> */
    private array $ordering = [];
    /** @var array<string, string> measure → the aggregate that it is */
    private array $aggregates = [];

    /** @param list<Level> $trusting levels to which every fact is joined as if each key were one, whatever the answer is split by */
    public function __construct(
        private readonly Ground $ground,
        private readonly AskSql $sql,
        private readonly ConditionSql $conditions,
        private readonly Question $question,
        private readonly array $trusting = [],
    ) {
        foreach ($ground->model->roles as $role) {
            $this->named[mb_strtolower($role->entry->name)] = true;
        }
        $taken = [];
        foreach ($question->by as $level) {
            $this->columns[self::keyOf($level)] = $this->free($ground->names()->of($level), $taken);
        }
        foreach ([...$question->measures, ...$question->base] as $measure) {
            $this->columns[self::keyOf($measure)] ??= $this->free($measure->name, $taken);
        }
    }

    /** @param array<string, true> $taken */
    private function free(string $name, array &$taken): string
    {
        $cut = mb_strcut($name, 0, $this->sql->longestName);
        for ($n = 2; isset($taken[mb_strtolower($cut)]); ++$n) {
            $cut = mb_strcut($name, 0, $this->sql->longestName - 4).' '.$n;
        }
        $taken[mb_strtolower($cut)] = true;

        return $cut;
    }

    private static function keyOf(Level|Measure $what): string
    {
        return $what instanceof Level ? "l\0$what->role\0$what->attribute" : "m\0$what->name";
    }

    private function column(Level|Measure $what): string
    {
        return $this->sql->name($this->columns[self::keyOf($what)]);
    }

    /** The hidden column by which the values of an attribute stand in order. */
    private function inOrder(Level $level): string
    {
        return $this->sql->name(mb_strcut($this->columns[self::keyOf($level)], 0, $this->sql->longestName - 10).', in order');
    }

    private function sorted(Level $level): ?Formula
    {
        $attribute = $this->attribute($level);

        return '' === trim($attribute->sorted) ? null : $this->ground->formula($level->role, $attribute->sorted);
    }

    private function attribute(Level $level): Attribute
    {
        return $this->ground->model->attribute($level) ?? throw new \LogicException('The planner has seen to it.');
    }

    /** @param list<Branch> $branches */
    public function plan(array $branches): Plan
    {
        $alone = new Alone($this->ground, $this->sql, $this->conditions, $this->question);
        $reckonings = [];
        foreach ($branches as $branch) {
            foreach ($branch->measures as $measure) {
                $reckonings[] = new Reckoning($measure->name, $branch->fact, $alone->of($measure, $branch));
            }
        }
        $plain = 1 === \count($branches) && '' === $branches[0]->special && [] === $this->question->figures
            && $this->question->measures === $branches[0]->measures;
        $lines = $plain ? $this->direct($branches[0]) : $this->together($branches);

        return new Plan(
            $this->question->trial,
            $lines,
            $this->described(),
            array_values(array_combine(array_map(static fn (Guard $guard): string => $guard->sql, $this->guards), $this->guards)),
            $reckonings,
            $this->losses,
            $this->question->facts(),
            array_values(array_diff(array_map(strval(...), array_keys($this->reads)), $this->question->facts())),
            $this->question->ratios,
        );
    }

    /** @return list<PlanColumn> */
    private function described(): array
    {
        $columns = [];
        foreach ($this->question->by as $level) {
            $formula = $this->ground->formula($level->role, $this->attribute($level)->expression);
            $columns[] = new PlanColumn(
                $this->columns[self::keyOf($level)],
                $level,
                null,
                $formula->family,
                $this->attribute($level)->unit ?: $formula->unit,
                '',
                $formula->fields,
            );
        }
        foreach ($this->question->measures as $measure) {
            $fields = [];
            foreach ($this->question->parts($measure) as $part) {
                $fields = [...$fields, ...'' === trim($part->expression) ? [] : $this->ground->formula($part->fact, $part->expression)->fields];
            }
            $columns[] = new PlanColumn(
                $this->columns[self::keyOf($measure)], null, $measure, $this->familyOf($measure), self::unitOf($this->ground, $measure), $measure->format,
                $fields,
            );
        }

        return $columns;
    }

    public static function unitOf(Ground $ground, Measure $measure): string
    {
        if ('' !== $measure->unit) {
            return $measure->unit;
        }
        $counts = \in_array($measure->aggregation, [Aggregation::Count, Aggregation::Distinct, Aggregation::Ratio], true);

        return $counts || '' === trim($measure->expression) ? '' : $ground->formula($measure->fact, $measure->expression)->unit;
    }

    private function familyOf(Measure $measure): TypeFamily
    {
        return match ($measure->aggregation) {
            Aggregation::Count, Aggregation::Distinct => TypeFamily::Whole,
            Aggregation::Least, Aggregation::Greatest => $this->ground->formula($measure->fact, $measure->expression)->family,
            default => TypeFamily::Number,
        };
    }

    /**
     * One fact, aggregates alone: the query is that of the fact.
     *
     * @return list<SqlLine>
     */
    private function direct(Branch $branch): array
    {
        $joining = new Joining($this->ground, $this->sql, $branch->fact, [] !== $this->trusting);
        $lines = $this->aggregatedLines($branch, $joining, '', []);
        $by = [];
        foreach ($this->order() as [$what, $descending]) {
            // By the expression itself: a name of a column of the answer may be that of a field, too.
            $sorted = $what instanceof Level ? $this->sorted($what) : null;
            $by[] = $this->sql->ordered(match (true) {
                $what instanceof Measure => $this->aggregates[$what->name],
                null !== $sorted => $this->ordering[self::keyOf($what)],
                default => $this->splitting[self::keyOf($what)],
            }, $descending);
        }

        return [...$lines, ...$this->closing($by)];
    }

    /** @return list<array{Level|Measure, bool}> what is asked for, and then all that the answer is split by, so that the order is always the same */
    private function order(): array
    {
        $order = $this->question->order;
        foreach ($this->question->by as $level) {
            if (!\in_array($level, array_column($order, 0), false)) {
                $order[] = [$level, false];
            }
        }

        return $order;
    }

    /**
     * @param list<string> $by
     *
     * @return list<SqlLine>
     */
    private function closing(array $by): array
    {
        $lines = [] === $by ? [] : [new SqlLine('ORDER BY '.implode(', ', $by), 'rows without a value stand last')];
        if (null !== $this->question->trial->limit) {
            $lines[] = new SqlLine($this->sql->limited($this->question->trial->limit));
        }

        return $lines;
    }

    private function written(Joining $joining, string $role, Formula $formula): string
    {
        $route = $this->route($joining, $role);
        $sql = $this->expressed($joining, $role, $route, $formula);
        if ([] === $route || $formula->isStrict()) {
            return $sql;
        }
        // Where there is no such row there is no value, whatever the expression makes of nothing.
        $there = $joining->field($joining->at($route), $route[\count($route) - 1]->pairs()[0][1]);

        return "CASE WHEN $there IS NOT NULL THEN $sql END";
    }

    /** @param list<Way> $route to the role */
    private function expressed(Joining $joining, string $role, array $route, Formula $formula): string
    {
        return (new FormulaSql($this->sql, function (Ref $ref) use ($joining, $role, $route): string {
            $names = $ref->names;
            $column = array_pop($names);
            $target = [] === $names ? $role : (string) $this->ground->roleNamed(implode('.', $names));
            $way = $target === $role ? $route : [...$route, ...$this->ground->ways()->between($role, $target)[0]];
            $this->reads[$target] = true;

            return $joining->field($joining->at($way), $this->ground->column($target, $column)->name ?? $column);
        }))->of($formula->tree ?? throw new \LogicException('The planner has seen to it.'));
    }

    /** @return list<Way> */
    private function route(Joining $joining, string $role): array
    {
        $route = $this->ground->ways()->between($joining->fact, $role)[0];
        foreach ($route as $way) {
            $this->reads[$way->to()] = true;
        }

        return $route;
    }

    private function attributed(Joining $joining, Level $level): string
    {
        return $this->written($joining, $level->role, $this->ground->formula($level->role, $this->attribute($level)->expression));
    }

    /** @return list<string> */
    private function wheres(Branch $branch, Joining $joining): array
    {
        $where = [];
        foreach ($branch->conditions as $condition) {
            $level = $this->question->level($condition);
            $formula = $this->ground->formula($level->role, $this->attribute($level)->expression);
            $value = $this->written($joining, $level->role, $formula);
            [$positive, $opposite] = $this->conditions->of($value, $formula->family, $condition);
            $where[] = match (true) {
                Test::None === $condition->test => "$value IS NULL",
                $opposite => "(NOT ($positive) OR $value IS NULL)",
                default => 1 === preg_match('/ (?:OR|AND) /', $positive) && \count($branch->conditions) > 1 ? "($positive)" : $positive,
            };
        }

        return $where;
    }

    /** @return array{list<string>, bool} conditions that rows which count for any of the measures meet, and whether they are those of each */
    private function filters(Branch $branch, Joining $joining): array
    {
        $filters = [];
        foreach ($branch->measures as $measure) {
            if ('' === trim($measure->filter)) {
                return [[], false];
            }
            $filters[$measure->filter] ??= $this->written($joining, $branch->fact, $this->ground->formula($branch->fact, $measure->filter));
        }

        return [array_values($filters), 1 === \count($filters)];
    }

    /** An aggregate over a value; `null` for the count of rows. */
    public static function aggregated(AskSql $sql, Measure $measure, ?string $value, ?string $filter): string
    {
        if (null !== $filter) {
            $value = 'CASE WHEN '.$filter.' THEN '.($value ?? '1').' END';
        }

        return match ($measure->aggregation) {
            Aggregation::Count => null === $value ? 'COUNT(*)' : "COUNT($value)",
            Aggregation::Distinct => "COUNT(DISTINCT $value)",
            Aggregation::Sum => "SUM($value)",
            Aggregation::Average => $sql->average((string) $value),
            Aggregation::Least => "MIN($value)",
            Aggregation::Greatest => "MAX($value)",
            Aggregation::Median => $sql->median((string) $value) ?? throw new \LogicException('It is worked out in another way.'),
            Aggregation::Ratio => throw new \LogicException('A ratio is no aggregate.'),
        };
    }

    /**
     * A query over one fact, grouped by what the answer is split by and whatever else is given.
     *
     * @param list<array{string, string}> $more expressions that are grouped by too, and their names
     *
     * @return list<SqlLine>
     */
    private function aggregatedLines(Branch $branch, Joining $joining, string $indent, array $more, bool $hidden = false): array
    {
        $late = [] === $this->trusting ? (new Late($this->ground, $this->question))->levels($branch) : [];
        if ([] !== $late) {
            return $this->lateLines($branch, $joining, $indent, $late, $hidden);
        }
        $select = $group = [];
        foreach ($this->question->by as $level) {
            $sql = $this->splitting[self::keyOf($level)] = $this->attributed($joining, $level);
            $group[] = $sql;
            $select[] = $this->as($sql, $this->column($level));
            $sorted = $this->sorted($level);
            if (null !== $sorted) {
                // Written before the joins are: it may need one of its own.
                $this->ordering[self::keyOf($level)] = 'MIN('.$this->written($joining, $level->role, $sorted).')';
                if ($hidden) {
                    $select[] = $this->ordering[self::keyOf($level)].' AS '.$this->inOrder($level);
                }
            }
        }
        foreach ($more as [$sql, $name]) {
            $group[] = $sql;
            $select[] = "$sql AS $name";
        }
        [$filters, $each] = $this->filters($branch, $joining);
        foreach ($branch->measures as $measure) {
            $value = '' === trim($measure->expression) ? null : $this->written(
                $joining,
                $branch->fact,
                $this->ground->formula($branch->fact, $measure->expression),
            );
            $filter = '' === trim($measure->filter) || $each ? null
                : $this->written($joining, $branch->fact, $this->ground->formula($branch->fact, $measure->filter));
            $name = 'points' === $branch->special ? 'v' : $this->column($measure);
            $select[] = ($this->aggregates[$measure->name] = self::aggregated($this->sql, $measure, $value, $filter))." AS $name";
        }
        foreach ($this->trusting as $level) {
            $this->attributed($joining, $level);
        }
        $where = $this->wheres($branch, $joining);
        if ([] !== $filters) {
            $where[] = 1 === \count($filters) ? '('.$filters[0].')' : '(('.implode(') OR (', $filters).'))';
        }
        $grouping = [] === $group ? [] : [new SqlLine($indent.'GROUP BY '.implode(', ', $group), 'one row of '.$branch->fact.' for each row of the answer')];
        $this->remember($branch, $joining, $where);

        return [...self::selecting($indent, $select), ...$joining->lines($indent), ...self::filtering($indent, $where), ...$grouping];
    }

    /**
     * The same for a big fact: its rows are grouped by the keys that lead to what is looked up late, and only then is that looked up.
     *
     * @param non-empty-list<Level> $late
     *
     * @return list<SqlLine>
     */
    private function lateLines(Branch $branch, Joining $joining, string $indent, array $late, bool $hidden): array
    {
        $inner = $group = $select = $again = $joins = [];
        $full = new Joining($this->ground, $this->sql, $branch->fact);
        $taken = ['grouped' => true];
        foreach ($this->question->by as $i => $level) {
            $this->attributed($full, $level);
            if (\in_array($level, $late, true)) {
                $sql = $this->lookedUp($level, $joining, $i, $inner, $group, $joins, $taken);
            } else {
                $group[] = $expression = $this->attributed($joining, $level);
                $inner[] = "$expression AS a$i";
                $sql = "grouped.a$i";
                $sorted = $this->sorted($level);
                if (null !== $sorted) {
                    $inner[] = 'MIN('.$this->written($joining, $level->role, $sorted).") AS o$i";
                }
                if (null !== $sorted) {
                    $this->ordering[self::keyOf($level)] = "MIN(grouped.o$i)";
                }
            }
            $again[] = $this->splitting[self::keyOf($level)] = $sql;
            $select[] = $this->as($sql, $this->column($level));
            if ($hidden && isset($this->ordering[self::keyOf($level)])) {
                $select[] = $this->ordering[self::keyOf($level)].' AS '.$this->inOrder($level);
            }
        }
        [$filters, $each] = $this->filters($branch, $joining);
        foreach ($branch->measures as $i => $measure) {
            $value = '' === trim($measure->expression) ? null : $this->written(
                $joining,
                $branch->fact,
                $this->ground->formula($branch->fact, $measure->expression),
            );
            $filter = '' === trim($measure->filter) || $each ? null
                : $this->written($joining, $branch->fact, $this->ground->formula($branch->fact, $measure->filter));
            [$parts, $whole] = $this->inParts($measure, $value, $filter, $i);
            $inner = [...$inner, ...$parts];
            $this->aggregates[$measure->name] = $whole;
            $select[] = "$whole AS ".$this->column($measure);
        }
        $where = $this->wheres($branch, $joining);
        $this->wheres($branch, $full);
        if ([] !== $filters) {
            $where[] = 1 === \count($filters) ? '('.$filters[0].')' : '(('.implode(') OR (', $filters).'))';
        }
        $this->filters($branch, $full);
        $this->remember($branch, $full, $where);

        return [
            ...self::selecting($indent, $select),
            new SqlLine($indent.'FROM (', 'the rows are brought to keys first, since there are many …'),
            ...self::selecting($indent.'  ', $inner), ...$joining->lines($indent.'  '), ...self::filtering($indent.'  ', $where),
            new SqlLine($indent.'  GROUP BY '.implode(', ', $group)),
            new SqlLine($indent.') AS grouped'),
            ...array_map(static fn (array $join): SqlLine => new SqlLine($indent.$join[0], $join[1]), $joins),
            new SqlLine($indent.'GROUP BY '.implode(', ', $again), '… and what the keys stand for is looked up once for each'),
        ];
    }

    /**
     * @param list<string>                $inner  what the inner query gives
     * @param list<string>                $group
     * @param list<array{string, string}> $joins
     * @param array<string, true>         $taken  aliases
     */
    private function lookedUp(Level $level, Joining $joining, int $number, array &$inner, array &$group, array &$joins, array &$taken): string
    {
        $route = $this->route($joining, $level->role);
        $last = $route[\count($route) - 1];
        $before = $joining->at(\array_slice($route, 0, -1));
        $plain = 'to_'.substr(trim(mb_strtolower((string) preg_replace('/[^A-Za-z0-9]+/', '_', $level->role)), '_'), 0, 40);
        for ($n = 2, $alias = $plain; isset($taken[$alias]); ++$n) {
            $alias = $plain.'_'.$n;
        }
        $taken[$alias] = true;
        $on = [];
        foreach ($last->pairs() as $k => [$here, $there]) {
            $group[] = $field = $joining->field($before, $here);
            $inner[] = "$field AS k{$number}_$k";
            $on[] = $this->sql->name($alias).'.'.$this->sql->name($there)." = grouped.k{$number}_$k";
        }
        $joins[] = [
            '  LEFT JOIN '.$this->sql->table($this->ground->role($level->role)->entry).' AS '.$this->sql->name($alias).' ON '.implode(' AND ', $on),
            'at most one '.$level->role.' to each: its key sees to that',
        ];
        $formula = $this->ground->formula($level->role, $this->attribute($level)->expression);
        $sql = (new FormulaSql($this->sql, fn (Ref $ref): string => $this->sql->name($alias).'.'.$this->sql->name(
            $this->ground->column($level->role, $ref->names[\count($ref->names) - 1])->name ?? '',
        )))->of($formula->tree ?? throw new \LogicException('The planner has seen to it.'));

        return $formula->isStrict() ? $sql : 'CASE WHEN '.$this->sql->name($alias).'.'.$this->sql->name($last->pairs()[0][1])." IS NOT NULL THEN $sql END";
    }

    /**
     * An aggregate as aggregates of parts, and what makes the whole of them.
     *
     * @return array{list<string>, string}
     */
    private function inParts(Measure $measure, ?string $value, ?string $filter, int $number): array
    {
        if (Aggregation::Average === $measure->aggregation) {
            $value = null === $filter ? (string) $value : "CASE WHEN $filter THEN $value END";

            return [["SUM($value) AS m$number", "COUNT($value) AS c$number"], $this->sql->divided("SUM(grouped.m$number)", "SUM(grouped.c$number)")];
        }
        $sql = self::aggregated($this->sql, $measure, $value, $filter);

        return [["$sql AS m$number"], match ($measure->aggregation) {
            Aggregation::Least => "MIN(grouped.m$number)",
            Aggregation::Greatest => "MAX(grouped.m$number)",
            default => "SUM(grouped.m$number)",
        }];
    }

    private function as(string $sql, string $name): string
    {
        return $sql === $name || str_ends_with($sql, ".$name") ? $sql : "$sql AS $name";
    }

    /**
     * @param list<string> $select
     *
     * @return list<SqlLine>
     */
    private static function selecting(string $indent, array $select): array
    {
        $lines = [];
        foreach ($select as $i => $one) {
            $lines[] = new SqlLine($indent.(0 === $i ? 'SELECT ' : '       ').$one.(isset($select[$i + 1]) ? ',' : ''));
        }

        return $lines;
    }

    /**
     * @param list<string> $where
     *
     * @return list<SqlLine>
     */
    private static function filtering(string $indent, array $where): array
    {
        $lines = [];
        foreach ($where as $i => $one) {
            $lines[] = new SqlLine($indent.(0 === $i ? 'WHERE ' : '  AND ').$one, 0 === $i ? 'only these rows' : '');
        }

        return $lines;
    }

    /**
     * What is to be asked around the query: keys that may stand twice, and rows that lead to nothing.
     *
     * @param list<string> $where
     */
    private function remember(Branch $branch, Joining $joining, array $where): void
    {
        $losing = $joining->losing();
        $this->guards = [...$this->guards, ...$joining->guards()];
        if ([] === $losing) {
            return;
        }
        $from = implode("\n", array_map(static fn (SqlLine $line): string => $line->text, [...$joining->lines(''), ...self::filtering('', $where)]));
        $steps = $counts = [];
        $key = array_values(array_filter(
            $this->ground->role($branch->fact)->key,
            fn (string $field): bool => null !== $this->ground->table($branch->fact)?->column($field),
        ));
        $shown = [] === $key ? array_map(
            static fn ($column): string => $column->name,
            \array_slice($this->ground->table($branch->fact)->columns ?? [], 0, 6),
        ) : $key;
        foreach ($losing as $i => [$way, , $lost, $held]) {
            $counts[] = "COALESCE(SUM(CASE WHEN $lost THEN 1 ELSE 0 END), 0) AS lost_$i, COALESCE(SUM(CASE WHEN $held THEN 1 ELSE 0 END), 0) AS held_$i";
            $fields = array_unique([...$shown, ...$way->from() === $branch->fact ? array_column($way->pairs(), 0) : []]);
            $list = implode(', ', array_map(fn (string $field): string => $this->sql->name($joining->base).'.'.$this->sql->name($field), $fields));
            $steps[] = new Losing($branch->fact, $way, "SELECT $list\n$from\n".([] === $where ? 'WHERE ' : '  AND ')."$lost\n".$this->sql->limited(20));
        }
        $this->losses[] = new Losses('SELECT '.implode(",\n       ", $counts)."\n$from", $steps);
    }

    private function name(string $wish): string
    {
        $plain = substr(trim(mb_strtolower((string) preg_replace('/[^A-Za-z0-9]+/', '_', $wish)), '_'), 0, 50);
        $plain = 1 === preg_match('/^[a-z]/', $plain) ? $plain : 'q_'.$plain;
        $name = $plain;
        for ($n = 2; isset($this->named[$name]); ++$n) {
            $name = $plain.'_'.$n;
        }
        $this->named[$name] = true;

        return $name;
    }

    /**
     * Queries within the query, the last of which has the figures of a branch.
     *
     * @return array{list<array{string, list<SqlLine>}>, string} with their names, and that of the last
     */
    private function within(Branch $branch): array
    {
        $joining = new Joining($this->ground, $this->sql, $branch->fact, [] !== $this->trusting);
        $by = $this->byColumns();
        if ('' === $branch->special) {
            $name = $this->name($branch->fact.'_figures');

            return [[[$name, $this->aggregatedLines($branch, $joining, '  ', [], true)]], $name];
        }
        $measure = $branch->measures[0];
        $name = $this->name($measure->name);
        if ('median' === $branch->special) {
            $ranked = $this->name($measure->name.'_ranked');

            return [[[$ranked, $this->ranked($branch, $joining)], [$name, [
                ...self::selecting('  ', [...$this->regrouped(), $this->sql->average('v').' AS '.$this->column($measure)]),
                new SqlLine("  FROM $ranked"),
                new SqlLine('  WHERE 2 * n BETWEEN c AND c + 2', 'the one in the middle, or the two'),
                ...[] === $by ? [] : [new SqlLine('  GROUP BY '.implode(', ', $by))],
            ]]], $name];
        }
        $instant = $measure->instant ?? throw new \LogicException('The planner has seen to it.');
        $points = $this->name($measure->name.'_points');
        $marked = $this->name($measure->name.'_marked');
        $at = $this->attributed($joining, $instant);

        return [[
            [$points, $this->aggregatedLines($branch, $joining, '  ', [[$at, 'i']], true)],
            [$marked, [new SqlLine('  '.self::marked($measure->instead, $points, $by), 'which points of '.ModelNames::full($instant).' count')]],
            [$name, [
                ...self::selecting('  ', [...$this->regrouped(), self::settled($this->sql, $measure->instead).' AS '.$this->column($measure)]),
                new SqlLine("  FROM $marked", 'the '.$measure->instead->value.' over '.$instant->role.', never their sum'),
                ...[] === $by ? [] : [new SqlLine('  GROUP BY '.implode(', ', $by))],
            ]],
        ], $name];
    }

    /** @return list<string> */
    private function byColumns(): array
    {
        return array_map($this->column(...), $this->question->by);
    }

    /** @return list<string> what the answer is split by, once more, with what it stands in order by */
    private function regrouped(): array
    {
        $select = [];
        foreach ($this->question->by as $level) {
            $select[] = $this->column($level);
            if (null !== $this->sorted($level)) {
                $select[] = 'MIN('.$this->inOrder($level).') AS '.$this->inOrder($level);
            }
        }

        return $select;
    }

    /** @return list<SqlLine> each value with its rank among those of its row of the answer, and how many they are */
    private function ranked(Branch $branch, Joining $joining): array
    {
        $measure = $branch->measures[0];
        $value = $this->written($joining, $branch->fact, $this->ground->formula($branch->fact, $measure->expression));
        $select = $parts = [];
        foreach ($this->question->by as $level) {
            $parts[] = $sql = $this->attributed($joining, $level);
            $select[] = $this->as($sql, $this->column($level));
            $sorted = $this->sorted($level);
            if (null !== $sorted) {
                $select[] = $this->written($joining, $level->role, $sorted).' AS '.$this->inOrder($level);
            }
        }
        $over = [] === $parts ? '' : 'PARTITION BY '.implode(', ', $parts);
        $select[] = "$value AS v";
        $select[] = 'ROW_NUMBER() OVER ('.trim("$over ORDER BY CASE WHEN $value IS NULL THEN 1 ELSE 0 END, $value").') AS n';
        $select[] = "COUNT($value) OVER ($over) AS c";
        $where = $this->wheres($branch, $joining);
        [$filters] = $this->filters($branch, $joining);
        if ([] !== $filters) {
            $where[] = '('.$filters[0].')';
        }
        $this->remember($branch, $joining, $where);

        return [...self::selecting('  ', $select), ...$joining->lines('  '), ...self::filtering('  ', $where)];
    }

    /**
     * Each point with its place among those of its row of the answer, the instants that are none at the end.
     *
     * @param list<string> $by
     */
    public static function marked(Instead $instead, string $from, array $by): string
    {
        $over = [] === $by ? '' : 'PARTITION BY '.implode(', ', $by).' ';
        $down = Instead::First === $instead ? '' : ' DESC';

        return "SELECT $from.*, ROW_NUMBER() OVER ({$over}ORDER BY CASE WHEN i IS NULL THEN 1 ELSE 0 END, i$down) AS n, COUNT(i) OVER (".trim($over)
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
    private function together(array $branches): array
    {
        $lines = [];
        $names = [];
        $with = [];
        foreach ($branches as $branch) {
            [$queries, $name] = $this->within($branch);
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
        $one = 1 === \count($branches);
        $base = fn (Measure $measure): string => $this->figure($measure, $one);
        $select = $this->byColumns();
        foreach ($this->question->measures as $measure) {
            $sql = $this->computed($measure, $base);
            $select[] = $this->as($sql, $this->column($measure));
        }
        $lines = [...$lines, ...self::selecting('', $select), ...$one ? [new SqlLine('FROM '.$names[0][0])] : $this->stacked($names)];
        $having = [];
        foreach ($this->question->figures as [$measure, $condition]) {
            $value = $this->computed($measure, $base);
            [$positive, $opposite] = $this->conditions->of($value, $this->familyOf($measure), $condition);
            $having[] = match (true) {
                Test::None === $condition->test => "$value IS NULL",
                $opposite => "(NOT ($positive) OR $value IS NULL)",
                default => "($positive)",
            };
        }
        $grouped = !$one && [] !== $this->question->by;
        if ($one) {
            $lines = [...$lines, ...self::filtering('', $having)];
        }
        if ($grouped) {
            $lines[] = new SqlLine('GROUP BY '.implode(', ', $this->byColumns()));
        }
        if (!$one && [] !== $having) {
            $lines[] = new SqlLine('HAVING '.implode(' AND ', $having), 'only these rows of the answer');
        }
        $by = [];
        foreach ($this->order() as [$what, $descending]) {
            $sorted = $what instanceof Level && null !== $this->sorted($what) ? $this->inOrder($what) : null;
            $expression = !$one && $what instanceof Measure ? $this->computed($what, $base) : '';
            $by[] = $this->sql->ordered(match (true) {
                null === $sorted => $this->column($what),
                $one => $sorted,
                default => "MIN($sorted)",
            }, $descending, $expression);
        }

        return [...$lines, ...$this->closing($by)];
    }

    /** A figure where results are brought together: that of the one query that has it. */
    private function figure(Measure $measure, bool $one): string
    {
        $name = $this->column($measure);
        $counts = Aggregation::Count === $measure->aggregation || Aggregation::Distinct === $measure->aggregation;

        return match (true) {
            $one => $name,
            $counts => "COALESCE(MAX($name), 0)",
            default => "MAX($name)",
        };
    }

    /** @param \Closure(Measure): string $base */
    private function computed(Measure $measure, \Closure $base): string
    {
        if (Aggregation::Ratio !== $measure->aggregation) {
            return $base($measure);
        }
        $names = $this->ground->names();

        return $this->sql->divided($this->computed($names->measureNamed($measure->of), $base), $this->computed($names->measureNamed($measure->by), $base));
    }

    /**
     * @param list<array{string, Branch}> $names
     *
     * @return list<SqlLine>
     */
    private function stacked(array $names): array
    {
        $lines = [new SqlLine('FROM (', '… and only then brought together by what they share')];
        foreach ($names as $i => [$name, $branch]) {
            $select = [];
            foreach ($this->question->by as $level) {
                $select[] = $this->column($level);
                if (null !== $this->sorted($level)) {
                    $select[] = $this->inOrder($level);
                }
            }
            foreach ($this->question->base as $measure) {
                $select[] = \in_array($measure, $branch->measures, true) ? $this->column($measure) : $this->none($measure).' AS '.$this->column($measure);
            }
            $lines[] = new SqlLine('  SELECT '.implode(', ', $select)." FROM $name");
            if (isset($names[$i + 1])) {
                $lines[] = new SqlLine('  UNION ALL');
            }
        }

        return [...$lines, new SqlLine(') AS together')];
    }

    private function none(Measure $measure): string
    {
        $family = $this->familyOf($measure);
        $written = \in_array(
            $measure->aggregation,
            [Aggregation::Least, Aggregation::Greatest],
            true,
        ) ? $this->ground->formula($measure->fact, $measure->expression)->written : '';

        return $this->sql->none($family, $written);
    }
}
