<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/** The branch of one fact: its rows grouped to the asked grain. */
final class Aggregating
{
    public function __construct(private readonly Composer $all)
    {
    }

    /** An aggregate over a value; `null` for the count of rows. */
    public static function aggregated(AskSql $sql, Measure $measure, ?string $value, ?string $filter, ?string $part = null): string
    {
        $counted = self::counted($value, $filter);

        $written = null === $part ? $measure->aggregation->sql($sql, $counted) : $measure->aggregation->shared($sql, $counted, $part);

        return $written ?? throw new \LogicException('It is worked out in another way.');
    }

    /** The value of the rows that count. */
    public static function counted(?string $value, ?string $filter): ?string
    {
        return null === $filter ? $value : 'CASE WHEN '.$filter.' THEN '.($value ?? '1').' END';
    }

    /**
     * A query over one fact, grouped by what the answer is split by and whatever else is given.
     *
     * @param list<array{string, string}> $more expressions that are grouped by too, and their names
     *
     * @return list<SqlLine>
     */
    public function aggregatedLines(Branch $branch, Joining $joining, string $indent, array $more, bool $hidden = false): array
    {
        $late = $this->mayBeLate($branch, $joining) ? (new Late($this->all->ground, $this->all->question, $this->all->sql))->levels($branch) : [];
        if ([] !== $late) {
            return $this->lateLines($branch, $joining, $indent, $late, $hidden);
        }
        if (null !== $joining->shift && Shifting::can($branch, $this->all->sql)) {
            return (new Shifting($this->all, $branch, $joining->shift))->lines($indent);
        }
        $select = $group = [];
        foreach ($this->all->question->by as $level) {
            $sql = $this->all->splitting[Composer::keyOf($level)] = $this->all->attributed($joining, $level);
            $group[] = $sql;
            $select[] = $this->as($sql, $this->all->column($level));
            $sorted = $this->all->sorted($level);
            if (null !== $sorted) {
                // Written before the joins are: it may need one of its own.
                $this->all->ordering[Composer::keyOf($level)] = 'MIN('.$this->all->written($joining, $level->role, $sorted, $joining->shift).')';
                if ($hidden) {
                    $select[] = $this->all->ordering[Composer::keyOf($level)].' AS '.$this->all->inOrder($level);
                }
            }
        }
        foreach ($more as [$sql, $name]) {
            $group[] = $sql;
            $select[] = "$sql AS $name";
        }
        [$filters, $each] = $this->all->filters($branch, $joining);
        foreach ($branch->measures as $measure) {
            $value = '' === trim($measure->expression) ? null : $this->all->written(
                $joining,
                $branch->fact,
                $this->all->ground->formula($branch->fact, $measure->expression),
            );
            $filter = '' === trim($measure->filter) || $each ? null
                : $this->all->written($joining, $branch->fact, $this->all->ground->formula($branch->fact, $measure->filter));
            array_push($select, ...$this->figures($branch, $measure, $value, $filter, $joining->part()));
        }
        array_push($select, ...$this->times($branch, $joining));
        foreach ($this->all->trusting as $level) {
            $this->all->attributed($joining, $level);
        }
        $where = [...$this->all->wheres($branch, $joining), ...$this->later($branch, $joining)];
        if ([] !== $filters) {
            $where[] = 1 === \count($filters) ? '('.$filters[0].')' : '(('.implode(') OR (', $filters).'))';
        }
        $grouping = [] === $group ? [] : [new SqlLine($indent.'GROUP BY '.implode(', ', $group), 'one row of '.$branch->fact.' for each row of the answer')];
        if (null === $joining->shift) {
            $this->remember($branch, $joining, $where);
        } else {
            $this->rememberUnshifted($branch, $joining);
        }

        return [...self::selecting($indent, $select), ...$joining->lines($indent), ...self::filtering($indent, $where), ...$grouping];
    }

