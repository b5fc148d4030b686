<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\ModelJoin;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Test;
use Fasti\Core\Model\Trial;

/**
 * Answers a trial by going over all rows, one by one, in PHP: what Planner's queries are held against. It shares nothing with them but the
 * model itself.
 *
 * @phpstan-import-type Row from RandomModel
 *
 * @phpstan-type Value int|float|string|null
 */
final class SlowAnswer
{
    use SlowRows;

    /** Why it cannot be answered; '' where it can. */
    public string $refused = '';
    /** @var list<list<Value>> */
    public array $rows = [];
    /** @var list<Level> */
    private array $by = [];
    private bool $ambiguous = false;
    /** @var array{string, int, string}|null every row as if the date of a role were so many days or months later */
    private ?array $later = null;
    /** @var array{part: float, to: int|string|null}|null the row of a link that is looked at */
    private ?array $link = null;

    public function __construct(private readonly RandomModel $made, private readonly Trial $trial)
    {
        $this->by = array_map(self::level(...), $trial->by);
        if ([] === $trial->figures && [] === $trial->each && !$trial->others) {
            $this->answer();
        } else {
            $this->rows = (new SlowBeside($made, $trial, $this))->rows();
        }
    }

    public static function level(string $name): Level
    {
        [$attribute, $role] = explode(' of ', $name, 2);

        return new Level($role, $attribute);
    }

    /**
     * All chains of steps of which each finds one row at most, none passing a role twice.
     *
     * @param list<ModelJoin> $joins
     * @param list<Choice>    $choices
     *
     * @return list<list<array{ModelJoin, bool}>>
     */
    public static function routes(array $joins, array $choices, string $from, string $to): array
    {
        return self::walked([], $from, $joins, $choices, $from, $to);
    }

    /**
     * @param list<array{ModelJoin, bool}> $chain
     * @param list<ModelJoin>              $joins
     * @param list<Choice>                 $choices
     *
     * @return list<list<array{ModelJoin, bool}>>
     */
    private static function walked(array $chain, string $at, array $joins, array $choices, string $from, string $to): array
    {
        $keys = array_map(static fn (array $step): string => $step[0]->key(), $chain);
        foreach ($choices as $choice) {
            if ($choice->from === $from && $choice->to === $at && [] !== $chain && $choice->by !== $keys) {
                return [];
            }
        }
        if ($at === $to) {
            return [$chain];
        }
        $passed = [$from];
        foreach ($chain as [$join, $forth]) {
            $passed[] = $forth ? $join->to : $join->from;
        }
        $found = [];
        foreach ($joins as $join) {
            if ($join->from === $at && !\in_array($join->to, $passed, true) && !$join->toEnd->many()) {
                $found = [...$found, ...self::walked([...$chain, [$join, true]], $join->to, $joins, $choices, $from, $to)];
            }
            if ($join->to === $at && !\in_array($join->from, $passed, true) && !$join->fromEnd->many()) {
                $found = [...$found, ...self::walked([...$chain, [$join, false]], $join->from, $joins, $choices, $from, $to)];
            }
        }

        return $found;
    }

    /** @return list<Measure> */
    public function parts(Measure $measure): array
    {
        if ('computed' === $measure->aggregation->name()) {
            return array_map($this->measure(...), array_values(match ($measure->name) {
                'both' => ['amount f0', 'sum f1', 'rows f1'],
                default => array_map(static fn (string $one): string => $one.substr($measure->name, 8), array_filter(
                    ['sum', 'rows', 'amount'],
                    static fn (string $one): bool => false !== stripos($measure->expression, "\"$one "),
                )),
            }));
        }
        if ('ratio' !== $measure->aggregation->name()) {
            return [$measure];
        }

        return [...$this->parts($this->measure($measure->of)), ...$this->parts($this->measure($measure->by))];
    }

    public function measure(string $name): Measure
    {
        return $this->made->model->measure($name) ?? throw new \LogicException($name);
    }

    public function isFigure(Condition $condition): bool
    {
        return null !== $this->made->model->measure($condition->what);
    }

    /** @return list<Condition> */
    public function conditions(string $fact): array
    {
        return array_values(
            array_filter(
                $this->trial->where,
                fn (Condition $one): bool => !$this->isFigure($one) && ([] === $one->facts || \in_array($fact, $one->facts, true)),
            ),
        );
    }

