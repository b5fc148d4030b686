<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Join\Candidate;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\Feature;
use Fasti\Core\Join\NameMatch;
use Fasti\Core\Join\Whole;

/** Fits the weights of Chooser to schemas whose joins are known: the greatest likelihood, held back by the square of the weights. */
final class Fit
{
    private const ROUNDS = 250;
    private const STEP = 0.08;
    private const HELD_BACK = 0.0003;
    /** Of what made schemas have too many odd cases: many kinds of people, of whom any may have done anything. */
    private const KEPT = [
        Feature::DOER,
        Feature::PEOPLE,
        Feature::USERS,
        Feature::MANY_PEOPLE,
        Feature::OWN_FIRST,
        Feature::SELF,
        Feature::OWN_NAMED,
        Feature::HUB,
        Feature::KEY_UNIQUE,
        Feature::KEY_OTHER,
        Feature::TYPE_LOOSE,
        Feature::PLAIN_ROOT,
        Feature::COMPOSED,
        Feature::COMPOSED_KEY,
        Feature::SAME_ROOT,
        Feature::TYPE_SIZE,
        Feature::PEOPLE_ON,
    ];
    /** Of which declared keys say nothing: engines refuse numbers of another width, and what lies in one schema refers to no other. */
    private const FIXED = [Feature::TYPE_WIDTH, Feature::COMMENT, Feature::OTHER_SCHEMA];
    /** Code tables are few in made schemas. */
    private const KEPT_OF_DATA = [Feature::SAME_SET];
    /** What seldom or never stands in made schemas keeps these weights. */
    public const BEFOREHAND = [
        Feature::TYPE_NAMES => 8.0, Feature::VIEW => 5.5, Feature::ROUTINE => 4.5, Feature::QUERY => 5.0, Feature::COMMENT => 3.0,
        Feature::KEY_ELSEWHERE => -1.0,
        Feature::COPY => -1.5, Feature::KEY_UNIQUE => -0.5, Feature::SAME_KEY => -2.5, Feature::HUB => 0.2, Feature::SIBLING => -2.0,
        Feature::SELF => -6.0, Feature::OWN_NAMED => -5.0, Feature::HOW.NameMatch::SORT => 2.5, Feature::SAME_MODULE => 1.5, Feature::COVERS => -1.5,
        Feature::COVERED => -1.0, Feature::OTHER_SCHEMA => -0.3, Feature::TIME => -2.5,
        Feature::LONG_TEXT => -1.0, Feature::MEMBERS => -3.0, Feature::COMPUTED => -1.0, Feature::NUMBER => -0.5, Feature::BOTH_WAYS => -2.0,
        Feature::OWN_UNIQUE => -0.3,
        Feature::KEY_LIKELY => -0.3, Feature::LIST => 0.3, Feature::HOW.NameMatch::INITIALS => 1.0, Feature::HOW.NameMatch::ALIAS => 2.0,
        Feature::HOW.NameMatch::ALIAS_INSIDE => 1.0, Feature::KEY_STRIPPED => 1.0, Feature::HOW.NameMatch::SYNONYM => 1.5,
        Feature::HOW.NameMatch::TOLD => 0.5, Feature::PEOPLE => 1.8, Feature::USERS => 1.2, Feature::MANY_PEOPLE => -1.0, Feature::TYPE_WIDTH => -0.4, Feature::TYPE_SIZE => -1.0, Feature::PEOPLE_ON => -1.0,
        Feature::SELF_NAMED => 1.0, Feature::COMPOSED_KEY => 1.0, Feature::SAME_ROOT => 1.5, Feature::LOOKUP => 2.0,
        Feature::SAME_SHAPE => -4.0, Feature::SAME_SET => 3.0, Feature::OWN_FIRST => 3.0, Feature::DOER => 1.8, Feature::SPECIAL => 2.5,
        Feature::ATTRIBUTE => -2.0, Feature::PLAIN_PART => -3.0,
        Feature::FOUND_ALL => 0.5, Feature::FOUND_NEARLY => 0.0, Feature::FOUND_MOST => -1.5, Feature::FOUND_SOME => -3.0, Feature::FOUND_NONE => -6.0,
        Feature::SPREAD => 1.0,
        Feature::SAME_ROLE => 2.0, Feature::TYPE_LOOSE => -4.0, Feature::KEY_OTHER => -2.0, Feature::LESS_NAMED => -3.0, Feature::TABLE_KEY => 3.0, Feature::ROOT => 1.0, Feature::NOT_ROOT => -2.0, Feature::SUBKEY => 2.0, Feature::PLAIN_ROOT => 3.2, Feature::KEY_BEGINS => 3.0,
        Feature::KEY_AROUND => 3.5, Feature::COMPOSED => 3.5, Feature::COMPOSED_END => 2.0, Feature::SHARED => 1.5, Feature::FLAG => -3.0, Feature::AMOUNT => -3.0,
        Feature::PLURAL => -1.5, Feature::LEADS_ON => -1.5, Feature::LINK => -1.5, Feature::LOOSE_PART => -2.0, Feature::SAME_END => 0.5,
        Feature::SMALL => -1.0, Feature::TELLING => 2.0, Feature::USED => 1.0, Feature::UNNAMED => -3.0,
    ];

