<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Naming;

/**
 * What only the schema as a whole says, once each candidate has been weighed by itself: two tables seldom refer to each other
 * both ways, two fields seldom say the same, what a composite key implies is not said again, and how other tables call a join.
 */
final class Whole
{
    /**
     * Weighs all candidates, by themselves first, then again knowing the others.
     *
     * @param array<string, list<Candidate>> $units
     */
    public static function weigh(array $units, Candidates $candidates, Chooser $chooser): void
    {
        foreach ($units as $found) {
            self::forget($found);
            $chooser->weigh($found);
        }
        for ($round = 0; $round < 2; ++$round) {
            self::look($units, $candidates);
            foreach ($units as $found) {
                $chooser->weigh($found);
            }
        }
    }

    /** @param array<string, list<Candidate>> $units */
    private static function look(array $units, Candidates $candidates): void
    {
        $best = $composite = $habits = [];
        foreach ($units as $found) {
            foreach ($found as $candidate) {
                $p = $candidate->confidence;
                $best[$candidate->from][$candidate->to] = max($p, $best[$candidate->from][$candidate->to] ?? 0.0);
                if ($p >= 0.3 && \count($candidate->columns) > 1) {
                    $composite[$candidate->from][] = $candidate;
                }
                if (1 === \count($candidate->columns)) {
                    $name = Naming::folded($candidate->columns[0]);
                    $habits[$name][$candidate->to] = ($habits[$name][$candidate->to] ?? 0.0) + $p;
                }
            }
        }
        $bare = self::bare($units);
        $leads = self::leads($units);
        $hubs = self::hubs($best);
        $on = self::leadingOn($units);
        foreach ($units as $found) {
            self::forget($found);
            foreach ($found as $candidate) {
                $back = $candidate->from === $candidate->to ? 0.0 : self::back($units, $candidate);
                if ($back > 0.3 && $back > $candidate->confidence) {
                    $candidate->features[Feature::BOTH_WAYS] = $back;
                }
                self::imply($candidate, $composite[$candidate->from] ?? [], $leads);
                if ($candidate->has(Feature::NO_ENDING)) {
                    $candidate->features[Feature::BARE] = $bare;
                }
                if ($candidate->has(Feature::DOER)) {
                    $candidate->features[Feature::HUB] = log(1 + ($hubs[$candidate->to] ?? 0.0));
                    $next = self::peopleOn($candidate, $best, $candidates);
                    if ($next > 0.2) {
                        $candidate->features[Feature::PEOPLE_ON] = $next;
                    }
                }
                if ($candidate->has(Feature::KEY_EQUAL)) {
                    $next = $on[Candidates::unit($candidate->to, $candidate->key->columns)] ?? 0.0;
                    if ($next > 0.2) {
                        $candidate->features[Feature::LEADS_ON] = $next;
                    }
                }
                if (1 === \count($candidate->columns)) {
                    $others = ($habits[Naming::folded($candidate->columns[0])][$candidate->to] ?? 0.0) - $candidate->confidence;
                    if ($others > 0.2) {
                        $candidate->features[Feature::HABIT] = min(1.0, $others / 3);
                    }
                    self::twice($candidate, $leads);
                }
            }
        }
    }

    /**
     * How surely the same fields lead back. That two tables refer to each other by different ones is nothing odd.
     *
     * @param array<string, list<Candidate>> $units
     */
    private static function back(array $units, Candidate $candidate): float
    {
        foreach ($units[Candidates::unit($candidate->to, $candidate->key->columns)] ?? [] as $other) {
            if ($other->to === $candidate->from && $other->key->columns === $candidate->columns) {
                return $other->confidence;
            }
        }

        return 0.0;
    }

    /**
     * Whether a wider join already leads where this one does.
     *
     * @param list<Candidate>                                                                 $wider
     * @param array<int, array<int, list<array{list<string>, float, string, list<string>}>>> $leads
     */
    private static function imply(Candidate $candidate, array $wider, array $leads): void
    {
        foreach ($wider as $wide) {
            if (\count($wide->columns) > \count($candidate->columns) && $wide->to !== $candidate->to && self::implies($wide, $candidate, $leads)) {
                // Of a link, what is linked is often referred to as well.
                $sure = ($wide->has(Feature::LINK_KEY) ? 0.5 : 0.7) * $wide->confidence;
                $candidate->features[Feature::IMPLIED] = max($sure, $candidate->features[Feature::IMPLIED] ?? 0.0);
            }
        }
    }

    /**
     * Whether another field leads there more surely, where neither has a role.
     *
     * @param array<int, array<int, list<array{list<string>, float, string, list<string>}>>> $leads
     */
    private static function twice(Candidate $candidate, array $leads): void
    {
        if (null === $candidate->match || [] !== $candidate->match->role) {
            return;
        }
        foreach ($leads[$candidate->from][$candidate->to] ?? [] as [$columns, $p, $role]) {
            if (1 === \count($columns) && $columns !== $candidate->columns && $p > $candidate->confidence && '' === $role) {
                $candidate->features[Feature::TWICE] = 1.0;
            }
        }
    }