    private function answer(): void
    {
        /** @var array<string, Measure> $base */
        $base = [];
        foreach ($this->trial->measures as $name) {
            foreach ($this->parts($this->measure($name)) as $part) {
                $base[$part->name] = $part;
            }
        }
        foreach ($base as $measure) {
            $this->refused = $this->refused ?: $this->unfit($measure);
        }
        if ('' !== $this->refused) {
            return;
        }
        [$cells, $members] = $this->cells($base);
        if ($this->ambiguous) {
            $this->refused = 'a key stands twice, and its rows differ';

            return;
        }
        foreach ($cells as $key => $values) {
            $figures = $this->figures($base, $key, $cells, $members);
            $shown = $values;
            foreach ($this->trial->measures as $name) {
                $shown[] = $this->computed($this->measure($name), $figures);
            }
            foreach ($this->trial->where as $condition) {
                if ($this->isFigure($condition)) {
                    $value = $this->computed($this->measure($condition->what), $figures);
                    if ((Test::Given === $condition->test) !== (null !== $value)) {
                        continue 2;
                    }
                }
            }
            $this->rows[] = $shown;
        }
    }

    /**
     * What each row of the answer is split by, and the rows behind its figures.
     *
     * @param array<string, Measure>            $base
     * @param array{string, int, string}|null $later
     *
     * @return array{array<string, list<Value>>, array<string, array<string, list<Row>>>}
     */
    public function cells(array $base, ?array $later = null): array
    {
        $this->later = $later;
        $cells = [] === $this->by && null === $later ? ['[]' => []] : [];
        $members = [];
        foreach ($base as $measure) {
            foreach ($this->passing($measure->fact) as [$values, $row]) {
                $key = json_encode($values, \JSON_THROW_ON_ERROR);
                if ($this->fits($measure, $row)) {
                    $cells[$key] = $values;
                    $members[$measure->name][$key][] = $row;
                }
            }
        }
        $this->later = null;

        return [$cells, $members];
    }

    /**
     * @param array<string, Measure>                  $base
     * @param array<string, list<Value>>              $cells
     * @param array<string, array<string, list<Row>>> $members
     *
     * @return array<string, Value>
     */
    public function figures(array $base, string $key, array $cells, array $members): array
    {
        $figures = [];
        foreach ($base as $name => $measure) {
            $beside = isset($cells[$key]) ? $this->beside($measure, $cells[$key], $cells, $members[$name] ?? []) : [];
            $figures[$name] = $this->figure($measure, $members[$name][$key] ?? [], $beside);
        }

        return $figures;
    }

    public function isAmbiguous(): bool
    {
        return $this->ambiguous;
    }

    public function unfit(Measure $measure): string
    {
        $fact = $measure->fact;
        $joins = $this->made->model->joins;
        $choices = $this->made->model->choices;
        $needed = array_map(static fn (Level $level): array => [$fact, $level->role], $this->by);
        foreach ($this->conditions($fact) as $condition) {
            $needed = [...$needed, ...self::steps($fact, $condition)];
        }
        foreach ($needed as [$from, $to]) {
            $to = 't0' === $to && 'l0' !== $from && 't0' !== $from ? $this->made->model->sharings[0]->of : $to;
            $routes = \count(self::routes($joins, $choices, $from, $to));
            if (1 !== $routes) {
                return "$routes routes from $from to $to";
            }
        }
        [$how, $role] = $this->made->across[$measure->name] ?? ['', ''];
        if ('' !== $how && !RandomModel::READS[$how][1] && [] === self::routes($joins, $choices, $role, $fact)
            && \in_array($measure->aggregation->name(), ['sum', 'average', 'median', 'variance', 'standard deviation'], true)) {
            return "$measure->name counts a row of $role for each of its rows of $fact";
        }
        $parted = $this->isSplitByLink() && 'each' !== $this->made->model->sharings[0]->how->value;
        if ($this->isSplitByLink() && Additivity::SemiAdditive === $measure->adds && !$this->fixed($measure)) {
            return "$measure->name is not shared";
        }
        if ($parted && \in_array($measure->aggregation->name(), ['average', 'median', 'variance', 'standard deviation'], true)) {
            return "$measure->name is not shared";
        }
        if (Additivity::SemiAdditive === $measure->adds && Instead::Nothing === $measure->instead && !$this->fixed($measure)) {
            return "$measure->name is not added over ".implode('', $measure->notOver);
        }

        return '';
    }