    private function mayBeLate(Branch $branch, Joining $joining): bool
    {
        return [] === $this->all->trusting && null === $joining->shift && null === $branch->sharing && !$this->all->question->trial->others;
    }

    /** @return list<string> a measure, as it is and as it was, and what it is put together of where others are */
    private function figures(Branch $branch, Measure $measure, ?string $value, ?string $filter, ?string $part): array
    {
        $of = static fn (int $k): ?string => null === $branch->shift ? $filter : Shift::COUNT." = $k".(null === $filter ? '' : " AND ($filter)");
        $name = 'points' === $branch->special ? 'v' : $this->all->column($measure);
        $select = [($this->all->aggregates[$measure->name] = self::aggregated($this->all->sql, $measure, $value, $of(0), $part))." AS $name"];
        foreach (array_keys($branch->shift->spans ?? []) as $k) {
            $select[] = self::aggregated($this->all->sql, $measure, $value, $of($k + 1), $part).' AS '.$this->all->before($measure, $k + 1);
        }
        foreach ($this->all->question->trial->others ? $this->parts($measure, self::counted($value, $filter))[0] : [] as $part => $sql) {
            $select[] = "$sql AS $part";
        }

        return $select;
    }

    /** @return array{array<string, string>, string} */
    public function parts(Measure $measure, ?string $value): array
    {
        return $measure->aggregation->inParts($this->all->sql, $value, '_of_'.array_search($measure, $this->all->question->base, true))
            ?? throw new \LogicException('Beside has seen to it.');
    }

    /** @return list<string> whether there are rows, up to when, and from when those are that are looked at from later: periods to come are not shown */
    private function times(Branch $branch, Joining $joining): array
    {
        $shift = $joining->shift;
        if (null === $shift || $shift->bounded) {
            return [];
        }
        $date = $joining->field($joining->at($this->all->route($joining, $shift->role)), $shift->column);

        return [
            'MAX(CASE WHEN '.Shift::COUNT.' = 0 THEN 1 END) AS own_then',
            'MAX(CASE WHEN '.Shift::COUNT." = 0 THEN $date END) AS until_then",
            'MIN('.$shift->later($this->all->sql, $date).') AS since_then',
        ];
    }

    /** @return list<string> only what has a date, and a later one, is looked at from later */
    private function later(Branch $branch, Joining $joining): array
    {
        $shift = $joining->shift;
        if (null === $shift) {
            return [];
        }
        $route = $this->all->route($joining, $shift->role);

        return ['('.Shift::COUNT.' = 0 OR '.$joining->field($joining->at(Composer::on($route, $shift)), $shift->column).' IS NOT NULL)'];
    }

    /** What asks a calendar for the days that it does not have. */
    private function uncovered(Branch $branch, Shift $shift): void
    {
        $table = $this->all->sql->table($this->all->ground->role($shift->role)->entry);
        $date = $this->all->sql->name($shift->column);
        $route = $this->all->ground->ways()->between($branch->fact, $shift->role)[0];
        // Only days on which there is something: a calendar may go on for years.
        $used = 1 !== \count($route) ? '' : ' AND EXISTS (SELECT 1 FROM '.$this->all->sql->table($this->all->ground->role($branch->fact)->entry).' AS f WHERE '
            .implode(' AND ', array_map(
                fn (array $pair): string => 'f.'.$this->all->sql->name($pair[0]).' = c.'.$this->all->sql->name($pair[1]),
                $route[0]->pairs(),
            )).')';
        foreach ($shift->spans as $i => [$many, $span]) {
            $later = $shift->only($i + 1)->later($this->all->sql, "c.$date");
            $this->all->uncovered[] = new Uncovered(
                $shift->role,
                $span->inWords($many),
                "SELECT COUNT(*) AS days, MIN(x.l) AS since, MAX(x.l) AS until FROM (\n"
                ."SELECT $later AS l FROM $table AS c WHERE c.$date IS NOT NULL$used\n) AS x WHERE NOT EXISTS (SELECT 1 FROM $table AS n WHERE n.$date = x.l)"
                .$this->asFarAs($branch, $shift, $table, $date));
        }
    }

