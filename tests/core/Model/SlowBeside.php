<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Figure;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Span;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;

/**
 * What stands beside measures, computed by going over the rows of an answer one by one.
 *
 * @phpstan-import-type Row from RandomModel
 *
 * @phpstan-type Value int|float|string|null
 * @phpstan-type Line array{values: list<Value>, now: array<string, Value>, before: array<string, array<string, Value>>, of: int}
 */
final class SlowBeside
{
    /** Of which field of its role an attribute tells. */
    private const FIELDS = [
        'code' => 'code', 'letter' => 'code', 'size' => 'num', 'big' => 'num', 'double' => 'num', 'rest' => 'num', 'day' => 'day', 'month' => 'day',
        'week' => 'day', 'week year' => 'day', 'quarter' => 'day', 'lag' => 'day',
    ];
    private const SPANS = ['day' => [1, 'days'], 'week' => [7, 'days'], 'month' => [1, 'months'], 'quarter' => [3, 'months'], 'year' => [12, 'months']];

    /** @var array<string, Measure> what is taken of rows */
    private array $base = [];
    /** @var list<Line> */
    private array $lines = [];

    public function __construct(private readonly RandomModel $made, private readonly Trial $trial, private readonly SlowAnswer $slow)
    {
    }

    /** @return list<list<Value>> */
    public function rows(): array
    {
        foreach ([...$this->trial->measures, ...array_map(static fn (Figure $one): string => $one->measure, $this->trial->figures)] as $name) {
            foreach ($this->slow->parts($this->slow->measure($name)) as $part) {
                $this->base[$part->name] = $part;
            }
        }
        foreach ($this->base as $measure) {
            $this->slow->refused = $this->slow->refused ?: $this->slow->unfit($measure);
        }
        foreach ($this->trial->figures as $figure) {
            $this->slow->refused = $this->slow->refused ?: $this->refused($figure);
        }
        if ('' !== $this->slow->refused) {
            return [];
        }
        $this->take();
        if ($this->slow->isAmbiguous()) {
            $this->slow->refused = 'a key stands twice, and its rows differ';

            return [];
        }

        return $this->shown();
    }

    private function refused(Figure $figure): string
    {
        $measure = $this->slow->measure($figure->measure);
        if ($figure->as->isBefore()) {
            return $this->unbounded($figure);
        }
        if (!$figure->as->adds()) {
            return '';
        }
        $over = [];
        foreach ($this->trial->by as $name) {
            if (!\in_array($name, $figure->within, true) && (!$figure->as->runs() || $name === $figure->along)) {
                $over[] = SlowAnswer::level($name)->role;
            }
        }
        $how = $measure->aggregation->name();
        if ('computed' === $how) {
            return str_contains($measure->expression, '- 3 *') ? '' : "$figure->measure does not add up";
        }
        if (!\in_array($how, ['sum', 'count'], true)) {
            return "$figure->measure does not add up";
        }
        if (Additivity::SemiAdditive !== $measure->adds || [] === $over) {
            return '';
        }

        return \in_array($measure->fact, $over, true) || Instead::Nothing !== $measure->instead && !$measure->instead->isOfAll() ? 'a stock' : '';
    }

    private function unbounded(Figure $figure): string
    {
        $date = SlowAnswer::level($figure->along)->role;
        foreach ($this->compared() as $fact) {
            if (1 !== \count(SlowAnswer::routes($this->made->model->joins, $this->made->model->choices, $fact, $date))) {
                return "no single route from $fact to $date";
            }
        }

        return $this->isBounded($date) || [] !== array_filter($this->trial->by, fn (string $name): bool => $this->isDated($name, $date)) ? '' : 'of no time';
    }

    /** @return list<string> facts of what is looked at from later */
    private function compared(): array
    {
        $facts = [];
        foreach ($this->trial->figures as $figure) {
            foreach ($figure->as->isBefore() ? $this->slow->parts($this->slow->measure($figure->measure)) : [] as $part) {
                $facts[] = $part->fact;
            }
        }

        return array_values(array_unique($facts));
    }

    private function isDated(string $name, string $date): bool
    {
        $level = SlowAnswer::level($name);

        return $level->role === $date && ('cal' === $date || 'day' === (self::FIELDS[$level->attribute] ?? ''));
    }

    private function isBounded(string $date): bool
    {
        foreach (array_unique(array_map(static fn (Measure $one): string => $one->fact, $this->base)) as $fact) {
            $bounds = array_filter($this->slow->conditions($fact), fn (Condition $one): bool => $this->isDated($one->what, $date)
                && \in_array(SlowAnswer::level($one->what)->attribute, ['day', 'in year'], true)
                && \in_array($one->test, [Test::Is, Test::During, Test::Between, Test::Under, Test::Most], true));
            if ([] === $bounds) {
                return false;
            }
        }

        return true;
    }

