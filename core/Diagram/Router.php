<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * Leads joins orthogonally through a diagram whose shapes stand in columns.
 *
 * A line leaves a shape sideways at the row of its field, runs up or down only in the gutters between columns, and
 * passes a column only through the gaps between its shapes. Gutters and gaps are made as wide as what runs through
 * them, so no line can cross a shape. No two lines can lie on one another either: in a gutter each has a track of its
 * own, and the heights used at the left of a gutter are ≡ 0 and those at its right ≡ 5 (mod 10), or the other way round.
 *
 * @internal
 */
final class Router
{
    public const MARK = 26;
    public const LABEL_SIZE = 12.0;
    private const GRID = 10;
    private const GAP = 40;
    private const SETTLE = 6;

    /** @var list<Wire> */
    private array $wires = [];
    /** @var array<int, array<int, list<int>>> column → gap → wires */
    private array $through = [];
    public int $crossings = 0;

    /**
     * @param list<TabletShape>                  $shapes
     * @param list<array{Line, int, int}>  $lines   with the shapes at which the reference is held and to which it leads
     * @param list<list<int>>              $columns
     */
    private function __construct(private array $shapes, array $lines, private array $columns)
    {
        foreach ($columns as $c => $column) {
            foreach ($column as $s) {
                $shapes[$s]->column = $c;
            }
        }
        $load = array_fill(0, \count($columns) + 1, 0);
        foreach ($lines as [$line, $from, $to]) {
            $a = $shapes[$from]->column;
            $b = $shapes[$to]->column;
            $flipped = $a > $b;
            $wire = new Wire($line, $flipped ? $to : $from, $flipped ? $from : $to, $flipped, $a === $b);
            $rows = [$shapes[$from]->rowOf($line->fromRow), $shapes[$to]->rowOf($line->toRow)];
            $wire->rows = $flipped ? [$rows[1], $rows[0]] : $rows;
            if ($a === $b) {
                $side = $load[$a + 1] <= $load[$a] ? 1 : 0;
                $wire->sides = [$side, $side];
                $load[$a + $side] += 2;
            } else {
                ++$load[min($a, $b) + 1];
                ++$load[max($a, $b)];
            }
            $this->wires[] = $wire;
        }
    }

    /**
     * @param list<TabletShape>                 $shapes
     * @param list<array{Line, int, int}> $lines
     * @param list<list<int>>             $columns
     */
    public static function route(array $shapes, array $lines, array $columns): Block
    {
        $router = new self($shapes, $lines, $columns);
        $router->growRows();
        $router->settle(self::SETTLE, null);
        $router->chooseGaps();
        $router->settle(2, $router->gapHeights());
        $router->snap($router->gapHeights());
        $router->ports();
        $router->passes();
        $router->straighten();

        return $router->draw();
    }

    private function growRows(): void
    {
        $needed = $counts = [];
        foreach ($this->wires as $wire) {
            foreach ([0, 1] as $end) {
                $s = $wire->shapes[$end];
                $row = $wire->rows[$end];
                $side = $wire->sides[$end];
                $counts[$s][$row][$side] = ($counts[$s][$row][$side] ?? 0) + 1;
                // Whichever comes first needs no room above it; which that is turns out only when ports are handed out.
                $needed[$s][$row][$side] = ($needed[$s][$row][$side] ?? 0) + $this->slot($wire, $end);
            }
        }
        foreach ($counts as $s => $rows) {
            foreach ($rows as $row => $sides) {
                foreach ($sides as $side => $count) {
                    $needed[$s][$row][$side] = 1 === $count ? self::GRID : $needed[$s][$row][$side];
                }
            }
        }
        foreach ($this->shapes as $s => $shape) {
            $shape->grow($needed[$s] ?? []);
        }
    }

    private function slot(Wire $wire, int $end): int
    {
        return '' !== $wire->line->verb && $wire->holder() === $end ? 2 * self::GRID : self::GRID;
    }

