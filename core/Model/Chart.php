<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;

/**
 * A picture of an answer where that shows more than its rows: bars for what is told apart by names, lines for what runs along time. One
 * measure, split by one attribute, or by two of which one has few values. Series differ by shade and dash, and say their names.
 */
final readonly class Chart
{
    private const WIDTH = 720;
    private const HEIGHT = 260;
    private const LEFT = 64;
    private const BOTTOM = 44;
    private const TOP = 14;
    private const MOST = 60;
    private const MOST_SERIES = 4;

    /** @return string SVG; '' where a picture would show nothing more */
    public static function of(Answer $answer): string
    {
        $columns = $answer->plan->columns;
        $by = array_keys(array_filter($columns, static fn (PlanColumn $column): bool => null !== $column->level));
        $figures = array_keys(array_filter($columns, static fn (PlanColumn $column): bool => null !== $column->measure && $column->family->isNumeric()));
        if ([] === $figures || [] === $by || \count($by) > 2 || \count($answer->rows) < 2 || $answer->cut) {
            return '';
        }
        [$along, $series] = self::axes($answer, $by);
        if (null === $along) {
            return '';
        }
        $points = $names = [];
        foreach ($answer->rows as $row) {
            $x = $row[$along] ?? 'none';
            $name = null === $series ? $columns[$figures[0]]->name : ($columns[$series]->labels?->told($row[$series]) ?? $row[$series] ?? 'none');
            $names[$name] = true;
            $value = $row[$figures[0]];
            $points[$x][$name] = null === $value || !is_numeric($value) ? null : (float) $value;
        }
        $names = array_map(strval(...), array_keys($names));
        if ([] === $names || \count($points) < 2 || \count($points) > self::MOST || \count($names) > self::MOST_SERIES) {
            return '';
        }
        $time = self::isTime($columns[$along]);
        if ($time) {
            ksort($points, \SORT_NATURAL);
        }
        $labels = $columns[$along]->labels;
        $points = null === $labels ? $points : array_combine(
            array_map(static fn (int|string $x): string => $labels->told((string) $x) ?? (string) $x, array_keys($points)),
            $points,
        );

        return self::drawn($points, $names, $time, $columns[$figures[0]]);
    }

    /**
     * What runs along the foot, and what makes the series: time and many values along, few values as series.
     *
     * @param list<int> $by
     *
     * @return array{?int, ?int}
     */
    private static function axes(Answer $answer, array $by): array
    {
        if (1 === \count($by)) {
            return [$by[0], null];
        }
        $different = static fn (int $i): int => \count(array_unique(array_map(static fn (array $row): string => $row[$i] ?? "\0", $answer->rows)));
        [$a, $b] = $by;
        $columns = $answer->plan->columns;
        $first = self::isTime($columns[$a]) !== self::isTime($columns[$b]) ? self::isTime($columns[$a]) : $different($a) >= $different($b);
        [$along, $series] = $first ? [$a, $b] : [$b, $a];

        return $different($series) > self::MOST_SERIES ? [null, null] : [$along, $series];
    }

    private static function isTime(PlanColumn $column): bool
    {
        return TypeFamily::Time === $column->family
            || (TypeFamily::Whole === $column->family && 1 === preg_match('/\b(?:year|month|quarter|week|day|hour)\b/i', $column->name));
    }

    /**
     * @param array<array-key, array<string, ?float>> $points
     * @param non-empty-list<string>                  $names
     */
    private static function drawn(array $points, array $names, bool $time, PlanColumn $figure): string
    {
        $all = array_filter(array_merge(...array_map(array_values(...), array_values($points))), static fn (?float $value): bool => null !== $value);
        if ([] === $all) {
            return '';
        }
        [$low, $high, $step] = self::scale(min(0.0, ...$all), max(0.0, ...$all));
        $top = self::TOP + 18;
        $y = static fn (float $value): float => round($top + (self::HEIGHT - self::BOTTOM - $top) * ($high - $value) / ($high - $low), 1);
        $svg = self::grid($low, $high, $step, $y);
        $wide = (self::WIDTH - 12 - self::LEFT) / \count($points);
        $every = max(1, (int) ceil(self::widest($points) / max(1, $wide - 6)));
        $lines = array_fill_keys($names, []);
        foreach (array_keys($points) as $i => $x) {
            $middle = self::LEFT + $wide * ($i + 0.5);
            if (0 === $i % $every) {
                $svg .= \sprintf(
                    '<text class="scale" x="%.1f" y="%d" text-anchor="middle">%s</text>',
                    $middle,
                    self::HEIGHT - self::BOTTOM + 18,
                    self::text(self::short((string) $x)),
                );
            }
            foreach ($names as $k => $name) {
                $value = $points[$x][$name] ?? null;
                if (null === $value) {
                    $lines[$name][] = null;
                } elseif ($time) {
                    $lines[$name][] = [round($middle, 1), $y($value)];
                } else {
                    $bar = $wide * 0.72 / \count($names);
                    $svg .= \sprintf(
                        '<rect class="series-%d" x="%.1f" y="%s" width="%.1f" height="%s"><title>%s: %s</title></rect>',
                        $k,
                        $middle - $wide * 0.36 + $bar * $k,
                        min($y($value), $y(0)),
                        max(1, $bar - 1),
                        max(0.5, abs($y($value) - $y(0))),
                        self::text((string) $x),
                        self::text(self::exact($value)),
                    );
                }
            }
        }
        foreach ($time ? $lines : [] as $name => $places) {
            $svg .= self::line($places, (int) array_search($name, $names, true));
        }

        return \sprintf(
            '<svg class="chart" viewBox="0 0 %d %d" role="img" aria-label="%s"><text class="scale" x="%d" y="%d">%s</text>%s%s</svg>',
            self::WIDTH,
            self::HEIGHT,
            self::text($figure->name),
            4,
            self::TOP,
            self::text($figure->name.('' === $figure->unit ? '' : ', '.$figure->unit)),
            \count($names) > 1 ? self::legend($names, $time) : '',
            $svg,
        );
    }

    /** @param \Closure(float): float $y */
    private static function grid(float $low, float $high, float $step, \Closure $y): string
    {
        $svg = '';
        for ($value = $low; $value <= $high + $step / 2; $value += $step) {
            $svg .= \sprintf(
                '<line class="grid" x1="%d" x2="%d" y1="%s" y2="%s"/><text class="scale" x="%d" y="%s" text-anchor="end">%s</text>',
                self::LEFT,
                self::WIDTH - 12,
                $y($value),
                $y($value),
                self::LEFT - 8,
                $y($value) + 4,
                self::said($value, $step),
            );
        }

        return $svg;
    }

    /** @param list<array{float, float}|null> $places */
    private static function line(array $places, int $k): string
    {
        $path = '';
        $dots = '';
        $pen = 'M';
        foreach ($places as $place) {
            if (null === $place) {
                $pen = 'M';
                continue;
            }
            $path .= "$pen$place[0] $place[1]";
            $dots .= \sprintf('<circle class="series-%d" cx="%s" cy="%s" r="2.5"/>', $k, $place[0], $place[1]);
            $pen = 'L';
        }

        return '' === $path ? '' : \sprintf('<path class="line-%d" d="%s"/>%s', $k, $path, $dots);
    }

    /** @param list<string> $names */
    private static function legend(array $names, bool $time): string
    {
        $svg = '';
        $x = self::WIDTH - 12;
        foreach (array_reverse($names, true) as $k => $name) {
            $text = self::short($name);
            $x -= 12 + 7 * mb_strlen($text);
            $svg .= \sprintf('<text class="scale" x="%d" y="%d">%s</text>', $x, self::TOP, self::text($text));
            $x -= 22;
            $svg .= $time ? \sprintf('<path class="line-%d" d="M%d %dh16"/>', $k, $x, self::TOP - 4) : \sprintf(
                '<rect class="series-%d" x="%d" y="%d" width="12" height="10"/>',
                $k,
                $x + 4,
                self::TOP - 9,
            );
        }

        return $svg;
    }

    /** @param array<array-key, mixed> $points */
    private static function widest(array $points): float
    {
        return (float) max([0, ...array_map(static fn (int|string $x): int => 7 * mb_strlen(self::short((string) $x)), array_keys($points))]);
    }

    private static function short(string $text): string
    {
        return mb_strlen($text) > 14 ? mb_substr($text, 0, 13).'…' : $text;
    }

    /** @return array{float, float, float} from, to and step of a scale with round figures */
    private static function scale(float $low, float $high): array
    {
        $span = max($high - $low, 1e-9);
        $raw = $span / 4;
        $power = 10 ** floor(log10($raw));
        $step = $power * (match (true) {
            $raw / $power <= 1 => 1,
            $raw / $power <= 2 => 2,
            $raw / $power <= 5 => 5,
            default => 10,
        });

        return [floor($low / $step) * $step, ceil($high / $step) * $step, $step];
    }

    private static function said(float $value, float $step): string
    {
        return number_format($value, $step >= 1 || 0.0 === $step ? 0 : min(6, (int) ceil(-log10($step))));
    }

    /** With up to four decimals, as many as it has. */
    private static function exact(float $value): string
    {
        return str_contains($said = number_format($value, 4), '.') ? rtrim(rtrim($said, '0'), '.') : $said;
    }

    private static function text(string $text): string
    {
        return htmlspecialchars($text, \ENT_QUOTES | \ENT_XML1);
    }
}
