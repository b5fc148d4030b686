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
    public array $named = [];
    /** @var array<string, string> of levels and measures, by a key → name of the column */
    private array $columns = [];
    /** @var list<Guard> */
    public array $guards = [];
    /** @var list<Losses> */
    public array $losses = [];
    /** @var list<Uncovered> */
    public array $uncovered = [];
    /** @var array<string, true> */
    private array $reads = [];
    /** @var array<string, string> what the answer is split by → its expression, and what it stands in order by */
    public array $splitting = [];
    /** @var array<string, string> */
    public array $ordering = [];
    /** @var array<string, string> measure → the aggregate that it is */
    public array $aggregates = [];

    public readonly Aggregating $aggregating;
    public readonly Together $gathering;

    /** @param list<Level> $trusting levels to which every fact is joined as if each key were one, whatever the answer is split by */
    public function __construct(
        public readonly Ground $ground,
        public readonly AskSql $sql,
        public readonly ConditionSql $conditions,
        public readonly Question $question,
        public readonly array $trusting = [],
    ) {
        $this->aggregating = new Aggregating($this);
        $this->gathering = new Together($this);
        foreach ($ground->model->roles as $role) {
            $this->named[mb_strtolower($role->entry->name)] = true;
        }
        $taken = [];
        foreach ($question->by as $level) {
            $this->columns[self::keyOf($level)] = $this->free($ground->names()->of($level), $taken);
        }
        foreach ([...$question->shown(), ...$question->needed(), ...$question->base] as $what) {
            $this->columns[self::keyOf($what)] ??= $this->free($what instanceof Figure ? $what->inWords() : $what->name, $taken);
        }
        foreach ($question->base as $i => $measure) {
            foreach (array_keys($question->shift->spans ?? []) as $k) {
                $this->columns[self::keyOf($measure)."\0".($k + 1)] = $this->free("before_{$i}_$k", $taken);
            }
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

    public static function keyOf(Level|Measure|Figure $what): string
    {
        return match (true) {
            $what instanceof Level => "l\0$what->role\0$what->attribute",
            $what instanceof Measure => "m\0$what->name",
            default => "f\0".$what->inWords(),
        };
    }

    public function column(Level|Measure|Figure $what): string
    {
        return $this->sql->name($this->columns[self::keyOf($what)]);
    }

    /** The column of a measure as it was so many spans before. */
    public function before(Measure $measure, int $count): string
    {
        return $this->sql->name($this->columns[self::keyOf($measure)."\0".$count]);
    }

    /** The hidden column by which the values of an attribute stand in order. */
    public function inOrder(Level $level): string
    {
        return $this->sql->name(mb_strcut($this->columns[self::keyOf($level)], 0, $this->sql->longestName - 10).', in order');
    }

    public function sorted(Level $level): ?Formula
    {
        $attribute = $this->attribute($level);

        return '' === trim($attribute->sorted) ? null : $this->ground->formula($level->role, $attribute->sorted);
    }

    public function attribute(Level $level): Attribute
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
        $plain = 1 === \count($branches) && '' === $branches[0]->special && [] === $this->question->having && !$this->question->isLayered()
            && $this->question->measures === $branches[0]->measures;
        $lines = $plain ? $this->direct($branches[0]) : $this->gathering->together($branches);

        return new Plan(
            $this->question->trial,
            $lines,
            $this->described(),
            array_values(array_combine(array_map(static fn (Guard $guard): string => $guard->sql, $this->guards), $this->guards)),
            $reckonings,
            $this->losses,
            $this->question->facts(),
            array_values(array_diff(array_map(strval(...), array_keys($this->reads)), $this->question->facts())),
            $this->compositions(),
            uncovered: $this->uncovered,
            others: $this->question->trial->others,
            othersAt: array_keys(array_filter(
                $this->question->trial->others ? $this->question->by : [],
                fn (Level $level): bool => !\in_array($level, $this->question->each, false),
            ))[0] ?? null,
        );
    }

    private function isShared(Measure $measure): bool
    {
        foreach ($this->question->branches as $branch) {
            if (null !== $branch->sharing && Shared::InEach !== $branch->sharing->how && \in_array($measure, $branch->measures, true)
                && TypeFamily::Whole === $this->ground->familyOf($measure)) {
                return true;
            }
        }

        return false;
    }

    /** @return array<string, Composition> measures that are computed of others */
    private function compositions(): array
    {
        $all = [];
        foreach ($this->question->needed() as $measure) {
            if ($measure->aggregation->isOfMeasures()) {
                $parts = array_map(static fn (Measure $part): string => $part->name, $this->question->parts($measure));
                $all[$measure->name] = new Composition(
                    $parts, $this->gathering->computed($measure, static fn (Measure $part): string => Composition::stands($part->name)), $this->sql,
                );
            }
        }

        return $all;
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
                labels: $this->ground->labels($level),
            );
        }
        $names = $this->ground->names();
        foreach ($this->question->shown() as $what) {
            $measure = $what instanceof Figure ? $names->measureNamed($what->measure) : $what;
            $fields = [];
            foreach ($this->question->parts($measure) as $part) {
                $fields = [...$fields, ...'' === trim($part->expression) ? [] : $this->ground->formula($part->fact, $part->expression)->fields];
            }
            $figure = $what instanceof Figure ? $what : null;
            // A part of a row is no whole number.
            $family = $this->isShared($measure) ? TypeFamily::Number : $this->ground->familyOf($measure);
            $unit = $this->ground->unitOf($measure);
            $columns[] = new PlanColumn(
                $this->columns[self::keyOf($what)], null, $measure, $figure?->as->family($family) ?? $family, $figure?->as->unit($unit) ?? $unit,
                $figure?->as->format($measure->format) ?? $measure->format, $fields, $figure,
            );
        }

        return $columns;
    }

    /**
     * One fact, aggregates alone: the query is that of the fact.
     *
     * @return list<SqlLine>
     */
    private function direct(Branch $branch): array
    {
        $joining = new Joining($this->ground, $this->sql, $branch->fact, [] !== $this->trusting);
        $lines = $this->aggregating->aggregatedLines($branch, $joining, '', []);
        $by = [];
        foreach ($this->order() as [$what, $descending]) {
            // By the expression itself: a name of a column of the answer may be that of a field, too.
            $sorted = $what instanceof Level ? $this->sorted($what) : null;
            $by[] = $this->sql->ordered(match (true) {
                $what instanceof Measure => $this->aggregates[$what->name],
                $what instanceof Figure => throw new \LogicException('Such a question has layers.'),
                null !== $sorted => $this->ordering[self::keyOf($what)],
                default => $this->splitting[self::keyOf($what)],
            }, $descending);
        }

        return [...$lines, ...$this->closing($by)];
    }

    /** @return list<array{Level|Measure|Figure, bool}> what is asked for, and then all that the answer is split by, so that the order is always the same */
    public function order(): array
    {
        $order = $this->question->order;
        $said = array_column($order, 0);
        foreach (array_reverse($this->question->each) as $level) {
            $at = array_search($level, $said, false);
            // Of each value all rows stand together, in the order that is asked for.
            array_unshift($order, [$level, false !== $at && $order[$at][1]]);
        }
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
    public function closing(array $by): array
    {
        $lines = [] === $by ? [] : [new SqlLine('ORDER BY '.implode(', ', $by), 'rows without a value stand last')];
        if (null !== $this->question->trial->limit) {
            $lines[] = new SqlLine($this->sql->limited($this->question->trial->limit));
        }

        return $lines;
    }

    /** @param ?Shift $shift the value is that of a row as it is, or of so much later */
    public function written(Joining $joining, string $role, Formula $formula, ?Shift $shift = null): string
    {
        $shift = null !== $shift && $shift->moves($this->ground, $formula) ? $shift : null;
        $now = $this->valued($joining, $role, $formula, true === $shift?->calendar ? null : $shift);
        if (true !== $shift?->calendar) {
            return $now;
        }
        $later = $this->valued($joining, $role, $formula, $shift);

        return $now === $later ? $now : $shift->either($now, $later);
    }

    private function valued(Joining $joining, string $role, Formula $formula, ?Shift $shift): string
    {
        $route = $this->route($joining, $role);
        $sql = $this->expressed($joining, $role, $route, $formula, $shift);
        if ([] === $route || $formula->isStrict()) {
            return $sql;
        }
        // Where there is no such row there is no value, whatever the expression makes of nothing.
        $there = $joining->field($joining->at(self::on($route, $shift)), $route[\count($route) - 1]->pairs()[0][1]);

        return "CASE WHEN $there IS NOT NULL THEN $sql END";
    }

    /** @param list<Way> $route to the role */
    private function expressed(Joining $joining, string $role, array $route, Formula $formula, ?Shift $shift): string
    {
        return (new FormulaSql($this->sql, function (Ref $ref) use ($joining, $role, $route, $shift): string {
            $names = $ref->names;
            $column = array_pop($names);
            $target = [] === $names ? $role : (string) $this->ground->roleNamed(implode('.', $names));
            $way = $target === $role ? $route : [...$route, ...$this->ground->ways()->between($role, $target)[0]];
            $this->reads[$target] = true;
            $column = $this->ground->column($target, $column)->name ?? $column;
            $field = $joining->field($joining->at(self::on($way, $shift)), $column);

            return null !== $shift && !$shift->calendar && $target === $shift->role && $column === $shift->column
                ? $shift->either($field, $shift->later($this->sql, $field)) : $field;
        }))->of($formula->tree ?? throw new \LogicException('The planner has seen to it.'));
    }

    /**
     * The route, through the row of the later date where it leads through a calendar.
     *
     * @param list<Way> $route
     *
     * @return list<Way>
     */
    public static function on(array $route, ?Shift $shift): array
    {
        foreach ($route as $i => $way) {
            if (true === $shift?->calendar && $way->to() === $shift->role) {
                return [...\array_slice($route, 0, $i + 1), $shift->step(), ...\array_slice($route, $i + 1)];
            }
        }

        return $route;
    }

    /** @return list<Way> */
    public function route(Joining $joining, string $role): array
    {
        $ways = $this->ground->ways();
        $route = $ways->between($joining->fact, $role)[0] ?? $ways->shared($joining->fact, $role)[0]
            ?? throw new \LogicException('The planner has seen to it.');
        foreach ($route as $way) {
            $this->reads[$way->to()] = true;
        }

        return $route;
    }

    public function attributed(Joining $joining, Level $level): string
    {
        return $this->written($joining, $level->role, $this->ground->formula($level->role, $this->attribute($level)->expression), $joining->shift);
    }

    /** @return list<string> */
    public function wheres(Branch $branch, Joining $joining): array
    {
        $alone = 1 === \count($branch->conditions);

        return array_map(fn (Condition $condition): string => $this->held($condition, $joining, $alone, 1), $branch->conditions);
    }

    /**
     * What belongs to several meets a condition where one of those does: a row counts once, whichever of them it is. Where the answer is split by them, the
     * condition says which of them are shown.
     */
    private function throughShared(Condition $condition, string $fact): ?Condition
    {
        $level = $this->question->level($condition);
        $route = $this->ground->ways()->shared($fact, $level->role)[0] ?? [];
        $sharing = null;
        foreach ($route as $way) {
            $sharing ??= $way->sharing;
        }
        foreach (null === $sharing ? [] : $this->question->branches as $branch) {
            $sharing = $branch->fact === $fact && $branch->sharing == $sharing ? null : $sharing;
        }

        return null === $sharing ? null : $this->question->elsewhere($condition, $sharing);
    }

    /**
     * @param bool   $alone nothing else stands beside it
     * @param ?Shift $shift it is to hold of what is looked at from later; null for what the query is about
     */
    public function held(Condition $condition, Joining $joining, bool $alone, int $depth, ?Shift $shift = null): string
    {
        $shift ??= $joining->shift;
        if ($condition->test->isOfOthers()) {
            $parts = array_map(fn (Condition $part): string => $this->held($part, $joining, false, $depth, $shift), $condition->of);

            $all = implode(Test::Any === $condition->test ? ' OR ' : ' AND ', $parts);

            return '('.('' === $all ? $this->sql->truth(Test::All === $condition->test) : $all).')';
        }
        if ($condition->test->isElsewhere()) {
            $there = new Elsewhere($this->ground, $condition);
            $route = $this->route($joining, $there->of());
            // The key is fetched first, so that the row is joined.
            $alias = $joining->at(self::on($route, $shift));
            foreach ($this->ground->ways()->between($there->from(), $there->of())[0] as $way) {
                $pairs = $way->pairs();
            }
            foreach ($pairs ?? [] as [, $key]) {
                $joining->field($alias, $key);
            }
            $exists = $there->exists(
                $this->sql->name($alias),
                fn (Condition $part, Joining $inner): string => $this->held($part, $inner, false, $depth + 1),
                $depth,
                $this->guards,
            );

            return (Test::HasNo === $condition->test ? 'NOT ' : '').$exists;
        }
        $level = $this->question->level($condition);
        $elsewhere = $this->throughShared($condition, $joining->fact);
        if (null !== $elsewhere) {
            return $this->held($elsewhere, $joining, $alone, $depth, $shift);
        }
        $formula = $this->ground->formula($level->role, $this->attribute($level)->expression);
        $value = $this->written($joining, $level->role, $formula, $shift);
        [$positive, $opposite] = $this->conditions->of($value, $formula->family, $condition);

        return match (true) {
            Test::None === $condition->test => "$value IS NULL",
            $opposite => "(NOT ($positive) OR $value IS NULL)",
            default => 1 === preg_match('/ (?:OR|AND) /', $positive) && !$alone ? "($positive)" : $positive,
        };
    }

    /** @return array{list<string>, bool} conditions that rows which count for any of the measures meet, and whether they are those of each */
    public function filters(Branch $branch, Joining $joining): array
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
}