    /**
     * Moves the shapes of each column so that joined rows come to stand opposite each other, without changing their order.
     *
     * @param array<int, array<int, int>>|null $gaps column → gap → height
     */
    private function settle(int $rounds, ?array $gaps): void
    {
        $spans = [];
        foreach ($this->columns as $c => $column) {
            $at = 0;
            foreach ($column as $i => $s) {
                $at += 0 === $i ? 0 : ($gaps[$c][$i] ?? self::GAP);
                if (null === $gaps) {
                    $this->shapes[$s]->y = $at;
                }
                $at += $this->shapes[$s]->height;
            }
            $spans[$c] = $at;
        }
        $most = max([0, ...$spans]);
        if (null === $gaps) {
            foreach ($this->columns as $c => $column) {
                foreach ($column as $s) {
                    $this->shapes[$s]->y += intdiv($most - $spans[$c], 2);
                }
            }
        }
        $ends = [];
        foreach ($this->wires as $wire) {
            [$a, $b] = $wire->shapes;
            if ($a !== $b) {
                $ends[$a][] = [$this->middle($a, $wire->rows[0]), $b, $this->middle($b, $wire->rows[1])];
                $ends[$b][] = [$this->middle($b, $wire->rows[1]), $a, $this->middle($a, $wire->rows[0])];
            }
        }
        for ($round = 0; $round < $rounds; ++$round) {
            foreach (0 === $round % 2 ? $this->columns : array_reverse($this->columns, true) as $c => $column) {
                $wished = $distance = [];
                foreach ($column as $i => $s) {
                    $sum = 0;
                    foreach ($ends[$s] ?? [] as [$own, $other, $far]) {
                        $sum += $this->shapes[$other]->y + $far - $own;
                    }
                    $wished[] = isset($ends[$s]) ? $sum / \count($ends[$s]) : $this->shapes[$s]->y;
                    $distance[] = $this->shapes[$s]->height + ($gaps[$c][$i + 1] ?? self::GAP);
                }
                $last = $column[\count($column) - 1];
                foreach (Isotonic::tops($wished, $distance, 0, $most - $this->shapes[$last]->height) as $i => $top) {
                    $this->shapes[$column[$i]]->y = (int) round($top);
                }
            }
        }
    }

    private function middle(int $shape, int $row): int
    {
        return $this->shapes[$shape]->rowTops[$row] + intdiv($this->shapes[$shape]->rowHeights[$row], 2);
    }

    /** For each line that passes columns: the gap of each that costs the smallest detour. */
    private function chooseGaps(): void
    {
        $this->through = [];
        foreach ($this->wires as $w => $wire) {
            $wire->gaps = [];
            if ($wire->loops) {
                continue;
            }
            [$a, $b] = $wire->shapes;
            $at = $this->shapes[$a]->y + $this->middle($a, $wire->rows[0]);
            $goal = $this->shapes[$b]->y + $this->middle($b, $wire->rows[1]);
            for ($c = $this->shapes[$a]->column + 1, $end = $this->shapes[$b]->column; $c < $end; ++$c) {
                $best = 0;
                $bestCost = \INF;
                $bestY = 0;
                $column = $this->columns[$c];
                for ($i = 0, $n = \count($column); $i <= $n; ++$i) {
                    $above = 0 === $i ? $this->shapes[$column[0]]->y - self::GAP : $this->shapes[$column[$i - 1]]->y + $this->shapes[$column[$i - 1]]->height;
                    $below = $i === $n ? $above + self::GAP : $this->shapes[$column[$i]]->y;
                    $y = intdiv($above + $below, 2);
                    $cost = abs($y - $at) + abs($y - $goal) + 4 * \count($this->through[$c][$i] ?? []) + (0 === $i || $i === $n ? 10 : 0);
                    if ($cost < $bestCost) {
                        $best = $i;
                        $bestCost = $cost;
                        $bestY = $y;
                    }
                }
                $wire->gaps[$c] = $best;
                $this->through[$c][$best][] = $w;
                $at = $bestY;
            }
        }
    }