    /** @return list<array{string, string}> what a condition needs routes between */
    private static function steps(string $from, Condition $condition): array
    {
        if (Test::Has === $condition->test || Test::HasNo === $condition->test) {
            $steps = [[$from, $condition->what], [$from = $condition->values[0], $condition->what]];
        } elseif ([] === $condition->of) {
            return [[$from, self::level($condition->what)->role]];
        }
        foreach ($condition->of as $part) {
            $steps = [...$steps ?? [], ...self::steps($from, $part)];
        }

        return $steps ?? [];
    }

    /** @param Row $row */
    private function holds(string $role, array $row, Condition $condition): bool
    {
        if (Test::Any === $condition->test) {
            return [] !== array_filter($condition->of, fn (Condition $part): bool => $this->holds($role, $row, $part));
        }
        if (Test::All === $condition->test) {
            return [] === array_filter($condition->of, fn (Condition $part): bool => !$this->holds($role, $row, $part));
        }
        if (self::isOfLink($condition) && null === $this->link && 'l0' !== $role && 't0' !== $role) {
            $opposite = \in_array($condition->test, [Test::IsNot, Test::None], true);
            $values = $this->beyond($role, $row, self::level($condition->what));
            $any = [] !== array_filter($values, fn (int|string|null $value): bool => null !== $value && $opposite !== $this->meets($value, $condition));

            return $any !== $opposite;
        }
        if (Test::Has !== $condition->test && Test::HasNo !== $condition->test) {
            return $this->meets($this->value($role, $row, self::level($condition->what)), $condition);
        }
        [$sought] = $condition->values;
        $has = false;
        foreach ($this->found($role, $row, $condition->what) as $mine) {
            foreach ($this->made->rows[$this->made->model->role($sought)->entry->name ?? ''] as $other) {
                $has = $has || \in_array($mine, $this->found($sought, $other, $condition->what), true)
                    && [] === array_filter($condition->of, fn (Condition $part): bool => !$this->holds($sought, $other, $part));
            }
        }

        return $has === (Test::Has === $condition->test);
    }

    private function fixed(Measure $measure): bool
    {
        $tells = static fn (Level $level): bool => $level->role === $measure->fact && \in_array($level->attribute, ['day', 'number'], true);
        foreach ($this->by as $level) {
            if ($tells($level)) {
                return true;
            }
        }
        foreach ($this->conditions($measure->fact) as $condition) {
            if (Test::Is === $condition->test && 1 === \count($condition->values) && $tells(self::level($condition->what))) {
                return true;
            }
        }

        return false;
    }

    /** @return iterable<array{list<Value>, Row}> rows of a fact that meet the conditions, with what they are split by */
    private function passing(string $fact): iterable
    {
        foreach ($this->made->rows[$fact] as $row) {
            if (null !== $this->later && null === $this->date($fact, $row)) {
                continue;
            }
            foreach ($this->conditions($fact) as $condition) {
                if (!($this->isSplitByLink() && self::isOfLink($condition)) && !$this->holds($fact, $row, $condition)) {
                    continue 2;
                }
            }
            foreach ($this->isSplitByLink() ? $this->links($fact, $row) : [null] as $link) {
                $this->link = $link;
                foreach (null === $link ? [] : $this->conditions($fact) as $condition) {
                    if (!$this->holds($fact, $row, $condition)) {
                        continue 2;
                    }
                }
                $values = array_map(fn (Level $level): int|string|null => $this->value($fact, $row, $level), $this->by);
                yield [$values, ['part' => \sprintf('%.17e', $link['part'] ?? 1.0)] + $row];
            }
            $this->link = null;
        }
    }