    private function take(): void
    {
        [$cells, $members] = $this->slow->cells($this->base);
        $own = $cells;
        $before = $starts = [];
        $last = '';
        $date = '';
        foreach ($this->trial->figures as $figure) {
            $key = self::back($figure);
            if (!$figure->as->isBefore() || isset($before[$key])) {
                continue;
            }
            $date = SlowAnswer::level($figure->along)->role;
            $later = [$date, ...self::counted($figure)];
            $base = array_filter($this->base, fn (Measure $one): bool => \in_array($one->fact, $this->compared(), true));
            [$theirs, $rows] = $this->slow->cells($base, $later);
            $before[$key] = [$base, $theirs, $rows];
            $cells += $theirs;
            foreach ($rows as $name => $of) {
                foreach ($of as $cell => $some) {
                    foreach ($some as $row) {
                        $starts[$cell][] = (string) $this->slow->date($this->base[$name]->fact, $row, $later);
                    }
                }
            }
            foreach ($base as $name => $measure) {
                foreach (array_merge([], ...array_values($members[$name] ?? [])) as $row) {
                    $last = max($last, (string) $this->slow->date($measure->fact, $row, null, $date));
                }
            }
        }
        foreach ($cells as $cell => $values) {
            if ('' !== $date && !isset($own[$cell]) && !$this->isBounded($date) && min($starts[$cell]) > $last) {
                continue;
            }
            $line = ['values' => $values, 'now' => $this->slow->figures($this->base, $cell, $own, $members), 'before' => [], 'of' => 0];
            foreach ($before as $key => [$base, $theirs, $rows]) {
                $line['before'][$key] = $this->slow->figures($base, $cell, $theirs, $rows);
            }
            $this->lines[] = $line;
        }
        if ($this->trial->others) {
            $this->together($members, array_keys($cells));
        }
    }

    private static function back(Figure $figure): string
    {
        return $figure->many.($figure->span->value ?? '');
    }

    /** @return array{int, string} */
    private static function counted(Figure $figure): array
    {
        [$many, $of] = self::SPANS[($figure->span ?? Span::Year)->value];

        return [$figure->many * $many, $of];
    }

    /**
     * @param array<string, array<string, list<Row>>> $members
     * @param list<string>                            $keys    of the lines
     */
    private function together(array $members, array $keys): void
    {
        $by = $this->trial->order[0];
        $lines = $this->lines;
        $order = array_keys($lines);
        $value = fn (int $i): int|float|string|null => $this->slow->computed($this->slow->measure($by->what), $lines[$i]['now']);
        usort($order, fn (int $a, int $b): int => self::compare($value($a), $value($b), $by->descending) ?: $this->byValues($lines[$a], $lines[$b]));
        $taken = $rest = [];
        foreach ($order as $i) {
            $each = json_encode($this->of($lines[$i], $this->trial->each), \JSON_THROW_ON_ERROR);
            $taken[$each] ??= [];
            if (null !== $value($i) && \count($taken[$each]) < $this->trial->limit) {
                $taken[$each][] = $i;
            } else {
                $rest[$each][] = $i;
            }
        }
        $this->lines = array_map(static fn (int $i): array => $lines[$i], array_merge([], ...array_values($taken)));
        foreach ($rest as $some) {
            $now = [];
            foreach ($this->base as $name => $measure) {
                $rows = array_merge([], ...array_map(static fn (int $i): array => $members[$name][$keys[$i]] ?? [], $some));
                $now[$name] = $this->slow->figures([$name => $measure], 'x', [], [$name => ['x' => $rows]])[$name];
            }
            $values = [];
            foreach ($this->trial->by as $k => $level) {
                $values[] = \in_array($level, $this->trial->each, true) ? $lines[$some[0]]['values'][$k] : null;
            }
            $this->lines[] = ['values' => $values, 'now' => $now, 'before' => [], 'of' => \count($some)];
        }
    }

    /**
     * @param Line         $line
     * @param list<string> $levels
     *
     * @return list<Value>
     */
    private function of(array $line, array $levels): array
    {
        return array_map(fn (string $level): int|float|string|null => $line['values'][(int) array_search($level, $this->trial->by, true)], $levels);
    }

    private static function compare(int|float|string|null $a, int|float|string|null $b, bool $down): int
    {
        if (null === $a || null === $b) {
            return (null === $a ? 1 : 0) <=> (null === $b ? 1 : 0);
        }

        return $down ? $b <=> $a : $a <=> $b;
    }

    /**
     * @param Line $a
     * @param Line $b
     */
    private function byValues(array $a, array $b): int
    {
        foreach ($a['values'] as $k => $value) {
            $one = self::compare($value, $b['values'][$k], false);
            if (0 !== $one) {
                return $one;
            }
        }

        return 0;
    }