    /** Where the answer ends before the calendar does, the days after the calendar's last are none of its. */
    private function asFarAs(Branch $branch, Shift $shift, string $table, string $date): string
    {
        $where = [];
        foreach ($shift->bounded ? $branch->conditions : [] as $condition) {
            $level = $condition->test->isOfOthers() || $condition->test->isElsewhere() ? null : $this->all->question->level($condition);
            $formula = null === $level ? null : $this->all->ground->formula($level->role, $this->all->attribute($level)->expression);
            $own = null !== $formula && [] === array_filter($formula->fields, static fn (FieldUse $use): bool => $use->role !== $shift->role);
            if (null !== $level && null !== $formula?->tree && $own && $level->role === $shift->role) {
                $value = (new FormulaSql($this->all->sql, fn (Ref $ref): string => 'e.'.$this->all->sql->name(
                    $this->all->ground->column($shift->role, $ref->names[\count($ref->names) - 1])->name ?? '',
                )))->of($formula->tree);
                [$positive, $opposite] = $this->all->conditions->of($value, $formula->family, $condition);
                $where[] = $opposite ? "NOT ($positive)" : "($positive)";
            }
        }

        return [] === $where ? '' : " AND (x.l < (SELECT MAX(e.$date) FROM $table AS e) OR (SELECT MAX(e.$date) FROM $table AS e)"
            ." = (SELECT MAX(e.$date) FROM $table AS e WHERE ".implode(' AND ', $where).'))';
    }

    public function rememberUnshifted(Branch $branch, Joining $shifted): void
    {
        if (true === $branch->shift?->calendar) {
            $this->uncovered($branch, $branch->shift);
        }
        $joining = new Joining($this->all->ground, $this->all->sql, $branch->fact);
        foreach ($this->all->question->by as $level) {
            $this->all->attributed($joining, $level);
        }
        [$filters] = $this->all->filters($branch, $joining);
        $where = $this->all->wheres($branch, $joining);
        if ([] !== $filters) {
            $where[] = '(('.implode(') OR (', $filters).'))';
        }
        $this->remember($branch, $joining, $where);
        $this->all->guards = [...$this->all->guards, ...$shifted->guards()];
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
        $full = new Joining($this->all->ground, $this->all->sql, $branch->fact);
        $taken = ['grouped' => true];
        foreach ($this->all->question->by as $i => $level) {
            $this->all->attributed($full, $level);
            if (\in_array($level, $late, true)) {
                $sql = $this->lookedUp($level, $joining, $i, $inner, $group, $joins, $taken);
            } else {
                $group[] = $expression = $this->all->attributed($joining, $level);
                $inner[] = "$expression AS a$i";
                $sql = "grouped.a$i";
                $sorted = $this->all->sorted($level);
                if (null !== $sorted) {
                    $inner[] = 'MIN('.$this->all->written($joining, $level->role, $sorted).") AS o$i";
                }
                if (null !== $sorted) {
                    $this->all->ordering[Composer::keyOf($level)] = "MIN(grouped.o$i)";
                }
            }
            $again[] = $this->all->splitting[Composer::keyOf($level)] = $sql;
            $select[] = $this->as($sql, $this->all->column($level));
            if ($hidden && isset($this->all->ordering[Composer::keyOf($level)])) {
                $select[] = $this->all->ordering[Composer::keyOf($level)].' AS '.$this->all->inOrder($level);
            }
        }
        [$filters, $each] = $this->all->filters($branch, $joining);
        foreach ($branch->measures as $i => $measure) {
            $value = '' === trim($measure->expression) ? null : $this->all->written(
                $joining,
                $branch->fact,
                $this->all->ground->formula($branch->fact, $measure->expression),
            );
            $filter = '' === trim($measure->filter) || $each ? null
                : $this->all->written($joining, $branch->fact, $this->all->ground->formula($branch->fact, $measure->filter));
            [$parts, $whole] = $measure->aggregation->inParts($this->all->sql, self::counted($value, $filter), (string) $i)
                ?? throw new \LogicException('Late has seen to it.');
            foreach ($parts as $part => $sql) {
                $inner[] = "$sql AS $part";
            }
            $this->all->aggregates[$measure->name] = $whole;
            $select[] = "$whole AS ".$this->all->column($measure);
        }
        $where = $this->all->wheres($branch, $joining);
        $this->all->wheres($branch, $full);
        if ([] !== $filters) {
            $where[] = 1 === \count($filters) ? '('.$filters[0].')' : '(('.implode(') OR (', $filters).'))';
        }
        $this->all->filters($branch, $full);
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
    public function lookedUp(Level $level, Joining $joining, int $number, array &$inner, array &$group, array &$joins, array &$taken): string
    {
        $route = $this->all->route($joining, $level->role);
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
            $on[] = $this->all->sql->name($alias).'.'.$this->all->sql->name($there)." = grouped.k{$number}_$k";
        }
        $joins[] = [
            '  LEFT JOIN '.$this->all->sql->table(
                $this->all->ground->role($level->role)->entry,
            ).' AS '.$this->all->sql->name($alias).' ON '.implode(' AND ', $on),
            'at most one '.$level->role.' to each: its key sees to that',
        ];
        $formula = $this->all->ground->formula($level->role, $this->all->attribute($level)->expression);
        $sql = (new FormulaSql($this->all->sql, fn (Ref $ref): string => $this->all->sql->name($alias).'.'.$this->all->sql->name(
            $this->all->ground->column($level->role, $ref->names[\count($ref->names) - 1])->name ?? '',
        )))->of($formula->tree ?? throw new \LogicException('The planner has seen to it.'));

        return $formula->isStrict()
            ? $sql
            : 'CASE WHEN '.$this->all->sql->name($alias).'.'.$this->all->sql->name($last->pairs()[0][1])." IS NOT NULL THEN $sql END";
    }