    /** @param Value $value */
    private function meets(int|float|string|null $value, Condition $condition): bool
    {
        if (Test::None === $condition->test || null === $value) {
            return Test::None === $condition->test ? null === $value : Test::IsNot === $condition->test;
        }
        $date = \is_string($value) && 1 === preg_match('/^\d{4}-/', $value);
        $span = static fn (string $words): array => 7 === \strlen($words) ? ["$words-01", "$words-31"] : [$words, $words];
        $is = static fn (string $one): bool => match (true) {
            $date => $value >= $span($one)[0] && $value <= $span($one)[1],
            \is_string($value) => $value === $one,
            default => $value == $one,
        };
        $first = $condition->values[0] ?? '';

        return match ($condition->test) {
            Test::Given => true,
            Test::Is, Test::During => [] !== array_filter($condition->values, $is),
            Test::IsNot => [] === array_filter($condition->values, $is),
            Test::Begins => str_starts_with((string) $value, $first),
            Test::Contains => str_contains((string) $value, $first),
            Test::Over => $date ? $value > $span($first)[1] : $value > (int) $first,
            Test::Least => $date ? $value >= $span($first)[0] : $value >= (int) $first,
            Test::Under => $date ? $value < $span($first)[0] : $value < (int) $first,
            Test::Most => $date ? $value <= $span($first)[1] : $value <= (int) $first,
            Test::Any, Test::All, Test::Has, Test::HasNo => throw new \LogicException('It is put together of others.'),
            Test::Between => $date ? $value >= $span($first)[0] && $value <= $span($condition->values[1])[1]
                : $value >= (int) $first && $value <= (int) $condition->values[1],
        };
    }

    /** @param Row $row */
    private function fits(Measure $measure, array $row): bool
    {
        return match ($measure->filter) {
            '' => true,
            "kind = 'a'" => 'a' === $row['kind'],
            "kind = 'b'" => 'b' === $row['kind'],
            'qty > 10 AND num IS NOT NULL' => null !== $row['qty'] && $row['qty'] > 10 && null !== $row['num'],
            default => throw new \LogicException($measure->filter),
        };
    }

    /**
     * In hundredths, where it is an amount.
     *
     * @param Row $row
     */
    private function measured(Measure $measure, array $row): int|string|null
    {
        [$how, $role] = $this->made->across[$measure->name] ?? ['', ''];
        if ('' !== $how) {
            $far = $this->value($measure->fact, $row, new Level($role, 'size'));
            [$far, $qty, $num] = array_map(static fn (int|string|null $value): ?int => null === $value ? null : (int) $value, [$far, $row['qty'], $row['num']]);

            return match ($how) {
                'parent' => $far,
                'parent twice' => null === $far ? null : 2 * $far - 1,
                'where' => 'a' === $row['kind'] ? $far : null,
                'factor' => null === $far || null === $qty ? null : $qty * $far,
                'added' => null === $far || null === $qty ? null : $qty + $far,
                'either' => $qty ?? $far,
                'chosen' => null !== $far && $far > 3 ? $qty : null,
                'rate' => null === $far || null === $qty || null === $num ? null : $qty * (1 + $far + $num),
                default => null === $far || null === $qty || null === $num ? null : $qty * 3 - $far * $num,
            };
        }

        return match ($measure->expression) {
            '' => 1,
            'amt * 2 - qty' => null === $row['amt'] || null === $row['qty'] ? null : (int) $row['amt'] * 2 - (int) $row['qty'] * 100,
            default => $row[$measure->expression],
        };
    }

    /**
     * Rows of all cells that are of the same month, where that is split by: among them the last day of all is looked for.
     *
     * @param list<Value>              $values of the cell
     * @param array<string, list<Value>> $cells
     * @param array<string, list<Row>> $members
     *
     * @return list<Row>
     */
    private function beside(Measure $measure, array $values, array $cells, array $members): array
    {
        $rows = [];
        foreach ($members as $key => $of) {
            foreach ($this->by as $i => $level) {
                $dated = \in_array($level->attribute, ['month', 'week', 'week year', 'quarter', 'lag'], true) && $level->role === $measure->fact;
                if ($dated && $cells[$key][$i] !== $values[$i]) {
                    continue 2;
                }
            }
            $rows = [...$rows, ...$of];
        }

        return $rows;
    }

