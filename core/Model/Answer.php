<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What a source says to a trial. */
final readonly class Answer
{
    /**
     * @param list<list<?string>>    $rows       by the columns of the plan
     * @param bool                   $cut        there are more
     * @param array<string, ?string> $total      by the name of the column
     * @param list<Doubled>          $doubled    where there are any, it is not answered
     * @param list<Reconciled>       $reconciled
     * @param list<Lost>             $lost
     * @param list<UnknownValue>     $unknown
     * @param list<list<array<string, ?string>>> $subtotals of each of the plan's, rows by the name of the column
     * @param list<string>           $notes      what whoever reads it has to know
     * @param array<int, int>        $others     by the number of a row: of how many it is put together
     */
    public function __construct(
        public Plan $plan,
        public array $rows,
        public bool $cut,
        public array $total,
        public array $doubled,
        public array $reconciled,
        public array $lost,
        public float $seconds,
        public array $unknown = [],
        public array $others = [],
        public array $subtotals = [],
        public array $notes = [],
    ) {
    }

    /** @return list<string> of which point a total is, where the figures of its rows do not add up to it */
    public function notAdded(): array
    {
        $said = [];
        foreach ($this->plan->columns as $i => $column) {
            $measure = null === $column->figure ? $column->measure : null;
            $words = null === $measure?->instant || Additivity::SemiAdditive !== $measure->adds ? '' : $measure->instead->inAll();
            $total = $this->total[$column->name] ?? null;
            if ('' === $words || $this->cut || \count($this->rows) < 2 || null === $total) {
                continue;
            }
            $sum = array_sum(array_map(static fn (array $row): float => (float) ($row[$i] ?? 0), $this->rows));
            if (!Reconciled::same((string) $sum, $total)) {
                $said[] = \sprintf('“%s” does not add up: %s.', $measure->name, \sprintf($words, $measure->instant->attribute));
            }
        }

        return $said;
    }

    /** Equal for equal answers, whatever the engine writes after the twelfth digit. */
    public function fingerprint(): string
    {
        return self::fingerprintOf($this->rows, array_map(static fn (Doubled $one): string => $one->words, $this->doubled));
    }

    /**
     * @param list<list<?string>> $rows
     * @param list<string>        $doubled
     */
    public static function fingerprintOf(array $rows, array $doubled): string
    {
        $rows = array_map(static fn (array $row): array => array_map(self::steady(...), $row), $rows);

        return hash('xxh128', json_encode([$rows, $doubled], \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE));
    }

    private static function steady(?string $value): ?string
    {
        return null !== $value && 1 === preg_match(
            '/^-?\d*\.?\d+(?:[eE][+-]?\d+)?$/',
            $value,
        ) && !str_starts_with($value, '00') ? \sprintf('%.11e', (float) $value) : $value;
    }

    /**
     * Subtotals by the number of the row after which they stand: the last that they are of, where rows stand together; else the last of all.
     *
     * @return array<int, list<array{int, list<?string>}>> so many columns say what it is of, and all by the columns of the plan; none where there is no figure
     */
    public function subtotalsAfter(): array
    {
        $after = [];
        $end = \count($this->rows) - 1;
        // The finer ones stand before those that are of more.
        foreach (array_reverse($this->plan->subtotals) as $k => $plan) {
            $rows = $this->subtotals[\count($this->plan->subtotals) - 1 - $k] ?? [];
            $n = \count(array_filter($plan->columns, static fn (PlanColumn $column): bool => null !== $column->level));
            $last = $this->lastOf($n);
            foreach ($rows as $row) {
                $shown = array_map(static fn (PlanColumn $column): ?string => $row[$column->name] ?? null, $this->plan->columns);
                $key = self::key(\array_slice($shown, 0, $n));
                if (null === $last || isset($last[$key])) {
                    $after[$last[$key] ?? $end][] = [$n, $shown];
                }
            }
        }

        return $after;
    }

    /** @return array<string, int>|null what the first columns say → the last row that says it; null where such rows do not stand together */
    private function lastOf(int $n): ?array
    {
        $last = [];
        $before = null;
        foreach ($this->rows as $i => $row) {
            $key = self::key(\array_slice($row, 0, $n));
            if ($key !== $before && isset($last[$key])) {
                return null;
            }
            $last[$key] = $i;
            $before = $key;
        }

        return $last;
    }

    /** @param list<?string> $values */
    private static function key(array $values): string
    {
        return json_encode($values, \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE);
    }
}
