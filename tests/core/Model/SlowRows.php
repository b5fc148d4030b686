<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Model;

use Fasti\Core\Model\Condition;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\ModelJoin;

/**
 * What a row leads to, one by one: the rows that it finds, their values, what a link says of it, and what its date would be later.
 *
 * @phpstan-import-type Row from RandomModel
 */
trait SlowRows
{
    private function isSplitByLink(): bool
    {
        return [] !== array_filter($this->by, static fn (Level $level): bool => 't0' === $level->role);
    }

    private static function isOfLink(Condition $condition): bool
    {
        return [] === $condition->of && str_ends_with($condition->what, ' of t0');
    }

    /**
     * The rows of a link that a row of a fact has, with the part of it that each has; one without anything where there is none.
     *
     * @param Row $row
     *
     * @return list<array{part: float, to: int|string|null}>
     */
    private function links(string $fact, array $row): array
    {
        $sharing = $this->made->model->sharings[0];
        $found = [];
        $mine = $this->found($fact, $row, $sharing->of)[0]['id'] ?? null;
        $pairs = [];
        foreach ($this->made->rows['l0'] as $link) {
            if (null !== $link['b']) {
                $this->ambiguous = $this->ambiguous || $this->isSplitByLink() && isset($pairs["$link[a] $link[b]"]);
                $pairs["$link[a] $link[b]"] = true;
            }
            if ($link['a'] === $mine) {
                $found[] = ['part' => (float) max(0, (int) $link['w']), 'to' => $link['b']];
            }
        }
        $all = array_sum(array_column($found, 'part'));
        foreach ($found as $i => $one) {
            $found[$i]['part'] = match (true) {
                'each' === $sharing->how->value => 1.0,
                'weight' === $sharing->how->value && $all > 0 => $one['part'] / $all,
                default => 1.0 / \count($found),
            };
        }

        return $found ?: [['part' => 1.0, 'to' => null]];
    }

    /**
     * The values of an attribute beyond a link: of the row of it that is looked at, or of all.
     *
     * @param Row $row
     *
     * @return list<int|string|null>
     */
    private function beyond(string $fact, array $row, Level $level): array
    {
        $values = [];
        foreach (null === $this->link ? $this->links($fact, $row) : [$this->link] as $link) {
            $far = array_values(array_filter($this->made->rows['t0'], static fn (array $one): bool => null !== $link['to'] && $one['id'] === $link['to']));
            $values[] = [] === $far ? null : self::attribute($level->attribute, $far[0]);
        }

        return $values;
    }

    /**
     * The value of an attribute for a row of a fact.
     *
     * @param Row $row
     */
    private function value(string $fact, array $row, Level $level): int|string|null
    {
        if ('t0' === $level->role && 'l0' !== $fact && 't0' !== $fact) {
            return $this->beyond($fact, $row, $level)[0];
        }
        $at = $this->found($fact, $row, $level->role);
        $values = array_map(static fn (array $one): int|string|null => self::attribute($level->attribute, $one), $at);
        $different = array_unique(array_map(static fn ($value): string => json_encode($value, \JSON_THROW_ON_ERROR), $values));
        $this->ambiguous = $this->ambiguous || \count($different) > 1;

        return $values[0] ?? null;
    }

    /**
     * The rows of a role that a row of a fact leads to; of what lies beyond a date that is later, the rows that the later one leads to.
     *
     * @param Row $row
     *
     * @return list<Row>
     */
    private function found(string $fact, array $row, string $role): array
    {
        $at = $this->shifted($fact, [$row]);
        foreach (self::routes($this->made->model->joins, $this->made->model->choices, $fact, $role)[0] as [$join, $forth]) {
            $next = [];
            foreach ($at as $one) {
                $next = [...$next, ...$this->step($join, $forth, $one)];
            }
            $at = $this->shifted($forth ? $join->to : $join->from, $next);
        }

        return $at;
    }

    /**
     * @param list<Row> $rows of a role
     *
     * @return list<Row>
     */
    private function shifted(string $role, array $rows): array
    {
        if (null === $this->later || $this->later[0] !== $role) {
            return $rows;
        }
        [, $many, $of] = $this->later;
        $found = [];
        foreach ($rows as $row) {
            $day = null === $row['day'] ? null : self::later((string) $row['day'], $many, $of);
            if ('cal' !== $role) {
                $found[] = ['day' => $day] + $row;
            }
            foreach ('cal' === $role && null !== $day ? $this->made->rows['cal'] : [] as $other) {
                if ($other['day'] === $day) {
                    $found[] = $other;
                }
            }
        }

        return $found;
    }