    /**
     * @param list<Row> $rows
     * @param list<Row> $beside
     *
     * @return Value
     */
    private function figure(Measure $measure, array $rows, array $beside): int|float|string|null
    {
        if (Additivity::SemiAdditive === $measure->adds && Instead::Nothing !== $measure->instead && !$this->fixed($measure)) {
            if ($measure->instead->isOfAll()) {
                $days = array_filter(array_map(static fn (array $row): string => (string) $row['day'], $beside));
                $day = match (true) {
                    [] === $days => '',
                    Instead::LastOfAll === $measure->instead => max($days),
                    default => min($days),
                };
                $rows = array_values(array_filter($rows, static fn (array $row): bool => $day === (string) $row['day']));
            }

            return $this->stock($measure, $rows);
        }
        if (\in_array($measure->aggregation->name(), ['variance', 'standard deviation'], true)) {
            return $this->spread($measure, $rows);
        }
        $hundredths = \in_array($measure->expression, ['amt', 'amt * 2 - qty'], true);
        $values = array_values(
            array_filter(
                array_map(fn (array $row): int|string|null => $this->measured($measure, $row), $rows),
                static fn ($value): bool => null !== $value,
            ),
        );
        if ($this->isSplitByLink() && \in_array($measure->aggregation->name(), ['count', 'sum'], true)) {
            $sum = $this->shares($measure, $rows);
            $count = 'count' === $measure->aggregation->name();

            $none = $count ? 0 : null;

            return null === $sum ? $none : $sum * ($hundredths && !$count ? 0.01 : 1);
        }
        if ('count' === $measure->aggregation->name()) {
            return \count($values);
        }
        if ('distinct count' === $measure->aggregation->name()) {
            return \count(array_unique($values));
        }
        if ([] === $values) {
            return null;
        }
        sort($values);
        $n = \count($values);
        $result = match ($measure->aggregation->name()) {
            'sum' => array_sum($values),
            'average' => array_sum($values) / $n,
            'least' => $values[0],
            'greatest' => $values[$n - 1],
            default => array_sum([$values[intdiv($n - 1, 2)], $values[intdiv($n, 2)]]) / 2,
        };

        return $hundredths ? (float) $result / 100 : $result;
    }

    /** @param list<Row> $rows */
    private function stock(Measure $measure, array $rows): int|float|null
    {
        $points = [];
        foreach ($rows as $row) {
            $points[$row['day'] ?? ''][] = $row['qty'];
        }
        if (\count($points) > 1) {
            unset($points['']);
        }
        ksort($points);
        $sums = [];
        foreach ($points as $day => $values) {
            $given = array_filter($values, static fn ($value): bool => null !== $value);
            $sums[$day] = [] === $given ? null : array_sum($given);
        }
        if ([] === $sums) {
            return null;
        }
        $given = array_values(array_filter($sums, static fn ($value): bool => null !== $value));

        return match ($measure->instead) {
            Instead::Last, Instead::LastOfAll => $sums[array_key_last($sums)],
            Instead::First, Instead::FirstOfAll => $sums[array_key_first($sums)],
            Instead::Average => [] === $given ? null : array_sum($given) / \count($given),
            Instead::Least => [] === $given ? null : min($given),
            default => [] === $given ? null : max($given),
        };
    }

    /**
     * @param array<string, Value> $figures
     *
     * @return Value
     */
    public function computed(Measure $measure, array $figures): int|float|string|null
    {
        if ('both' === $measure->name) {
            $a = $this->computed($this->measure('amount f0'), $figures);
            $b = $this->computed($this->measure('share f1'), $figures);

            return null === $a || null === $b ? null : (float) $a - 2 * (float) $b;
        }
        if ('computed' === $measure->aggregation->name()) {
            return RandomModel::reckoned($measure, substr($measure->name, 9), array_map(
                static fn (int|float|string|null $value): ?float => is_numeric($value) ? (float) $value : null,
                $figures,
            ));
        }
        if ('ratio' !== $measure->aggregation->name()) {
            return $figures[$measure->name];
        }
        $of = $this->computed($this->measure($measure->of), $figures);
        $by = $this->computed($this->measure($measure->by), $figures);

        return null === $of || null === $by || 0.0 === (float) $by ? null : (float) $of / (float) $by;
    }

    public static function isFact(RandomModel $made, string $role): bool
    {
        return RoleKind::Fact === $made->model->role($role)?->kind;
    }
}