    /** @return list<list<Value>> */
    private function shown(): array
    {
        $all = [];
        foreach ($this->lines as $i => $line) {
            $row = [];
            foreach ($this->trial->shown() as $name) {
                $figure = $this->figure($name);
                $row[$name] = null === $figure ? $this->slow->computed($this->slow->measure($name), $line['now'])
                    : $this->beside($figure, $i, array_keys($this->lines));
            }
            $all[$i] = $row;
        }
        $order = array_keys($all);
        $each = $this->trial->each;
        usort($order, function (int $a, int $b) use ($all, $each): int {
            foreach ($each as $level) {
                $by = array_values(array_filter($this->trial->order, static fn ($one): bool => $one->what === $level))[0] ?? null;
                $one = self::compare($this->of($this->lines[$a], [$level])[0], $this->of($this->lines[$b], [$level])[0], true === $by?->descending);
                if (0 !== $one) {
                    return $one;
                }
            }
            foreach ($this->trial->order as $by) {
                $of = fn (int $i): int|float|string|null => \in_array($by->what, $this->trial->by, true) ? $this->of($this->lines[$i], [$by->what])[0]
                    : $all[$i][$by->what];
                $one = self::compare($of($a), $of($b), $by->descending);
                if (0 !== $one) {
                    return $one;
                }
            }

            return $this->byValues($this->lines[$a], $this->lines[$b]);
        });
        $kept = $this->trial->others ? $order : $this->first($order);
        $rows = [];
        foreach ($kept as $i) {
            foreach ($this->trial->figures as $figure) {
                if ($figure->as->isOfShown()) {
                    $all[$i][$figure->inWords()] = $this->beside($figure, $i, $kept);
                }
            }
            $rows[] = [...$this->lines[$i]['values'], ...array_values($all[$i]), ...$this->trial->others ? [$this->lines[$i]['of']] : []];
        }

        return $rows;
    }

    /**
     * @param list<int> $order
     *
     * @return list<int> so many of each, or of all where shares are of those that are shown
     */
    private function first(array $order): array
    {
        $seen = [];
        $kept = [];
        $ofShown = [] !== array_filter($this->trial->figures, static fn (Figure $one): bool => $one->as->isOfShown());
        foreach ($order as $i) {
            $each = json_encode($this->of($this->lines[$i], $this->trial->each), \JSON_THROW_ON_ERROR);
            $seen[$each] = ($seen[$each] ?? 0) + 1;
            if ([] === $this->trial->each && !$ofShown || $seen[$each] <= $this->trial->limit) {
                $kept[] = $i;
            }
        }

        return $kept;
    }

    private function figure(string $name): ?Figure
    {
        foreach ($this->trial->figures as $figure) {
            if ($figure->inWords() === $name) {
                return $figure;
            }
        }

        return null;
    }

    /** @param list<int> $among */
    private function beside(Figure $figure, int $i, array $among): int|float|null
    {
        $measure = $this->slow->measure($figure->measure);
        $value = fn (int $line): ?float => self::number($this->slow->computed($measure, $this->lines[$line]['now']));
        $mine = $value($i);
        if ($figure->as->isBefore()) {
            $was = self::number($this->slow->computed($measure, $this->lines[$i]['before'][self::back($figure)]));

            return match ($figure->as->name()) {
                'before' => $was,
                'change' => null === $mine || null === $was ? null : $mine - $was,
                default => null === $mine || null === $was || $was <= 0 ? null : ($mine - $was) / $was,
            };
        }
        $same = array_values(array_filter($among, fn (int $other): bool => $this->of($this->lines[$other], $figure->within)
            === $this->of($this->lines[$i], $figure->within)));
        if ($figure->as->ranks()) {
            $ranked = array_filter($same, fn (int $other): bool => 0 === $this->lines[$other]['of'] && null !== $value($other));
            $higher = array_filter($ranked, static fn (int $other): bool => $value($other) > $mine + 1e-9);

            return null === $mine || $this->lines[$i]['of'] > 0 ? null : \count($higher) + 1;
        }
        if ($figure->as->runs()) {
            return $this->running($figure, $i, $same, $value);
        }
        $all = array_sum(array_map(static fn (int $other): float => $value($other) ?? 0.0, $same));

        return null === $mine || abs($all) < 1e-9 ? null : $mine / $all;
    }

    private static function number(int|float|string|null $value): ?float
    {
        return is_numeric($value) ? (float) $value : null;
    }

    /**
     * @param list<int>             $same
     * @param \Closure(int): ?float $value
     */
    private function running(Figure $figure, int $i, array $same, \Closure $value): ?float
    {
        $along = SlowAnswer::level($figure->along);
        if (null === $this->of($this->lines[$i], [$figure->along])[0]) {
            return null;
        }
        $times = $others = [];
        foreach ($this->trial->by as $name) {
            $level = SlowAnswer::level($name);
            $field = static fn (string $attribute): string => self::FIELDS[$attribute] ?? $attribute;
            if ($level->role === $along->role && ('cal' === $along->role || $field($level->attribute) === $field($along->attribute))) {
                $times[] = $name;
            } else {
                $others[] = $name;
            }
        }
        $sum = null;
        foreach ($same as $other) {
            if ($this->of($this->lines[$other], $others) !== $this->of($this->lines[$i], $others)) {
                continue;
            }
            $upTo = 0;
            foreach ($times as $name) {
                $upTo = $upTo ?: self::compare($this->of($this->lines[$other], [$name])[0], $this->of($this->lines[$i], [$name])[0], false);
            }
            $one = $value($other);
            $sum = $upTo > 0 || null === $one ? $sum : ($sum ?? 0.0) + $one;
        }

        return $sum;
    }
}