    /**
     * @param array<string, list<Candidate>> $units
     *
     * @return float which part of what seems to lead somewhere by its name has a name that does not end as keys' do, less what is usual
     */
    private static function bare(array $units): float
    {
        $all = $without = 1.0;
        foreach ($units as $found) {
            foreach ($found as $candidate) {
                if ($candidate->confidence > 0.4 && null !== $candidate->match && $candidate->match->how <= NameMatch::ROLE) {
                    $all += $candidate->confidence;
                    $without += $candidate->has(Feature::NO_ENDING) ? $candidate->confidence : 0.0;
                }
            }
        }

        return $without / $all - 0.3;
    }

    /**
     * @param array<string, list<Candidate>> $units
     *
     * @return array<string, float> key that leads on to another table → how surely
     */
    private static function leadingOn(array $units): array
    {
        $on = [];
        foreach ($units as $unit => $found) {
            $on[$unit] = min(1.0, array_sum(array_map(static fn (Candidate $one): float => $one->from === $one->to ? 0.0 : $one->confidence, $found)));
        }

        return $on;
    }

    /**
     * @param array<int, array<int, float>> $best how sure the surest is, by where from and where to
     *
     * @return array<int, float> how much leads to each table
     */
    private static function hubs(array $best): array
    {
        $hubs = [];
        foreach ($best as $from => $to) {
            foreach ($to as $table => $p) {
                if ($from !== $table) {
                    $hubs[$table] = ($hubs[$table] ?? 0.0) + $p;
                }
            }
        }

        return $hubs;
    }

    /**
     * How surely the people led to are themselves led to others: of an account that a person has, the person did it.
     *
     * @param array<int, array<int, float>> $best how sure the surest is, by where from and where to
     */
    private static function peopleOn(Candidate $candidate, array $best, Candidates $candidates): float
    {
        $on = 0.0;
        foreach ($best[$candidate->to] ?? [] as $next => $p) {
            if ($next !== $candidate->to && $next !== $candidate->from && isset($candidates->people[$next][Feature::PEOPLE])) {
                $on = max($on, $p - ($best[$next][$candidate->to] ?? 0.0));
            }
        }

        return $on;
    }

    /** @param list<Candidate> $candidates as they are before anybody looked at the whole */
    public static function forget(array $candidates): void
    {
        foreach ($candidates as $candidate) {
            unset(
                $candidate->features[Feature::BOTH_WAYS], $candidate->features[Feature::TWICE], $candidate->features[Feature::IMPLIED],
                $candidate->features[Feature::HABIT], $candidate->features[Feature::HUB], $candidate->features[Feature::LEADS_ON],
                $candidate->features[Feature::BARE], $candidate->features[Feature::PEOPLE_ON],
            );
        }
    }

    /**
     * @param array<string, list<Candidate>> $units
     *
     * @return array<int, array<int, list<array{list<string>, float, string, list<string>}>>> from → to → fields, confidence, role, fields of the key
     */
    private static function leads(array $units): array
    {
        $leads = [];
        foreach ($units as $found) {
            foreach ($found as $candidate) {
                if ($candidate->confidence > 0.4) {
                    $leads[$candidate->from][$candidate->to][] = [
                        $candidate->columns,
                        $candidate->confidence,
                        implode(' ', $candidate->match->role ?? []),
                        $candidate->key->columns,
                    ];
                }
            }
        }

        return $leads;
    }

    /**
     * Whether the wider join already leads to where the narrower one does, by the same fields.
     *
     * @param array<int, array<int, list<array{list<string>, float, string, list<string>}>>> $leads
     */
    private static function implies(Candidate $wide, Candidate $narrow, array $leads): bool
    {
        $there = [];
        foreach ($narrow->columns as $column) {
            $at = array_search($column, $wide->columns, true);
            if (false === $at) {
                return false;
            }
            $there[] = $wide->key->columns[$at];
        }

        return self::leadsOn($wide->to, $there, $narrow->to, $narrow->key->columns, $leads, 3);
    }

    /**
     * Whether fields of one table lead to those of another, over at most so many joins.
     *
     * @param list<string>                                                     $columns
     * @param list<string>                                                     $key
     * @param array<int, array<int, list<array{list<string>, float, string, list<string>}>>> $leads
     */
    private static function leadsOn(int $from, array $columns, int $to, array $key, array $leads, int $depth): bool
    {
        foreach ($leads[$from] ?? [] as $next => $joins) {
            foreach ($joins as [$near, , , $far]) {
                $at = array_map(static fn (string $column): int|false => array_search($column, $near, true), $columns);
                if (\in_array(false, $at, true)) {
                    continue;
                }
                $there = array_map(static fn (int|false $i): string => $far[(int) $i], $at);
                if ($next === $to && $there === $key || $depth > 1 && $next !== $from && self::leadsOn($next, $there, $to, $key, $leads, $depth - 1)) {
                    return true;
                }
            }
        }

        return false;
    }
}
