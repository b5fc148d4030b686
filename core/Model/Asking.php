<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** Asks a source what a plan says: first what must hold, then the answer, its total, and each measure of its fact alone. */
final readonly class Asking
{
    /** For so many values that are not there the nearest are looked for. */
    private const NEAREST = 5;

    public function __construct(private Rows $source, private int $most = Planner::MOST_ROWS)
    {
    }

    /**
     * @param bool                 $reconcile the totals are held against the facts alone, too
     * @param (\Closure(): Plan)|null $naive     how the whole would be asked for by somebody who trusts every join
     *
     * @throws SourceError
     */
    public function answer(Plan $plan, bool $reconcile = true, ?\Closure $naive = null): Answer
    {
        $begun = microtime(true);
        $doubled = $this->doubled($plan);
        if ([] !== $doubled) {
            return new Answer(
                $plan,
                [],
                false,
                [],
                $doubled,
                $reconcile ? $this->reconciled($plan, null === $naive ? null : $naive(), true) : [],
                [],
                microtime(true) - $begun,
            );
        }
        $rows = $others = [];
        $cut = false;
        foreach ($this->source->rows($plan->sql()) as $row) {
            if (\count($rows) >= $this->most) {
                $cut = true;
                break;
            }
            $row = array_values($row);
            if ($plan->others && '0' !== ($together = (string) array_pop($row))) {
                $others[\count($rows)] = (int) $together;
            }
            $rows[] = $row;
        }
        $seconds = microtime(true) - $begun;
        $whole = [] === $plan->trial->by ? $plan : $plan->total;

        return new Answer(
            $plan,
            $rows,
            $cut,
            null === $plan->total ? [] : $this->one($plan->total->sql()),
            [],
            $reconcile && null !== $whole ? $this->reconciled($whole, $whole, false) : [],
            $reconcile ? $this->lost($plan) : [],
            $seconds,
            $this->unknown($plan),
            $others,
            $this->subtotals($plan),
            [...$plan->notes, ...$this->uncovered($plan)],
        );
    }

    /** @return list<string> */
    private function uncovered(Plan $plan): array
    {
        $said = [];
        foreach ($plan->uncovered as $uncovered) {
            $row = $this->one($uncovered->sql);
            $days = (int) ($row['days'] ?? 0);
            if ($days > 0) {
                $said[] = $uncovered->inWords($days, (string) $row['since'], (string) $row['until']);
            }
        }

        return array_values(array_unique($said));
    }

    /** @return list<list<array<string, ?string>>> */
    private function subtotals(Plan $plan): array
    {
        $subtotals = [];
        foreach ($plan->subtotals as $of) {
            $rows = [];
            foreach ($this->source->rows($of->sql()) as $row) {
                $rows[] = $row;
                if (\count($rows) >= $this->most) {
                    break;
                }
            }
            $subtotals[] = $rows;
        }

        return $subtotals;
    }

    /** @return list<UnknownValue> what conditions name and no row has */
    private function unknown(Plan $plan): array
    {
        $unknown = [];
        foreach ($plan->named as $named) {
            $there = $this->one($named->there);
            $missing = array_filter($named->values, static fn (string $value, int $i): bool => '1' !== ($there["n$i"] ?? '1'), \ARRAY_FILTER_USE_BOTH);
            $others = [];
            foreach ([] === $missing ? [] : $this->source->rows($named->others) as $row) {
                $others[] = (string) $row['value'];
            }
            foreach (array_values($missing) as $i => $value) {
                $labels = null === $named->labels || [] !== $named->labels->meant($value) ? [] : $named->labels->words();
                $unknown[] = new UnknownValue($named, $value, $i < self::NEAREST ? NamedValues::nearest($value, [...$others, ...$labels]) : []);
            }
        }

        return $unknown;
    }

    /** @return list<Doubled> */
    private function doubled(Plan $plan): array
    {
        $doubled = [];
        foreach ($plan->guards as $guard) {
            $many = 0;
            foreach ($this->source->rows($guard->sql) as $row) {
                ++$many;
            }
            $shown = [];
            foreach (0 === $many ? [] : $this->source->rows($guard->shown) as $row) {
                $shown[] = $row;
            }
            if ([] !== $shown) {
                $doubled[] = new Doubled($guard->inWords($many), $guard->way, $shown, $guard->shown);
            }
        }

        return $doubled;
    }

    /** @return array<string, ?string> by the name of the column */
    private function one(string $sql): array
    {
        foreach ($this->source->rows($sql) as $row) {
            return $row;
        }

        return [];
    }

    /** @return list<Reconciled> */
    private function reconciled(Plan $plan, ?Plan $joined, bool $naive): array
    {
        if (null === $joined) {
            return [];
        }
        $here = $this->one($joined->sql());
        $whole = $naive ? ($plan->total ?? $plan) : $plan;
        $alone = $facts = $sql = [];
        foreach ($whole->alone as $reckoning) {
            $alone[$reckoning->measure] = $this->one($reckoning->alone)['total'] ?? null;
            $facts[$reckoning->measure] = $reckoning->fact;
            $sql[$reckoning->measure] = $reckoning->alone;
        }
        $reconciled = [];
        foreach ($whole->columns as $column) {
            $name = null === $column->figure ? ($column->measure->name ?? '') : '';
            $composition = $whole->compositions[$name] ?? null;
            if (\array_key_exists($column->name, $here) && (isset($facts[$name]) || null !== $composition)) {
                $of = $composition->parts ?? [$name];
                $reconciled[] = new Reconciled(
                    $name,
                    implode(' and ', array_unique(array_map(static fn (string $part): string => $facts[$part] ?? '', $of))),
                    $here[$column->name],
                    null === $composition ? $alone[$name] : ($this->one($composition->of($alone))['total'] ?? null),
                    implode(";\n", array_map(static fn (string $part): string => $sql[$part] ?? '', $of)),
                );
            }
        }

        return $reconciled;
    }

    /** @return list<Lost> */
    private function lost(Plan $plan): array
    {
        $all = [];
        foreach ($plan->losses as $losses) {
            $row = $this->one($losses->sql);
            foreach ($losses->steps as $i => $step) {
                $lost = (int) ($row["lost_$i"] ?? 0);
                if ($lost > 0) {
                    $shown = [];
                    foreach ($this->source->rows($step->rows) as $one) {
                        $shown[] = $one;
                    }
                    $all[$step->rows] = new Lost($step->inWords($lost, (int) ($row["held_$i"] ?? 0)), $lost, $step->rows, $step->fact, $step->way, $shown);
                }
            }
        }

        return array_values($all);
    }
}
