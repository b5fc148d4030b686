<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Companion\Companion;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Span;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;

/** Questions put to a made-up model, and questions of one kind. */
trait RandomTrials
{
    public function trial(): Trial
    {
        $measures = array_map(static fn (Measure $measure): string => $measure->name, $this->model->measures);
        $asked = [];
        for ($n = $this->number(1, 3); $n > 0; --$n) {
            $asked[] = $this->one($measures ?: ['none']);
        }
        $asked = array_values(array_unique($asked));
        $fact = ($this->model->measure($asked[0]) ?? throw new \LogicException())->fact ?: 'f0';
        $near = array_values(array_filter($this->model->roles, fn (Role $role): bool => [] !== SlowAnswer::routes($this->joins, [], $fact, $role->name)));
        $attribute = function () use ($near): string {
            $role = $this->chance(90) && [] !== $near ? $this->one($near) : $this->one(array_values(array_filter(
                $this->model->roles,
                static fn (Role $one): bool => RoleKind::Link !== $one->kind,
            )) ?: throw new \LogicException());
            $names = array_map(static fn (Attribute $one): string => $one->name, $this->model->attributesOf($role));

            return $this->one($names ?: throw new \LogicException()).' of '.$role->name;
        };
        $by = [];
        for ($n = $this->number(0, 3); $n > 0; --$n) {
            $by[] = $attribute();
        }
        $by = array_values(array_unique($by));
        $where = [];
        for ($n = $this->chance(45) ? $this->number(1, 2) : 0; $n > 0; --$n) {
            $where[] = $this->condition($attribute(), $fact);
        }
        if ($this->chance(10)) {
            $where[] = new Condition($asked[0], $this->one([Test::Given, Test::None]));
        }
        $order = $this->chance(40) ? [new Sorting($this->one([$asked[0], ...$asked, ...$by]), $this->chance(50))] : [];

        return new Trial($asked, $by, $where, $order, $this->chance(20) ? $this->number(1, 5) : null);
    }

    /** What is made of a figure, and what of it is asked: `share`, `shown`, `running`, `rank`, `before`, `each` or `others`. */
    public function trialOf(string $kind): Trial
    {
        $facts = array_values(array_filter($this->model->roles, static fn (Role $role): bool => RoleKind::Fact === $role->kind));
        $fact = $this->one($facts ?: throw new \LogicException())->name;
        $near = array_values(array_filter($this->model->roles, fn (Role $role): bool => 1 === \count(
            SlowAnswer::routes($this->model->joins, $this->model->choices, $fact, $role->name))));
        $dates = array_map(static fn (Role $role): string => $role->name, $near);
        $attributes = [];
        foreach ($near as $role) {
            foreach ($this->model->attributesOf($role) as $attribute) {
                if ('letter' !== $attribute->name) {
                    $attributes[] = $attribute->name.' of '.$role->name;
                }
            }
        }
        $by = [$this->one($attributes ?: throw new \LogicException())];
        for ($n = $this->number(0, 2); $n > 0; --$n) {
            $by[] = $this->one($attributes);
        }
        $by = array_values(array_unique($by));
        $where = $this->chance(30) ? [$this->condition($this->one($attributes), $fact)] : [];
        $names = ["sum $fact", "rows $fact", "amount $fact", "count $fact", "reckoned $fact"];
        $most = [
            'share' => ["mean $fact", "stock $fact"], 'running' => ["share $fact"],
            'link' => ["mean $fact", "most $fact", "different $fact", "share $fact"], 'rank' => ["mean $fact", "middle $fact", "share $fact"],
            'before' => ["mean $fact", "most $fact", "different $fact", "share $fact"], 'others' => ["mean $fact", "most $fact", "share $fact"]][$kind] ?? [];
        $name = $this->one([...$names, ...$most]);
        $measures = $this->chance(80) ? [$name] : ["rows $fact"];
        if ($this->chance(25) && \count($facts) > 1) {
            $measures[] = 'rows '.$this->one($facts)->name;
        }
        $measures = array_values(array_unique($measures));
        $within = $this->chance(50) ? [$this->one($by)] : [];
        $as = Companion::known();
        $trial = new Trial($measures, $by, $where, $this->chance(40) ? [new Sorting($this->one([...$measures, ...$by]), $this->chance(60))] : [],
            $this->chance(30) ? $this->number(1, 4) : null);

        return match ($kind) {
            'subtotals' => $trial->with(subtotals: true, figures: $this->chance(30) ? [new Figure($name, $as['rank'], $within)] : []),
            'link' => $trial->with(
                by: [...$this->chance(85) ? [$this->one(['code', 'size', 'big']).' of t0'] : [], ...\array_slice($by, 0, $this->number(0, 1))],
                where: [...$where, ...$this->chance(35) ? [$this->condition($this->one(['code', 'size']).' of t0', $fact)] : []], order: [], limit: null),
            'or' => $trial->with(where: [$this->either($attributes, $fact, 2)]),
            'has' => $trial->with(where: [$this->elsewhere($near ?: throw new \LogicException(), $fact)]),
            'share' => $trial->with(figures: [new Figure($name, $as['share'], $within)]),
            'shown' => $trial->with(figures: [new Figure($name, $as['shown share'], $within), new Figure($name, $as['share'])], limit: $this->number(1, 4)),
            'running' => $trial->with(figures: [new Figure($name, $as['running total'], $within, $this->one($by))]),
            'rank' => $trial->with(figures: [new Figure($name, $as['rank'], $within)]),
            'each' => $trial->with(each: $within, limit: $this->number(1, 3), figures: $this->chance(30) ? [new Figure($name, $as['rank'], $within)] : []),
            'others' => $trial->with(each: $within, limit: $this->number(1, 3), others: true, order: [new Sorting($measures[0], $this->chance(70))],
                figures: $this->chance(40) ? [new Figure($name, $as['rank'], $within)] : []),
            default => $this->before($trial, $name, $this->one($dates ?: throw new \LogicException())),
        };
    }