    /** @return array<int, array<int, int>> */
    private function gapHeights(): array
    {
        $heights = [];
        foreach ($this->through as $c => $gaps) {
            foreach ($gaps as $i => $wires) {
                $heights[$c][$i] = max(self::GAP, self::GRID * (\count($wires) + 2));
            }
        }

        return $heights;
    }

    /** @param array<int, array<int, int>> $gaps */
    private function snap(array $gaps): void
    {
        foreach ($this->columns as $c => $column) {
            $odd = 1 === $c % 2 ? 5 : 0;
            $bottom = null;
            foreach ($column as $i => $s) {
                $y = (int) round(($this->shapes[$s]->y - $odd) / self::GRID) * self::GRID + $odd;
                if (null !== $bottom) {
                    $y = max($y, $bottom + ($gaps[$c][$i] ?? self::GAP));
                }
                $this->shapes[$s]->y = $y;
                $bottom = $y + $this->shapes[$s]->height;
            }
        }
    }

    /** Hands out the places at which lines leave a row, in the order of where they go. */
    private function ports(): void
    {
        $at = [];
        foreach ($this->wires as $w => $wire) {
            foreach ([0, 1] as $end) {
                $at[$wire->shapes[$end]][$wire->rows[$end]][$wire->sides[$end]][] = [$w, $end, $this->heading($wire, $end)];
            }
        }
        foreach ($at as $s => $rows) {
            foreach ($rows as $row => $sides) {
                foreach ($sides as $ends) {
                    usort($ends, static fn (array $a, array $b): int => [$a[2], $a[0], $a[1]] <=> [$b[2], $b[0], $b[1]]);
                    $height = 0;
                    foreach ($ends as $i => [$w, $end]) {
                        $height += 0 === $i ? self::GRID : $this->slot($this->wires[$w], $end);
                    }
                    $spare = $this->shapes[$s]->rowHeights[$row] - self::GRID - $height;
                    $y = $this->shapes[$s]->y + $this->shapes[$s]->rowTops[$row] + (int) (floor($spare / 2 / self::GRID) * self::GRID);
                    foreach ($ends as $i => [$w, $end]) {
                        $y += 0 === $i ? self::GRID : $this->slot($this->wires[$w], $end);
                        $this->wires[$w]->ports[$end] = $y;
                    }
                }
            }
        }
    }

    private function heading(Wire $wire, int $end): int
    {
        $other = $wire->shapes[1 - $end];
        $gap = 0 === $end ? array_key_first($wire->gaps) : array_key_last($wire->gaps);

        return null === $gap ? $this->shapes[$other]->y + $this->middle($other, $wire->rows[1 - $end]) : $this->gapMiddle($gap, $wire->gaps[$gap]);
    }

    private function gapMiddle(int $column, int $gap): int
    {
        $shapes = $this->columns[$column];
        if ($gap <= 0) {
            return $this->shapes[$shapes[0]]->y - 20;
        }
        $above = $this->shapes[$shapes[$gap - 1]];

        return $gap >= \count($shapes) ? $above->y + $above->height + 20 : intdiv($above->y + $above->height + $this->shapes[$shapes[$gap]]->y, 2);
    }

    private function passes(): void
    {
        foreach ($this->through as $c => $gaps) {
            foreach ($gaps as $i => $wires) {
                $want = [];
                foreach ($wires as $w) {
                    $wire = $this->wires[$w];
                    $before = isset($wire->gaps[$c - 1]) ? $this->gapMiddle($c - 1, $wire->gaps[$c - 1]) : $wire->ports[0];
                    $after = isset($wire->gaps[$c + 1]) ? $this->gapMiddle($c + 1, $wire->gaps[$c + 1]) : $wire->ports[1];
                    $want[$w] = $before + $after;
                }
                usort($wires, static fn (int $a, int $b): int => [$want[$a], $a] <=> [$want[$b], $b]);
                $half = self::GRID * (\count($wires) - 1) / 2;
                $middle = $this->gapMiddle($c, $i);
                $first = match (true) {
                    0 === $i => $middle - 2 * $half,
                    $i === \count($this->columns[$c]) => $middle,
                    default => $middle - $half,
                };
                $odd = 1 === $c % 2 ? 5 : 0;
                $y = (int) (floor(($first - $odd) / self::GRID) * self::GRID) + $odd;
                foreach ($wires as $w) {
                    $this->wires[$w]->passes[$c] = $y;
                    $y += self::GRID;
                }
            }
        }
    }