    /** A day of a month that is shorter is its last. */
    public static function later(string $day, int $many, string $of): string
    {
        $at = new \DateTimeImmutable($day);
        if ('days' === $of) {
            return $at->modify("+$many days")->format('Y-m-d');
        }
        $month = $at->modify('first day of this month')->modify("+$many months");

        return $month->format('Y-m-').\sprintf('%02d', min((int) $at->format('j'), (int) $month->format('t')));
    }

    /**
     * The date that is looked at, of a row of a fact: the later one where it is later.
     *
     * @param Row                             $row
     * @param array{string, int, string}|null $later
     */
    public function date(string $fact, array $row, ?array $later = null, ?string $role = null): ?string
    {
        $kept = $this->later;
        $this->later = $later ?? $kept;
        $day = $this->found($fact, $row, $role ?? $this->later[0] ?? '')[0]['day'] ?? null;
        $this->later = $kept;

        return null === $day ? null : (string) $day;
    }

    /**
     * @param Row $row
     *
     * @return list<Row>
     */
    private function step(ModelJoin $join, bool $forth, array $row): array
    {
        [$here, $there] = $forth ? [$join->fields, $join->keys] : [$join->keys, $join->fields];
        $role = $this->made->model->role($forth ? $join->to : $join->from) ?? throw new \LogicException();
        if ([] !== $join->where && $row[$join->where[0]] !== $join->where[1]) {
            return [];
        }
        $found = [];
        foreach ($this->made->rows[$role->entry->name] as $other) {
            foreach ($here as $i => $field) {
                if (null === $row[$field] || $row[$field] !== $other[$there[$i]]) {
                    continue 2;
                }
            }
            $found[] = $other;
        }

        return $found;
    }

    /**
     * @param Row $row
     */
    private static function attribute(string $name, array $row): int|string|null
    {
        $num = null === $row['num'] ? null : (int) $row['num'];

        return match ($name) {
            'code' => $row['code'],
            'size' => $num,
            'big' => match (true) {
                null === $num => null,
                $num >= 4 => 'big',
                default => 'small',
            },
            'double' => null === $num ? null : $num * 2 + 1,
            'day' => $row['day'],
            'month' => null === $row['day'] ? null : (int) substr((string) $row['day'], 5, 2),
            'week' => null === $row['day'] ? null : (int) (new \DateTimeImmutable((string) $row['day']))->format('W'),
            'week year' => null === $row['day'] ? null : (int) (new \DateTimeImmutable((string) $row['day']))->format('o'),
            'quarter' => null === $row['day'] ? null : self::fiscal((string) $row['day']),
            'lag' => null === $row['day'] ? null : self::lag(new \DateTimeImmutable((string) $row['day'])),
            'letter' => null === $row['code'] ? null : substr((string) $row['code'], 0, 1),
            'rest' => ($num ?? 7) % 3,
            'number' => $row['id'],
            'in month' => $row['month_no'],
            'in year' => $row['year_no'],
            default => throw new \LogicException($name),
        };
    }

    /** Quarter, year and month of a year that begins in March and is named by the year in which it ends, put together. */
    private static function fiscal(string $day): int
    {
        [$year, $month] = array_map(intval(...), explode('-', $day));
        $of = ($month - 3 + 12) % 12;

        return intdiv($of, 3) + 1 + 10 * ($month >= 3 ? $year + 1 : $year) + $of + 1;
    }

    private static function lag(\DateTimeImmutable $day): int
    {
        return (int) (new \DateTimeImmutable('2025-02-20'))->diff($day)->format('%r%a') - (int) $day->format('N');
    }

    /**
     * @param list<Row> $rows each with its part
     */
    private function shares(Measure $measure, array $rows): ?float
    {
        $sum = null;
        foreach ($rows as $row) {
            $value = $this->measured($measure, $row);
            if (null !== $value) {
                $sum = ($sum ?? 0.0) + (float) $row['part'] * ('count' === $measure->aggregation->name() ? 1 : (float) $value);
            }
        }

        return $sum;
    }

    /** @param list<Row> $rows */
    private function spread(Measure $measure, array $rows): ?float
    {
        $values = [];
        foreach ($rows as $row) {
            $value = $this->measured($measure, $row);
            if (null !== $value) {
                $values[] = (float) $value / 100;
            }
        }
        $n = \count($values);
        if ($n < 2) {
            return null;
        }
        $mean = array_sum($values) / $n;
        $variance = array_sum(array_map(static fn (float $value): float => ($value - $mean) ** 2, $values)) / ($n - 1);

        return 'variance' === $measure->aggregation->name() ? $variance : sqrt($variance);
    }
}
