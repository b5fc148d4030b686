<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/**
 * A schema that is too large for one picture, as a map. What an entry takes up depends on how many fields it has and on nothing else, so that
 * the whole map is known before any field is read. Within a region, entries stand in columns in the order of their joins; regions stand where
 * springs between them would hold them, pushed apart until none covers another.
 */
final class RegionMap
{
    public const WIDTH = 200;
    public const HEAD = 34;
    /** What one field takes up when all are shown, and how many are shown at the most. */
    public const LINE = 10;
    public const MOST = 40;
    private const LEAST = 70;
    private const ACROSS = 70;
    private const DOWN = 36;
    private const PAD = 50;
    private const NAME = 70;
    private const APART = 160.0;
    private const ROUNDS = 80;

    /**
     * @param array<string, list<int>> $areas  key → entries
     * @param array<string, string>    $names  key → name
     * @param array<int, int>          $fields entry → how many fields it has
     * @param list<array{int, int}>    $pairs  entries that are joined
     *
     * @return array{regions: array<string, Region>, between: list<array{string, string, int}>} and how many joins lead from region to region
     *
     * @throws PlacingError
     */
    public static function of(array $areas, array $names, array $fields, array $pairs): array
    {
        $of = $inside = $count = [];
        foreach ($areas as $key => $entries) {
            $of += array_fill_keys($entries, $key);
        }
        foreach ($pairs as [$a, $b]) {
            if (!isset($of[$a], $of[$b])) {
                continue;
            }
            if ($of[$a] === $of[$b]) {
                $inside[$of[$a]][] = [$a, $b];
            } else {
                $pair = strcmp((string) $of[$a], (string) $of[$b]) < 0 ? [$of[$a], $of[$b]] : [$of[$b], $of[$a]];
                $count[$pair[0]][$pair[1]] = ($count[$pair[0]][$pair[1]] ?? 0) + 1;
            }
        }
        $regions = $between = [];
        foreach ($areas as $key => $entries) {
            $regions[$key] = self::region((string) $key, $names[$key] ?? (string) $key, $entries, $fields, $inside[$key] ?? []);
        }
        foreach ($count as $from => $to) {
            foreach ($to as $other => $joins) {
                $between[] = [(string) $from, (string) $other, $joins];
            }
        }

        return ['regions' => self::placed($regions, $between), 'between' => $between];
    }

    /** How high an entry stands. */
    public static function height(int $fields): int
    {
        return (int) (ceil(max(self::LEAST, self::HEAD + self::LINE * min($fields, self::MOST) + 14) / 10) * 10);
    }

    /**
     * @param list<int>             $entries
     * @param array<int, int>       $fields
     * @param list<array{int, int}> $pairs
     */
    private static function region(string $key, string $name, array $entries, array $fields, array $pairs): Region
    {
        $near = array_fill_keys($entries, []);
        foreach ($pairs as [$a, $b]) {
            $near[$a][] = $b;
            $near[$b][] = $a;
        }
        $total = 0;
        foreach ($entries as $entry) {
            $total += self::height($fields[$entry] ?? 0) + self::DOWN;
        }
        $columns = max(1, (int) round(sqrt(1.3 * $total / (self::WIDTH + self::ACROSS))));
        $most = $total / $columns;
        $tablets = [];
        $x = self::PAD;
        $y = self::NAME;
        $bottom = 0;
        foreach (self::ordered($entries, $near) as $entry) {
            $height = self::height($fields[$entry] ?? 0);
            if ($y > self::NAME && $y - self::NAME + $height / 2 > $most) {
                $x = $x + self::WIDTH + self::ACROSS;
                $y = self::NAME;
            }
            $tablets[$entry] = new Rect($x, $y, self::WIDTH, $height);
            $y += $height + self::DOWN;
            $bottom = max($bottom, $y);
        }

        return new Region($key, $name, new Rect(0, 0, $x + self::WIDTH + self::PAD, $bottom - self::DOWN + self::PAD), $tablets);
    }

    /**
     * Breadth first from whatever joins most, so that what is joined comes to stand in the same column or the next.
     *
     * @param list<int>             $entries
     * @param array<int, list<int>> $near
     *
     * @return list<int>
     */
    private static function ordered(array $entries, array $near): array
    {
        $seen = $order = [];
        $starts = $entries;
        usort($starts, static fn (int $a, int $b): int => [\count($near[$b]), $a] <=> [\count($near[$a]), $b]);
        foreach ($starts as $start) {
            $queue = isset($seen[$start]) ? [] : [$start];
            $seen[$start] = true;
            for ($i = 0; $i < \count($queue); ++$i) {
                $order[] = $queue[$i];
                foreach ($near[$queue[$i]] as $other) {
                    if (!isset($seen[$other])) {
                        $seen[$other] = true;
                        $queue[] = $other;
                    }
                }
            }
        }

        return $order;
    }