    /** A step of half a grid would look like a slip of the pen; where one end can move by so much, the line runs straight. */
    private function straighten(): void
    {
        $alone = [];
        foreach ($this->wires as $wire) {
            foreach ([0, 1] as $end) {
                $s = $wire->shapes[$end];
                $row = $wire->rows[$end];
                $side = $wire->sides[$end];
                $alone[$s][$row][$side] = ($alone[$s][$row][$side] ?? 0) + 1;
            }
        }
        foreach ($this->wires as $wire) {
            if ($wire->loops) {
                continue;
            }
            foreach ([1, 0] as $end) {
                $next = [] === $wire->passes
                    ? $wire->ports[1 - $end]
                    : $wire->passes[0 === $end ? array_key_first($wire->passes) : array_key_last($wire->passes)];
                if (5 === abs($next - $wire->ports[$end]) && 1 === $alone[$wire->shapes[$end]][$wire->rows[$end]][$wire->sides[$end]]) {
                    $wire->ports[$end] = $next;
                }
            }
        }
    }

    private function draw(): Block
    {
        $gutters = \count($this->columns) + 1;
        /** @var list<list<array{wire: int, left: list<int>, right: list<int>, top: int, bottom: int}>> $pieces */
        $pieces = array_fill(0, $gutters, []);
        $pads = array_fill(0, $gutters, [14, 14]);
        $pads[0][0] = $pads[$gutters - 1][1] = 0;
        foreach ($this->wires as $w => $wire) {
            $first = $this->shapes[$wire->shapes[0]]->column;
            $last = $this->shapes[$wire->shapes[1]]->column;
            foreach ([0, 1] as $end) {
                $gutter = (0 === $end ? $first : $last) + $wire->sides[$end];
                $label = $wire->holder() === $end && '' !== $wire->line->verb ? TextWidth::text($wire->line->verb, self::LABEL_SIZE) + 8 : 0;
                $pads[$gutter][1 - $wire->sides[$end]] = (int) max($pads[$gutter][1 - $wire->sides[$end]], self::MARK + $label + 2);
            }
            if ($wire->loops) {
                $gutter = $first + $wire->sides[0];
                $pieces[$gutter][] = [
                    'wire' => $w, 'left' => 1 === $wire->sides[0] ? $wire->ports : [], 'right' => 0 === $wire->sides[0] ? $wire->ports : [],
                    'top' => min($wire->ports), 'bottom' => max($wire->ports),
                ];
                continue;
            }
            $y = $wire->ports[0];
            for ($c = $first + 1; $c <= $last; ++$c) {
                $next = $wire->passes[$c] ?? $wire->ports[1];
                if ($next === $y) {
                    $wire->tracks[$c] = null;
                } else {
                    $pieces[$c][] = ['wire' => $w, 'left' => [$y], 'right' => [$next], 'top' => min($y, $next), 'bottom' => max($y, $next)];
                }
                $y = $next;
            }
        }
        $x = 0.0;
        for ($g = 0; $g < $gutters; ++$g) {
            [$tracks, $count] = $this->tracks($pieces[$g]);
            $used = [] !== $pieces[$g];
            foreach ($tracks as $i => $track) {
                $this->wires[$pieces[$g][$i]['wire']]->tracks[$g] = $x + $pads[$g][0] + self::GRID * $track;
            }
            $outer = 0 === $g || $g === $gutters - 1;
            $x += ($outer && !$used) ? 0 : max($outer ? 0 : 60, $pads[$g][0] + $pads[$g][1] + self::GRID * max(0, $count - 1) + ($outer ? 4 : 0));
            if (isset($this->columns[$g])) {
                $width = max(0, ...array_map(fn (int $s): int => $this->shapes[$s]->width, $this->columns[$g]));
                foreach ($this->columns[$g] as $s) {
                    $this->shapes[$s]->x = $x;
                    $this->shapes[$s]->width = $width;
                }
                $x += $width;
            }
        }

        return new Block($this->shapes, array_map($this->path(...), $this->wires), $x, $this->crossings);
    }