    public function as(string $sql, string $name): string
    {
        return $sql === $name || str_ends_with($sql, ".$name") ? $sql : "$sql AS $name";
    }

    /**
     * @param list<string> $select
     *
     * @return list<SqlLine>
     */
    public static function selecting(string $indent, array $select): array
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
    public static function filtering(string $indent, array $where): array
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
    public function remember(Branch $branch, Joining $joining, array $where): void
    {
        $losing = $joining->losing();
        $this->all->guards = [...$this->all->guards, ...$joining->guards()];
        if ([] === $losing) {
            return;
        }
        $from = implode("\n", array_map(static fn (SqlLine $line): string => $line->text, [...$joining->lines(''), ...self::filtering('', $where)]));
        $steps = $counts = [];
        $key = array_values(array_filter(
            $this->all->ground->role($branch->fact)->key,
            fn (string $field): bool => null !== $this->all->ground->table($branch->fact)?->column($field),
        ));
        $shown = [] === $key ? array_map(
            static fn ($column): string => $column->name,
            \array_slice($this->all->ground->table($branch->fact)->columns ?? [], 0, 6),
        ) : $key;
        foreach ($losing as $i => [$way, , $lost, $held]) {
            $counts[] = "COALESCE(SUM(CASE WHEN $lost THEN 1 ELSE 0 END), 0) AS lost_$i, COALESCE(SUM(CASE WHEN $held THEN 1 ELSE 0 END), 0) AS held_$i";
            $fields = array_unique([...$shown, ...$way->from() === $branch->fact ? array_column($way->pairs(), 0) : []]);
            $list = implode(', ', array_map(fn (string $field): string => $this->all->sql->name($joining->base).'.'.$this->all->sql->name($field), $fields));
            $steps[] = new Losing($branch->fact, $way, "SELECT $list\n$from\n".([] === $where ? 'WHERE ' : '  AND ')."$lost\n".$this->all->sql->limited(20));
        }
        $this->all->losses[] = new Losses('SELECT '.implode(",\n       ", $counts)."\n$from", $steps);
    }