    /** @param non-empty-list<string> $attributes */
    private function either(array $attributes, string $fact, int $deep): Condition
    {
        $parts = [];
        for ($n = $this->number(2, 3); $n > 0; --$n) {
            if ($deep > 0 && $this->chance(40)) {
                $parts[] = $this->either($attributes, $fact, $deep - 1);
            } else {
                $one = $this->condition($this->one($attributes), $fact);
                $parts[] = new Condition($one->what, $one->test, $one->values);
            }
        }

        return new Condition('', $this->chance(65) ? Test::Any : Test::All, of: $parts);
    }

    /** @param non-empty-list<Role> $near */
    private function elsewhere(array $near, string $fact): Condition
    {
        $of = $this->one($near)->name;
        $leads = array_values(array_filter($this->model->roles, fn (Role $role): bool => $role->name !== $of
            && [] !== SlowAnswer::routes($this->model->joins, $this->model->choices, $role->name, $of)));
        if ([] === $leads) {
            return $this->condition('code of '.$of, $fact);
        }
        $sought = $this->one($leads)->name;
        $attributes = [];
        foreach ($this->model->roles as $role) {
            $routes = SlowAnswer::routes($this->model->joins, $this->model->choices, $sought, $role->name);
            foreach ([] === $routes ? [] : $this->model->attributesOf($role) as $one) {
                $attributes[] = $one->name.' of '.$role->name;
            }
        }
        $inner = $this->chance(70) ? [$this->either($attributes ?: throw new \LogicException(), $fact, 0)] : [];

        return new Condition($of, $this->chance(60) ? Test::Has : Test::HasNo, [$sought], of: $inner);
    }

    private function before(Trial $trial, string $name, string $date): Trial
    {
        $as = Companion::known();
        [$many, $span] = $this->one([
            [1, Span::Month], [2, Span::Month], [1, Span::Quarter], [10, Span::Day], [1, Span::Week], [3, Span::Week], [1, Span::Year],
        ]);
        $figures = [new Figure($name, $as['before'], [], "day of $date", $many, $span)];
        if ($this->chance(50)) {
            $figures[] = new Figure($name, $as[$this->one(['change', 'change in per cent'])], [], "day of $date", $many, $span);
        }
        if ($this->chance(30)) {
            $figures[] = new Figure($trial->measures[0], $as['before'], [], "day of $date", 1, Span::Month);
        }
        $by = $trial->by;
        if ($this->chance(70)) {
            $by[] = $this->one('cal' === $date ? ['day', 'in month'] : ['day', 'month', 'month'])." of $date";
        }
        $where = $trial->where;
        if ($this->chance(40)) {
            $where[] = new Condition("day of $date", ...$this->one([[Test::During, ['2025-03']], [Test::Most, ['2025-03-20']], [Test::Least, ['2025-02']]]));
        }

        return $trial->with(figures: $figures, by: array_values(array_unique($by)), where: $where);
    }

    private function condition(string $what, string $fact): Condition
    {
        $name = explode(' of ', $what)[0];
        $facts = $this->chance(25) ? [$fact] : [];
        if ($this->chance(25)) {
            return new Condition($what, $this->one([Test::None, Test::Given]), [], $facts);
        }
        $kind = self::ATTRIBUTES[$name][1] ?? 'number';
        $number = fn (): string => (string) $this->number(-1, 8);
        $month = fn (): string => \sprintf('2025-%02d', $this->number(1, 4));
        [$test, $values] = match ($kind) {
            'text' => $this->one([
                [Test::Is, [$this->one(['ash', 'bay', 'big', 'a'])]], [Test::IsNot, ['ash', 'bay', 'big']], [Test::Begins, ['b']], [Test::Contains, ['a']],
            ]),
            'date' => $this->one([
                [Test::Is, [$month()]], [Test::During, [$month()]], [Test::Over, [$month()]], [Test::Most, [$month().'-15']],
                [Test::Between, ['2025-01-10', '2025-03']], [Test::IsNot, [$month()]],
            ]),
            default => $this->one([
                [Test::Is, [$number(), $number()]], [Test::IsNot, [$number()]], [Test::Over, [$number()]], [Test::Least, [$number()]],
                [Test::Under, [$number()]], [Test::Between, ['1', '5']],
            ]),
        };

        return new Condition($what, $test, $values, $facts);
    }
}