    /**
     * Orders the vertical pieces of a gutter so that few lines cross, and gives each the leftmost track that is free.
     *
     * @param list<array{wire: int, left: list<int>, right: list<int>, top: int, bottom: int}> $pieces
     *
     * @return array{array<int, int>, int} piece → track, and how many tracks there are
     */
    private function tracks(array $pieces): array
    {
        $order = array_keys($pieces);
        $key = [];
        foreach ($pieces as $p => ['left' => $left, 'right' => $right]) {
            $key[$p] = match (true) {
                [] === $left => \PHP_INT_MAX,
                [] === $right => \PHP_INT_MIN,
                $right[0] > $left[0] => -$left[0],
                default => $left[0],
            };
        }
        usort($order, static fn (int $a, int $b): int => [$key[$a], $a] <=> [$key[$b], $b]);
        $n = \count($order);
        for ($round = 0; $round < 6; ++$round) {
            $moved = false;
            for ($i = 0; $i < $n - 1; ++$i) {
                $a = $pieces[$order[$i]];
                $b = $pieces[$order[$i + 1]];
                if ($a['bottom'] >= $b['top'] && $b['bottom'] >= $a['top'] && self::crossed($b, $a) < self::crossed($a, $b)) {
                    [$order[$i], $order[$i + 1]] = [$order[$i + 1], $order[$i]];
                    $moved = true;
                }
            }
            if (!$moved) {
                break;
            }
        }
        /** @var array<int, int> $tracks */
        $tracks = [];
        $count = 0;
        foreach ($order as $i => $p) {
            $track = 0;
            for ($j = 0; $j < $i; ++$j) {
                $q = $order[$j];
                if ($pieces[$p]['bottom'] + 6 >= $pieces[$q]['top'] && $pieces[$q]['bottom'] + 6 >= $pieces[$p]['top']) {
                    $track = max($track, $tracks[$q] + 1);
                    $this->crossings += self::crossed($pieces[$q], $pieces[$p]);
                }
            }
            $tracks[$p] = $track;
            $count = max($count, $track + 1);
        }

        return [$tracks, $count];
    }

    /**
     * How often two pieces cross when the first runs at the left of the second.
     *
     * @param array{left: list<int>, right: list<int>, top: int, bottom: int, ...} $a
     * @param array{left: list<int>, right: list<int>, top: int, bottom: int, ...} $b
     */
    private static function crossed(array $a, array $b): int
    {
        $sum = 0;
        foreach ($b['left'] as $y) {
            $sum += $y > $a['top'] && $y < $a['bottom'] ? 1 : 0;
        }
        foreach ($a['right'] as $y) {
            $sum += $y > $b['top'] && $y < $b['bottom'] ? 1 : 0;
        }

        return $sum;
    }

    private function path(Wire $wire): Path
    {
        $edge = fn (int $end): float => $this->shapes[$wire->shapes[$end]]->x + (1 === $wire->sides[$end] ? $this->shapes[$wire->shapes[$end]]->width : 0);
        $points = [[$edge(0), (float) $wire->ports[0]]];
        $y = (float) $wire->ports[0];
        ksort($wire->tracks);
        $last = array_key_last($wire->tracks);
        foreach ($wire->tracks as $gutter => $x) {
            $next = (float) ($wire->loops || $gutter === $last ? $wire->ports[1] : $wire->passes[$gutter]);
            if (null !== $x) {
                $points[] = [$x, $y];
                $points[] = [$x, $next];
            }
            $y = $next;
        }
        $points[] = [$edge(1), (float) $wire->ports[1]];
        $holder = $wire->holder();
        $sides = $wire->sides;
        if (1 === $holder) {
            $points = array_reverse($points);
            $sides = [$sides[1], $sides[0]];
        }

        return new Path($wire->line, $points, $sides);
    }
}
