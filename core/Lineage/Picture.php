<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

use Fasti\Core\Diagram\TextWidth;

/**
 * Places fields and what is made of them from left to right, in layers (Sugiyama, Tagawa and Toda, “Methods for visual
 * understanding of hierarchical system structures”, 1981): an entry stands to the right of all that it comes from, the order
 * within a layer follows from the middle of what each is tied to, and a line that passes a layer has a place of its own there.
 *
 * @phpstan-type Tied array{from: string, to: string, word: string}
 */
final class Picture
{
    public const ROW = 22;
    private const HEAD = 46;
    private const GAP = 22;
    private const GUTTER = 36;
    private const TRACK = 9;
    private const MARGIN = 16;
    private const SWEEPS = 6;

    /** @var array<int, PlacedTablet> */
    public array $tablets = [];
    /** @var list<array{path: string, word: string, from: string, to: string, x: float, y: float}> */
    public array $lines = [];
    public float $width = 0;
    public float $height = 0;

    /** @var array<string, int> row → tablet */
    private array $of = [];
    /** @var array<int, int> tablet → layer */
    private array $layer = [];
    /** @var array<int, list<int|string>> layer → tablets, and lines that pass, in their order */
    private array $order = [];
    /** @var array<int|string, float> top of a tablet, or the height of a line that passes */
    private array $y = [];
    /** @var list<array{string, string, string, list<string>}> lines: from, to, word, and the names of their places in passing */
    private array $ties = [];

    /**
     * @param list<PlacedTablet> $tablets
     * @param list<Tied>         $ties    from row to row
     */
    public function __construct(array $tablets, array $ties)
    {
        foreach ($tablets as $tablet) {
            $this->tablets[$tablet->id] = $tablet;
            foreach ($tablet->rows as $row) {
                $this->of[$row['key']] = $tablet->id;
            }
            $tablet->width = $this->widthOf($tablet);
            $tablet->height = self::HEAD + self::ROW * \count($tablet->rows) + 6;
        }
        $ties = array_values(
            array_filter(
                $ties,
                fn (array $tie): bool => isset($this->of[$tie['from']], $this->of[$tie['to']]) && $this->of[$tie['from']] !== $this->of[$tie['to']],
            ),
        );
        $this->layers($ties);
        $this->passing($ties);
        $this->sweep();
        $this->place();
        $this->draw();
    }

    private function widthOf(PlacedTablet $tablet): float
    {
        $width = max(
            TextWidth::title($tablet->title, 15),
            TextWidth::text($tablet->below, 11),
        );
        foreach ($tablet->rows as $row) {
            $width = max($width, $row['code'] ? TextWidth::code($row['label'], 12) : TextWidth::text($row['label'], 13));
        }

        return (float) max(120, min(280, ceil($width) + 28));
    }

    /**
     * Each entry one layer to the right of the last of those that it comes from; what goes in a circle is cut where it closes.
     *
     * @param list<Tied> $ties
     */
    private function layers(array $ties): void
    {
        $after = [];
        foreach ($ties as $tie) {
            $after[$this->of[$tie['from']]][$this->of[$tie['to']]] = true;
        }
        $state = [];
        $sorted = [];
        foreach (array_keys($this->tablets) as $id) {
            $this->visit($id, $after, $state, $sorted);
        }
        $this->layer = array_fill_keys(array_keys($this->tablets), 0);
        foreach (array_reverse($sorted) as $id) {
            foreach (array_keys($after[$id] ?? []) as $next) {
                $this->layer[$next] = max($this->layer[$next], $this->layer[$id] + 1);
            }
        }
        // What comes from nothing stands right beside what it is used for.
        $before = [];
        foreach ($after as $id => $nexts) {
            foreach (array_keys($nexts) as $next) {
                $before[$next][$id] = true;
            }
        }
        foreach (array_keys($this->tablets) as $id) {
            if (!isset($before[$id]) && [] !== ($after[$id] ?? [])) {
                $this->layer[$id] = min(array_map(fn (int $next): int => $this->layer[$next], array_keys($after[$id]))) - 1;
            }
        }
        foreach ($this->layer as $id => $layer) {
            $this->order[$layer][] = $id;
        }
        ksort($this->order);
    }

    /**
     * @param array<int, array<int, true>> $after
     * @param array<int, int>              $state 1 while what comes after is looked at, 2 when it is done
     * @param list<int>                    $sorted
     */
    private function visit(int $start, array &$after, array &$state, array &$sorted): void
    {
        $stack = [[$start, false]];
        while ([] !== $stack) {
            [$id, $done] = array_pop($stack);
            if ($done) {
                $state[$id] = 2;
                $sorted[] = $id;
                continue;
            }
            if (isset($state[$id])) {
                continue;
            }
            $state[$id] = 1;
            $stack[] = [$id, true];
            foreach (array_keys($after[$id] ?? []) as $next) {
                if (1 === ($state[$next] ?? 0)) {
                    unset($after[$id][$next]);
                } elseif (!isset($state[$next])) {
                    $stack[] = [$next, false];
                }
            }
        }
    }

