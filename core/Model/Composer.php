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

    public static function keyOf(Level|Measure $what): string
    {
        return $what instanceof Level ? "l\0$what->role\0$what->attribute" : "m\0$what->name";
    }

    public function column(Level|Measure $what): string
    {
        return $this->sql->name($this->columns[self::keyOf($what)]);
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
        $plain = 1 === \count($branches) && '' === $branches[0]->special && [] === $this->question->figures
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

        return $measure->aggregation->unit('' === trim($measure->expression) ? '' : $ground->formula($measure->fact, $measure->expression)->unit);
    }

    public function familyOf(Measure $measure): TypeFamily
    {
        $values = '' === trim($measure->expression) ? TypeFamily::Other : $this->ground->formula($measure->fact, $measure->expression)->family;

        return $measure->aggregation->family($values);
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
                null !== $sorted => $this->ordering[self::keyOf($what)],
                default => $this->splitting[self::keyOf($what)],
            }, $descending);
        }

        return [...$lines, ...$this->closing($by)];
    }

    /** @return list<array{Level|Measure, bool}> what is asked for, and then all that the answer is split by, so that the order is always the same */
    public function order(): array
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
    public function closing(array $by): array
    {
        $lines = [] === $by ? [] : [new SqlLine('ORDER BY '.implode(', ', $by), 'rows without a value stand last')];
        if (null !== $this->question->trial->limit) {
            $lines[] = new SqlLine($this->sql->limited($this->question->trial->limit));
        }

        return $lines;
    }

    public function written(Joining $joining, string $role, Formula $formula): string
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
    public function route(Joining $joining, string $role): array
    {
        $route = $this->ground->ways()->between($joining->fact, $role)[0];
        foreach ($route as $way) {
            $this->reads[$way->to()] = true;
        }

        return $route;
    }

    public function attributed(Joining $joining, Level $level): string
    {
        return $this->written($joining, $level->role, $this->ground->formula($level->role, $this->attribute($level)->expression));
    }

    /** @return list<string> */
    public function wheres(Branch $branch, Joining $joining): array
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