    /** Whether an instant decides what is split by: its month, its year. Of these each has a last point of its own. */
    private function isOf(Level $instant, Level $level, string $fact): bool
    {
        $fields = fn (Level $one): array => array_map(
            static fn (FieldUse $use): string => "$use->role\0$use->column",
            $this->all->ground->formula($one->role, $this->all->attribute($one)->expression)->fields,
        );

        return [] === array_diff($fields($level), $fields($instant))
            || $instant->role !== $fact && [] !== $this->all->ground->ways()->between($instant->role, $level->role);
    }

    public function name(string $wish): string
    {
        $plain = substr(trim(mb_strtolower((string) preg_replace('/[^A-Za-z0-9]+/', '_', $wish)), '_'), 0, 50);
        $plain = 1 === preg_match('/^[a-z]/', $plain) ? $plain : 'q_'.$plain;
        $name = $plain;
        for ($n = 2; isset($this->all->named[$name]); ++$n) {
            $name = $plain.'_'.$n;
        }
        $this->all->named[$name] = true;

        return $name;
    }

    /**
     * Queries within the query, the last of which has the figures of a branch.
     *
     * @return array{list<array{string, list<SqlLine>}>, string} with their names, and that of the last
     */
    public function within(Branch $branch): array
    {
        $joining = new Joining($this->all->ground, $this->all->sql, $branch->fact, [] !== $this->all->trusting, $branch->shift);
        $by = $this->all->gathering->byColumns();
        if ('' === $branch->special) {
            $name = $this->name($branch->fact.'_figures');

            return [[[$name, $this->aggregatedLines($branch, $joining, '  ', [], true)]], $name];
        }
        $measure = $branch->measures[0];
        $name = $this->name($measure->name);
        if ('ranked' === $branch->special) {
            $ranked = $this->name($measure->name.'_ranked');
            [, $figure, $counts] = $measure->aggregation->overRows($this->all->sql, 'v', '');

            return [[[$ranked, $this->all->gathering->ranked($branch, $joining)], [$name, [
                ...self::selecting('  ', [...$this->all->gathering->regrouped(), $figure.' AS '.$this->all->column($measure)]),
                new SqlLine("  FROM $ranked"),
                ...'' === $counts ? [] : [new SqlLine("  WHERE $counts", 'the one in the middle, or the two')],
                ...[] === $by ? [] : [new SqlLine('  GROUP BY '.implode(', ', $by))],
            ]]], $name];
        }
        $instant = $measure->instant ?? throw new \LogicException('The planner has seen to it.');
        $points = $this->name($measure->name.'_points');
        $marked = $this->name($measure->name.'_marked');
        $at = $this->all->attributed($joining, $instant);
        $over = [];
        foreach ($this->all->question->by as $i => $level) {
            if (!$measure->instead->isOfAll() || $this->isOf($instant, $level, $branch->fact)) {
                $over[] = $by[$i];
            }
        }

        return [[
            [$points, $this->aggregatedLines($branch, $joining, '  ', [[$at, 'i']], true)],
            [$marked, [new SqlLine('  '.Together::marked($measure->instead, $points, $over), 'which points of '.ModelNames::full($instant).' count')]],
            [$name, [
                ...self::selecting(
                    '  ',
                    [...$this->all->gathering->regrouped(), Together::settled($this->all->sql, $measure->instead).' AS '.$this->all->column($measure)],
                ),
                new SqlLine("  FROM $marked", 'the '.$measure->instead->value.' over '.$instant->role.', never their sum'),
                ...[] === $by ? [] : [new SqlLine('  GROUP BY '.implode(', ', $by))],
            ]],
        ], $name];
    }
}