    /**
     * The pairs of a join in one form.
     *
     * @param list<string> $columns
     * @param list<string> $key
     */
    public static function join(string $from, array $columns, string $to, array $key): string
    {
        $pairs = array_map(static fn (string $near, string $far): string => $near.'='.$far, $columns, $key);
        sort($pairs);

        return $from.'>'.$to.':'.implode(',', $pairs);
    }

    /** @return array<string, true> the joins that a catalog declares */
    public static function truth(Catalog $catalog): array
    {
        $truth = [];
        foreach ($catalog->tables as $table) {
            foreach ($table->foreignKeys as $key) {
                $truth[self::join($table->place()->key(), $key->columns, $key->references->place()->key(), $key->references->columns)] = true;
            }
        }

        return $truth;
    }

    public static function joinOf(Candidate $candidate, Known $known): string
    {
        return self::join(
            $known->candidates->tables[$candidate->from]->place()->key(),
            $candidate->columns,
            $candidate->key->table->place()->key(),
            $candidate->key->columns,
        );
    }

    /**
     * @param list<Known>          $schemas
     * @param array<string, float> $start
     *
     * @return array<string, float>
     */
    public static function weights(array $schemas, array $start = [], int $passes = 3, bool $data = false, ?Chooser $withoutData = null): array
    {
        $weights = $start;
        for ($pass = 0; $pass < $passes; ++$pass) {
            $chooser = new Chooser($weights + self::BEFOREHAND, $withoutData);
            foreach ($schemas as $known) {
                Whole::weigh($known->units, $known->candidates, $chooser);
            }
            $weights = self::fitted($schemas, $weights, $data);
        }

        return $weights;
    }

    /**
     * @param list<Known>          $schemas
     * @param array<string, float> $weights
     *
     * @return array<string, float>
     */
    private static function fitted(array $schemas, array $weights, bool $data): array
    {
        [$names, $units] = self::units($schemas, $data);
        $kept = $before = $w = $m = $v = array_fill(0, \count($names), 0.0);
        foreach ($names as $feature => $i) {
            $w[$i] = $weights[$feature] ?? self::BEFOREHAND[$feature] ?? 0.0;
            $before[$i] = self::BEFOREHAND[$feature] ?? 0.0;
            $kept[$i] = match (true) {
                \in_array($feature, self::FIXED, true) => 2000,
                \in_array($feature, $data ? self::KEPT_OF_DATA : self::KEPT, true) => 25,
                isset(self::BEFOREHAND[$feature]) => 4,
                default => 1,
            };
        }
        $total = array_sum(array_column($units, 1));
        for ($round = 1; $round <= self::ROUNDS; ++$round) {
            $slope = [];
            foreach ($w as $i => $weight) {
                $slope[$i] = self::HELD_BACK * $kept[$i] * ($weight - $before[$i]);
            }
            foreach ($units as [$unit, $times]) {
                self::slope($slope, $unit, $times / $total, $w);
            }
            $step = self::STEP * ($round < 0.7 * self::ROUNDS ? 1.0 : 0.3);
            foreach ($w as $i => $weight) {
                $m[$i] = 0.9 * $m[$i] + 0.1 * $slope[$i];
                $v[$i] = 0.99 * $v[$i] + 0.01 * $slope[$i] ** 2;
                $w[$i] = $weight - $step * ($m[$i] / (1 - 0.9 ** $round)) / (sqrt($v[$i] / (1 - 0.99 ** $round)) + 1e-6);
            }
        }

        return array_map(static fn (int $i): float => round($w[$i], 3), $names) + self::BEFOREHAND;
    }