    /** @param list<Tied> $ties */
    private function passing(array $ties): void
    {
        foreach ($ties as $i => $tie) {
            $a = $this->layer[$this->of[$tie['from']]];
            $b = $this->layer[$this->of[$tie['to']]];
            if ($b <= $a) {
                continue;
            }
            $names = [];
            for ($layer = $a + 1; $layer < $b; ++$layer) {
                // Lines out of one row into one entry pass together.
                $name = 'p'.$layer.'|'.$tie['from'].'|'.$this->of[$tie['to']];
                if (!\in_array($name, $this->order[$layer], true)) {
                    $this->order[$layer][] = $name;
                }
                $names[] = $name;
            }
            $this->ties[] = [$tie['from'], $tie['to'], $tie['word'], $names];
        }
    }

    /**
     * Where a row stands within its layer, as a figure to take the middle of.
     *
     * @param array<int|string, int> $positions
     */
    private function rank(int|string $node, string $row, array $positions): float
    {
        if (\is_string($node)) {
            return (float) $positions[$node];
        }
        foreach ($this->tablets[$node]->rows as $i => $each) {
            if ($each['key'] === $row) {
                return $positions[$node] + $i / (\count($this->tablets[$node]->rows) + 1);
            }
        }

        return (float) $positions[$node];
    }

    private function sweep(): void
    {
        $neighbours = [];
        foreach ($this->ties as [$from, $to, , $names]) {
            $chain = [[$this->of[$from], $from], ...array_map(static fn (string $name): array => [$name, ''], $names), [$this->of[$to], $to]];
            for ($i = 1, $n = \count($chain); $i < $n; ++$i) {
                $neighbours[$chain[$i][0]][0][] = $chain[$i - 1];
                $neighbours[$chain[$i - 1][0]][1][] = $chain[$i];
            }
        }
        for ($sweep = 0; $sweep < self::SWEEPS; ++$sweep) {
            $side = $sweep % 2;
            foreach (0 === $side ? array_keys($this->order) : array_reverse(array_keys($this->order)) as $layer) {
                $positions = [];
                foreach ($this->order as $nodes) {
                    foreach ($nodes as $i => $node) {
                        $positions[$node] = $i;
                    }
                }
                $middle = [];
                foreach ($this->order[$layer] as $i => $node) {
                    $ranks = array_map(fn (array $other): float => $this->rank($other[0], $other[1], $positions), $neighbours[$node][$side] ?? []);
                    $middle[$node] = [] === $ranks ? (float) $i : array_sum($ranks) / \count($ranks);
                }
                usort($this->order[$layer], static fn (int|string $a, int|string $b): int => $middle[$a] <=> $middle[$b]);
            }
        }
        // Rows follow the lines that lead to them, but for the entry that is asked about, whose order is its own.
        foreach ($this->order as $layer => $nodes) {
            $y = 0.0;
            foreach ($nodes as $node) {
                $this->y[$node] = $y;
                $y += $this->heightOf($node) + self::GAP;
            }
        }
        for ($round = 0; $round < self::SWEEPS; ++$round) {
            foreach ($this->order as $layer => $nodes) {
                $this->settle($nodes, $neighbours);
            }
            foreach (array_reverse($this->order, true) as $layer => $nodes) {
                $this->settle($nodes, $neighbours);
            }
        }
    }

    private function heightOf(int|string $node): float
    {
        return \is_string($node) ? 6 : $this->tablets[$node]->height;
    }

    /**
     * Moves what stands in a layer towards what it is tied to, as far as its neighbours leave room.
     *
     * @param list<int|string>                                           $nodes
     * @param array<int|string, array<int, list<array{int|string, string}>>> $neighbours
     */
    private function settle(array $nodes, array $neighbours): void
    {
        $floor = -\INF;
        foreach ($nodes as $node) {
            $wanted = [];
            foreach ([...$neighbours[$node][0] ?? [], ...$neighbours[$node][1] ?? []] as [$other, $row]) {
                $wanted[] = $this->y[$other] + $this->heightOf($other) / 2 - $this->heightOf($node) / 2;
            }
            $y = [] === $wanted ? $this->y[$node] : array_sum($wanted) / \count($wanted);
            $this->y[$node] = max($y, $floor);
            $floor = $this->y[$node] + $this->heightOf($node) + self::GAP;
        }
    }

    private function place(): void
    {
        $top = [] === $this->y ? 0 : min($this->y);
        foreach ($this->y as $node => $y) {
            $this->y[$node] = round($y - $top + self::MARGIN);
        }
        $tracks = $this->tracks();
        $x = self::MARGIN;
        foreach ($this->order as $layer => $nodes) {
            $width = 0.0;
            foreach ($nodes as $node) {
                if (\is_int($node)) {
                    $this->tablets[$node]->x = $x;
                    $this->tablets[$node]->y = $this->y[$node];
                    $width = max($width, $this->tablets[$node]->width);
                    $this->height = max($this->height, $this->y[$node] + $this->tablets[$node]->height + self::MARGIN);
                }
            }
            foreach ($nodes as $node) {
                if (\is_int($node)) {
                    $this->tablets[$node]->width = $width;
                }
            }
            $this->right[$layer] = $x + $width;
            $this->left[$layer] = $x;
            $x += $width + self::GUTTER + self::TRACK * ($tracks[$layer] ?? 0);
        }
        $this->width = ([] === $this->right ? 0 : max($this->right)) + self::MARGIN;
    }