    /**
     * @param array<string, Region>             $regions
     * @param list<array{string, string, int}>  $between
     *
     * @return array<string, Region>
     */
    private static function placed(array $regions, array $between): array
    {
        $keys = array_map(strval(...), array_keys($regions));
        if ([] === $keys) {
            return [];
        }
        $number = array_flip($keys);
        $edges = array_map(static fn (array $pair): array => [$number[$pair[0]], $number[$pair[1]]], $between);
        $places = \count($keys) > 2 && [] !== $edges ? Graphviz::place(\count($keys), $edges) : array_map(
            static fn (int $i): array => [(float) $i, 0.0],
            range(0, \count($keys) - 1),
        );
        $joined = [];
        foreach ($edges as [$a, $b]) {
            $joined[$a] = $joined[$b] = true;
        }
        $boxes = self::scaled(array_values($regions), $places, $joined);
        $x = min(array_map(static fn (Rect $rect): float => $rect->x, $boxes));
        $y = min(array_map(static fn (Rect $rect): float => $rect->y, $boxes));
        $moved = [];
        foreach ($keys as $i => $key) {
            $moved[$key] = $regions[$key]->moved(round($boxes[$i]->x - $x), round($boxes[$i]->y - $y));
        }

        return $moved;
    }

    /**
     * Springs' places in the measure of the regions, then pushed apart by half of what they overlap, along the shorter way. What nothing joins
     * stands below all else.
     *
     * @param list<Region>              $regions
     * @param list<array{float, float}> $places
     * @param array<int, true>          $joined
     *
     * @return non-empty-list<Rect>
     */
    private static function scaled(array $regions, array $places, array $joined): array
    {
        $area = 0.0;
        $x = $y = [];
        foreach ($regions as $i => $region) {
            $area += ($region->box->width + self::APART) * ($region->box->height + self::APART);
            [$x[], $y[]] = $places[$i];
        }
        if ([] === $x || [] === $y) {
            throw new \LogicException('A map has a region.');
        }
        $left = min($x);
        $top = min($y);
        $across = max(0.1, max($x) - $left);
        $down = max(0.1, max($y) - $top);
        $side = sqrt($area * 1.15);
        $middle = [[], []];
        foreach ($regions as $i => $region) {
            $middle[0][$i] = ($x[$i] - $left) / $across * $side * 1.25 + $region->box->width / 2;
            $middle[1][$i] = ($y[$i] - $top) / $down * $side * 0.8 + (isset($joined[$i]) || [] === $joined ? 0 : $side) + $region->box->height / 2;
        }
        self::pushApart($regions, $middle);
        $settled = [];
        foreach ($regions as $i => $region) {
            $box = $region->box;
            $rect = new Rect($middle[0][$i] - $box->width / 2, $middle[1][$i] - $box->height / 2, $box->width, $box->height);
            $settled[] = [] === array_filter($settled, static fn (Rect $other): bool => $other->meets($rect)) ? $rect : Apart::beside($rect, $settled);
        }

        return $settled;
    }

    /**
     * @param list<Region>                                   $regions
     * @param array{array<int, float>, array<int, float>}    $middle  x and y of each
     */
    private static function pushApart(array $regions, array &$middle): void
    {
        $n = \count($regions);
        for ($round = 0, $met = true; $met && $round < self::ROUNDS; ++$round) {
            $met = false;
            for ($i = 0; $i < $n; ++$i) {
                for ($j = $i + 1; $j < $n; ++$j) {
                    $a = $regions[$i]->box;
                    $b = $regions[$j]->box;
                    $dx = ($a->width + $b->width) / 2 + self::APART - abs($middle[0][$i] - $middle[0][$j]);
                    $dy = ($a->height + $b->height) / 2 + self::APART - abs($middle[1][$i] - $middle[1][$j]);
                    if ($dx > 0.5 && $dy > 0.5) {
                        $met = true;
                        $axis = $dx < $dy ? 0 : 1;
                        $by = min($dx, $dy) / 2 * ($middle[$axis][$i] <= $middle[$axis][$j] ? 1 : -1);
                        $middle[$axis][$i] -= $by;
                        $middle[$axis][$j] += $by;
                    }
                }
            }
        }
    }
}
