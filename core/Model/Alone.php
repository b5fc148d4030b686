<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Sql\Tree\Ref;

/**
 * A measure taken of its fact alone: joined to nothing, its conditions held by EXISTS and what it reads elsewhere fetched row by row, so that
 * nothing that a join does can change it. Where all that it adds up stands in another table of which each row has one of the fact, that table is
 * asked, so that rows which a join doubled are seen.
 */
final readonly class Alone
{
    public function __construct(private Ground $ground, private AskSql $sql, private ConditionSql $conditions, private Question $question)
    {
    }

    public function of(Measure $measure, Branch $branch): string
    {
        $base = 'f';
        $where = array_map(fn (Condition $condition): string => $this->condition($base, $branch->fact, $condition), $branch->conditions);
        $value = '' === trim($measure->expression) ? null : $this->written(
            $base,
            $branch->fact,
            [],
            $this->ground->formula($branch->fact, $measure->expression),
        );
        if ('' !== trim($measure->filter)) {
            $where[] = '('.$this->written($base, $branch->fact, [], $this->ground->formula($branch->fact, $measure->filter)).')';
        }
        $elsewhere = '' === $branch->special && null !== $value ? $this->standsIn($branch->fact, $measure) : null;
        if (null !== $elsewhere) {
            return $this->ofTable($elsewhere, $measure, $branch, $where);
        }
        $from = 'FROM '.$this->sql->table($this->ground->role($branch->fact)->entry)." AS $base".([] === $where ? '' : "\nWHERE ".implode("\n  AND ", $where));
        if ('ranked' === $branch->special) {
            [$beside, $figure, $counts] = $measure->aggregation->overRows($this->sql, (string) $value, '');

            return "WITH ranked AS (SELECT $value AS v, ".implode(', ', $beside)."\n$from)\nSELECT $figure AS total FROM ranked"
                .('' === $counts ? '' : " WHERE $counts");
        }
        $aggregate = Aggregating::aggregated($this->sql, $measure, $value, null);
        if ('points' !== $branch->special || null === $measure->instant) {
            return "SELECT $aggregate AS total\n$from";
        }
        $attribute = $this->ground->model->attribute($measure->instant) ?? throw new \LogicException('The planner has seen to it.');
        $route = $this->ground->ways()->between($branch->fact, $measure->instant->role)[0];
        $at = $this->written($base, $measure->instant->role, $route, $this->ground->formula($measure->instant->role, $attribute->expression));

        return "WITH points AS (SELECT $at AS i, $aggregate AS v\n$from GROUP BY $at),\nmarked AS (".Together::marked($measure->instead, 'points', []).")\n"
            .'SELECT '.Together::settled($this->sql, $measure->instead).' AS total FROM marked';
    }

    /** The one other role in which all stands that a measure adds up, and of which each row has one row of the fact. */
    private function standsIn(string $fact, Measure $measure): ?string
    {
        $roles = array_unique(array_map(static fn (FieldUse $use): string => $use->role, $this->ground->formula($fact, $measure->expression)->fields));

        return 1 === \count($roles) && $roles[0] !== $fact && [] !== $this->ground->ways()->between($roles[0], $fact) ? $roles[0] : null;
    }

    /** @param list<string> $where conditions on rows of the fact */
    private function ofTable(string $role, Measure $measure, Branch $branch, array $where): string
    {
        $tree = $this->ground->formula($branch->fact, $measure->expression)->tree ?? throw new \LogicException('The planner has seen to it.');
        $value = (new FormulaSql($this->sql, fn (Ref $ref): string => $this->field('a', $role, $ref)))->of($tree);
        $from = $this->sql->table($this->ground->role($branch->fact)->entry).' AS f';
        $route = $this->ground->ways()->between($branch->fact, $role)[0];
        $last = \count($route) - 1;
        foreach ($route as $i => $way) {
            $there = $last === $i ? 'a' : 'x'.($i + 1);
            $on = $this->on($way, 0 === $i ? 'f' : "x$i", $there);
            if ($last === $i) {
                array_unshift($where, ...$on);
            } else {
                $from .= ' JOIN '.$this->sql->table($this->ground->role($way->to())->entry)." AS $there ON ".implode(' AND ', $on);
            }
        }

        return 'SELECT '.Aggregating::aggregated($this->sql, $measure, $value, null).' AS total'
            ."\nFROM ".$this->sql->table($this->ground->role($role)->entry)." AS a\nWHERE EXISTS (SELECT 1 FROM $from WHERE ".implode(' AND ', $where).')';
    }

    private function condition(string $base, string $fact, Condition $condition, int $depth = 1): string
    {
        if ($condition->test->isOfOthers()) {
            $parts = array_map(fn (Condition $part): string => $this->condition($base, $fact, $part, $depth), $condition->of);

            $all = implode(Test::Any === $condition->test ? ' OR ' : ' AND ', $parts);

            return '('.('' === $all ? $this->sql->truth(Test::All === $condition->test) : $all).')';
        }
        if ($condition->test->isElsewhere()) {
            $there = new Elsewhere($this->ground, $condition);
            $guarded = [];
            $route = $this->ground->ways()->between($fact, $there->of())[0];
            $held = fn (Condition $part, Joining $inner): string => $this->condition($inner->base, $there->from(), $part, $depth + 1);
            $exists = $there->exists([] === $route ? $base : 'x'.\count($route), $held, $depth, $guarded);

            return (Test::HasNo === $condition->test ? 'NOT ' : '').([] === $route ? $exists : 'EXISTS (SELECT 1 '.$this->chain($base, $route)." AND $exists)");
        }
        $level = $this->question->level($condition);
        foreach ($this->ground->ways()->shared($fact, $level->role)[0] ?? [] as $way) {
            if (null !== $way->sharing) {
                return $this->condition($base, $fact, $this->question->elsewhere($condition, $way->sharing), $depth);
            }
        }
        $attribute = $this->ground->model->attribute($level) ?? throw new \LogicException('The planner has seen to it.');
        $formula = $this->ground->formula($level->role, $attribute->expression);
        $route = $this->ground->ways()->between($fact, $level->role)[0];
        $own = [] === array_filter($formula->fields, static fn (FieldUse $use): bool => $use->role !== $level->role);
        if ([] === $route || !$own) {
            $value = $this->written($base, $level->role, $route, $formula);
            [$positive, $opposite] = $this->conditions->of($value, $formula->family, $condition);

            return $opposite ? "NOT COALESCE($positive, ".$this->sql->truth(false).')' : "($positive)";
        }
        $last = 'x'.\count($route);
        $value = (new FormulaSql($this->sql, fn (Ref $ref): string => $this->field($last, $level->role, $ref)))->of(
            $formula->tree ?? throw new \LogicException('The planner has seen to it.'),
        );
        [$positive, $opposite] = $this->conditions->of($value, $formula->family, $condition);

        return ($opposite ? 'NOT ' : '').'EXISTS (SELECT 1 '.$this->chain($base, $route)." AND ($positive))";
    }

    private function field(string $alias, string $role, Ref $ref): string
    {
        $column = $this->ground->column($role, $ref->names[\count($ref->names) - 1]);

        return "$alias.".$this->sql->name($column->name ?? throw new \LogicException('The planner has seen to it.'));
    }

    /** @param list<Way> $route to the role whose formula it is */
    private function written(string $base, string $role, array $route, Formula $formula): string
    {
        if ([] !== $route && !$formula->isStrict()) {
            $last = 'x'.\count($route);
            $value = (new FormulaSql($this->sql, fn (Ref $ref): string => $this->field($last, $role, $ref)))->of(
                $formula->tree ?? throw new \LogicException('The planner has seen to it.'),
            );

            return "(SELECT MIN($value) ".$this->chain($base, $route).')';
        }

        return (new FormulaSql($this->sql, function (Ref $ref) use ($base, $role, $route): string {
            $names = $ref->names;
            array_pop($names);
            $target = [] === $names ? $role : (string) $this->ground->roleNamed(implode('.', $names));
            $way = $target === $role ? $route : [...$route, ...$this->ground->ways()->between($role, $target)[0]];

            return [] === $way ? $this->field($base, $target, $ref)
                : '(SELECT MIN('.$this->field('x'.\count($way), $target, $ref).') '.$this->chain($base, $way).')';
        }))->of($formula->tree ?? throw new \LogicException('The planner has seen to it.'));
    }

    /** @param list<Way> $route */
    private function chain(string $base, array $route): string
    {
        $from = $where = '';
        foreach ($route as $i => $way) {
            $here = 0 === $i ? $base : "x$i";
            $there = 'x'.($i + 1);
            $on = $this->on($way, $here, $there);
            $table = $this->sql->table($this->ground->role($way->to())->entry)." AS $there";
            if (0 === $i) {
                $from = "FROM $table";
                $where = implode(' AND ', $on);
            } else {
                $from .= " JOIN $table ON ".implode(' AND ', $on);
            }
        }

        return "$from WHERE $where";
    }

    /** @return non-empty-list<string> */
    private function on(Way $way, string $here, string $there): array
    {
        $on = array_map(fn (array $pair): string => "$there.".$this->sql->name($pair[1])." = $here.".$this->sql->name($pair[0]), $way->pairs());
        if ([] !== $way->join->where) {
            $on[] = ($way->forth ? $here : $there).$this->ground->only($way->join);
        }

        return $on ?: throw new \LogicException('A join pairs fields.');
    }
}