    /** @var array<int, float> */
    private array $right = [];
    /** @var array<int, float> */
    private array $left = [];
    /** @var array<string, true> gutters and heights at which lines leave and others come in */
    private array $crowded = [];
    /** @var array<string, int> where a line goes up or down, by its gutter and where it comes from */
    private array $track = [];

    /**
     * Lines out of one place go up and down together; others that meet them in height have another track.
     *
     * @return array<int, int> gutter → how many tracks
     */
    private function tracks(): array
    {
        $this->crowd();
        $spans = [];
        foreach ($this->ties as [$from, $to, , $names]) {
            $points = [[$from, $this->out($from)], ...array_map(fn (string $name): array => [$name, $this->y[$name] + 3], $names)];
            $layer = $this->layer[$this->of[$from]];
            foreach ($points as $i => [$name, $y]) {
                $next = isset($names[$i]) ? $this->y[$names[$i]] + 3 : $this->in($to);
                $span = $spans[$layer + $i][$name] ?? [$y, $y];
                $spans[$layer + $i][$name] = [min($span[0], $y, $next), max($span[1], $y, $next)];
            }
        }
        $counts = [];
        foreach ($spans as $gutter => $all) {
            uasort($all, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
            $ends = [];
            foreach ($all as $name => [$low, $high]) {
                for ($track = 0; isset($ends[$track]) && $ends[$track] >= $low - 4; ++$track) {
                    continue;
                }
                $ends[$track] = $high;
                $this->track[$gutter.'|'.$name] = $track;
            }
            $counts[$gutter] = \count($ends);
        }

        return $counts;
    }

    private function rowY(string $row): float
    {
        $tablet = $this->tablets[$this->of[$row]];
        foreach ($tablet->rows as $i => $each) {
            if ($each['key'] === $row) {
                return $this->y[$tablet->id] + self::HEAD + self::ROW * $i + self::ROW / 2;
            }
        }

        return $this->y[$tablet->id] + self::HEAD;
    }

    /**
     * Where one line leaves a row at the height at which another one comes in across the gutter, they would lie on one another:
     * there they leave and come in beside the middle.
     */
    private function crowd(): void
    {
        $out = $in = [];
        foreach ($this->ties as [$from, $to, , $names]) {
            $layer = $this->layer[$this->of[$from]];
            $out[$layer.'|'.$this->rowY($from)][$from] = true;
            $in[($layer + \count($names)).'|'.$this->rowY($to)][] = [] === $names ? $from : '';
        }
        foreach ($in as $place => $sources) {
            foreach (array_keys($out[$place] ?? []) as $from) {
                if ([] !== array_diff($sources, [(string) $from])) {
                    $this->crowded[$place] = true;
                }
            }
        }
    }

    private function out(string $row): float
    {
        return $this->rowY($row) - (isset($this->crowded[$this->layer[$this->of[$row]].'|'.$this->rowY($row)]) ? 3 : 0);
    }

    private function in(string $row): float
    {
        return $this->rowY($row) + (isset($this->crowded[($this->layer[$this->of[$row]] - 1).'|'.$this->rowY($row)]) ? 3 : 0);
    }

    private function draw(): void
    {
        foreach ($this->ties as [$from, $to, $word, $names]) {
            $layer = $this->layer[$this->of[$from]];
            $y = $this->out($from);
            $path = \sprintf('M%g %g', $this->right[$layer], $y);
            $points = [$from, ...$names];
            foreach ($points as $i => $name) {
                $next = isset($names[$i]) ? $this->y[$names[$i]] + 3 : $this->in($to);
                $x = $this->right[$layer + $i] + self::GUTTER / 2 + self::TRACK * ($this->track[($layer + $i).'|'.$name] ?? 0);
                $path .= $this->turned($x, $y, $next);
                $path .= \sprintf('H%g', isset($names[$i]) ? $this->right[$layer + $i + 1] : $this->left[$layer + $i + 1] - 5);
                $y = $next;
            }
            $this->lines[] = ['path' => $path, 'word' => $word, 'from' => $from, 'to' => $to, 'x' => $this->left[$layer + \count($points)], 'y' => $y];
        }
    }

    /** Along the track from one height to another, with small round corners. */
    private function turned(float $x, float $from, float $to): string
    {
        $r = min(5, abs($to - $from) / 2);
        if ($r < 0.5) {
            return \sprintf('H%g', $x);
        }
        $down = $to > $from ? 1 : -1;

        return \sprintf('H%g', $x - $r).\sprintf(
            'Q%g %g %g %g',
            $x,
            $from,
            $x,
            $from + $down * $r,
        ).\sprintf('V%g', $to - $down * $r).\sprintf('Q%g %g %g %g', $x, $to, $x + $r, $to);
    }
}