    /**
     * @param list<Known> $schemas
     *
     * @return array{array<string, int>, array<string, array{list<array{array<int, float>, bool}>, float}>} numbers of the features; fields with their
     *     choices, and how often each was seen
     */
    private static function units(array $schemas, bool $data): array
    {
        $names = $units = [];
        foreach ($schemas as $known) {
            foreach ($known->units as $found) {
                if ($data && [] === array_filter($found, static fn (Candidate $one): bool => null !== $one->data)) {
                    continue;
                }
                $unit = [];
                foreach ($found as $candidate) {
                    if (($candidate->features[Feature::IMPLIED] ?? 0.0) > 0.4) {
                        continue;
                    }
                    $true = isset($known->truth[self::joinOf($candidate, $known)]);
                    if ($known->declared && !$true && ($candidate->has(Feature::TYPE_WIDTH) || $candidate->has(Feature::OTHER_SCHEMA))) {
                        continue;
                    }
                    $row = [];
                    foreach ($candidate->features as $feature => $value) {
                        $row[$names[$feature] ??= \count($names)] = $value;
                    }
                    $unit[] = [$row, $true];
                }
                if ([] === $unit) {
                    continue;
                }
                // The same field with the same choices is one that was seen more than once.
                $same = serialize($unit);
                $units[$same] = [$unit, ($units[$same][1] ?? 0.0) + $known->weight];
            }
        }

        return [$names, $units];
    }

    /**
     * @param array<int, float>                     $slope
     * @param list<array{array<int, float>, bool}>  $unit
     * @param array<int, float>                     $w
     */
    private static function slope(array &$slope, array $unit, float $share, array $w): void
    {
        $worths = $right = [];
        $most = 0.0;
        foreach ($unit as $k => [$row, $true]) {
            $worth = 0.0;
            foreach ($row as $i => $value) {
                $worth += $w[$i] * $value;
            }
            $worths[$k] = $worth;
            $most = max($most, $worth);
            if ($true) {
                $right[$k] = true;
            }
        }
        $sum = $of = 0.0;
        foreach ($worths as $k => $worth) {
            $worths[$k] = $e = exp($worth - $most);
            $sum += $e;
            $of += isset($right[$k]) ? $e : 0.0;
        }
        $sum += exp(-$most);
        foreach ($unit as $k => [$row]) {
            $off = $worths[$k] / $sum - (isset($right[$k]) ? $worths[$k] / $of : 0.0);
            if (abs($off) > 1e-4) {
                foreach ($row as $i => $value) {
                    $slope[$i] += $share * $off * $value;
                }
            }
        }
    }

    /** @return array{f1: float, right: int, said: int, true: int, wrong: list<string>, missed: list<string>, cells: array<int, array{int, int}>} */
    public static function measure(Known $known, Chooser $chooser): array
    {
        Whole::weigh($known->units, $known->candidates, $chooser);
        $right = $said = 0;
        $cells = [];
        $wrong = [];
        $missed = $known->truth;
        foreach ($known->units as $unit) {
            foreach ($unit as $candidate) {
                $join = self::joinOf($candidate, $known);
                $true = isset($known->truth[$join]);
                $cell = min(9, (int) floor(10 * $candidate->confidence));
                $cells[$cell] = [($cells[$cell][0] ?? 0) + 1, ($cells[$cell][1] ?? 0) + ($true ? 1 : 0)];
                if ($candidate->confidence >= 0.5) {
                    ++$said;
                    if ($true) {
                        ++$right;
                        unset($missed[$join]);
                    } else {
                        $wrong[] = round($candidate->confidence, 2).' '.str_replace("\0", '.', $join);
                    }
                }
            }
        }
        $true = \count($known->truth);

        return [
            'f1' => $said + $true > 0 ? 2 * $right / ($said + $true) : 1.0, 'right' => $right, 'said' => $said, 'true' => $true, 'wrong' => $wrong,
            'missed' => array_map(static fn (int|string $join): string => str_replace("\0", '.', (string) $join), array_keys($missed)), 'cells' => $cells,
        ];
    }
}
