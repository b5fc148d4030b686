<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/** A diagram with everything in its place, in px from the top left. */
final readonly class Layout
{
    private const BETWEEN = 60;
    private const TRIED_WHOLE = 80;
    private const SHAPE = 1.4;
    /** What a frame keeps clear between what it holds and its border. */
    private const INSIDE = 20;
    /** What stands below a drawing. */
    private const FOOT = 110;

    /**
     * @param list<TabletShape> $shapes
     * @param list<Path>        $paths
     * @param list<Note>        $notes
     */
    private function __construct(
        public array $shapes,
        public array $paths,
        public float $width,
        public float $height,
        public array $notes = [],
        public float $left = 0,
        public float $top = 0,
        public ?Scene $scene = null,
    ) {
    }

    /**
     * A diagram whose tablets stand where a person, or Fasti at an earlier time, has put them.
     *
     * @param list<Tablet>                          $tablets
     * @param list<Line>                            $lines  lines to tablets that are not in the diagram are left out
     * @param array<int, array{float, float}>       $places by id of the tablet; those without one are put beside what they join
     * @param list<Note>                            $notes
     * @param array<int, list<array{float, float}>> $kept   by id of the line, how it was led before
     */
    public static function arranged(array $tablets, array $lines, Detail $detail, array $places, array $notes = [], array $kept = []): self
    {
        [$lines, $index, $joined] = self::within($tablets, $lines);
        $shapes = self::shapes($tablets, $detail, $joined);
        Unplaced::place($shapes, $places, $notes, array_map(static fn (Line $line): array => [$index[$line->from], $index[$line->to]], $lines));
        $held = self::held($shapes, $notes);
        $notes = self::grown(self::apart($shapes, $notes), $held);
        $scene = Scene::of($shapes, $notes, $lines);
        $paths = $scene->lead($kept);
        [$x1, $y1, $x2, $y2] = self::bounds($shapes, $paths, $notes);

        return new self($shapes, $paths, $x2 - $x1, $y2 - $y1, $notes, $x1, $y1, $scene);
    }

    /**
     * Places for all tablets so that what refers stands below what it refers to.
     *
     * @param list<Tablet> $tablets
     * @param list<Line>   $lines
     *
     * @return array<int, array{float, float}> by id of the tablet
     */
    public static function ranked(array $tablets, array $lines, Detail $detail): array
    {
        [$lines, $index, $joined] = self::within($tablets, $lines);
        $shapes = self::shapes($tablets, $detail, $joined);
        Ranks::place($shapes, array_map(static fn (Line $line): array => [$index[$line->from], $index[$line->to]], $lines));

        return self::placesOf($shapes);
    }

    /**
     * What stands in each frame where it was put.
     *
     * @param list<TabletShape> $shapes
     * @param list<Note>        $notes
     *
     * @return array<string, list<TabletShape>> by key of the frame
     */
    private static function held(array $shapes, array $notes): array
    {
        $held = [];
        foreach ($notes as $note) {
            if ($note->kind->holds()) {
                $inside = static fn (TabletShape $shape): bool => $shape->x >= $note->x && $shape->x < $note->x + $note->width
                    && $shape->y >= $note->y && $shape->y < $note->y + $note->height;
                $held[$note->key] = array_values(array_filter($shapes, $inside));
            }
        }

        return $held;
    }

    /**
     * A frame grows with what it holds, when that shows more or has moved apart.
     *
     * @param list<Note>                       $notes
     * @param array<string, list<TabletShape>> $held
     *
     * @return list<Note>
     */
    private static function grown(array $notes, array $held): array
    {
        return array_map(static function (Note $note) use ($held): Note {
            $right = $note->x + $note->width;
            $bottom = $note->y + $note->height;
            foreach ($held[$note->key] ?? [] as $shape) {
                $right = max($right, $shape->x + $shape->width + self::INSIDE);
                $bottom = max($bottom, $shape->y + $shape->height + self::INSIDE);
            }

            return $note->kind->holds()
                ? new Note($note->key, $note->kind, $note->text, $note->x, $note->y, $right - $note->x, $bottom - $note->y)
                : $note;
        }, $notes);
    }

    /**
     * Tablets and notes may have grown since they were put where they stand.
     *
     * @param list<TabletShape> $shapes give way to one another
     * @param list<Note>        $notes
     *
     * @return list<Note> those that would cover something moved beside it
     */
    private static function apart(array $shapes, array $notes): array
    {
        $taken = Apart::pushed(array_map(static fn (TabletShape $shape): Rect => new Rect($shape->x, $shape->y, $shape->width, $shape->height), $shapes));
        foreach ($shapes as $i => $shape) {
            $shape->x = $taken[$i]->x;
            $shape->y = (int) $taken[$i]->y;
        }
        $settled = [];
        foreach ($notes as $note) {
            $ground = $note->ground();
            if (!$note->kind->holds() && [] !== array_filter($taken, static fn (Rect $rect): bool => $rect->meets($ground))) {
                $ground = Apart::beside($ground, $taken);
                $note = $note->at($ground->x, $ground->y);
            }
            $taken[] = $ground;
            $settled[] = $note;
        }

        return $settled;
    }

    /** @return array<int, array{float, float}> by id of the tablet */
    public function places(): array
    {
        return self::placesOf($this->shapes);
    }

    /**
     * @param list<TabletShape> $shapes
     *
     * @return array<int, array{float, float}>
     */
    private static function placesOf(array $shapes): array
    {
        $places = [];
        foreach ($shapes as $shape) {
            $places[$shape->tablet->id] = [Apart::snapped($shape->x), Apart::snapped($shape->y)];
        }

        return $places;
    }

    /**
     * Tablets that stand anywhere: lines may change sides when something is moved, and a tablet keeps its height all the same.
     *
     * @param list<Tablet>                   $tablets
     * @param array<int, array<string, int>> $joined
     *
     * @return list<TabletShape>
     */
    private static function shapes(array $tablets, Detail $detail, array $joined): array
    {
        $shapes = [];
        foreach ($tablets as $i => $tablet) {
            $shape = new TabletShape($tablet, $detail, $joined[$i] ?? []);
            $ends = [];
            foreach ($joined[$i] ?? [] as $row => $count) {
                $at = $shape->rowOf((string) $row);
                $ends[$at] = ($ends[$at] ?? 0) + $count;
            }
            $shape->grow(array_map(static fn (int $count): array => [max(10, 5 * $count)], $ends));
            $shapes[] = $shape;
        }

        return $shapes;
    }

    /**
     * @param list<TabletShape> $shapes
     * @param list<Path>        $paths
     * @param list<Note>        $notes
     *
     * @return array{float, float, float, float}
     */
    private static function bounds(array $shapes, array $paths, array $notes): array
    {
        $x = $y = [];
        foreach ([...$shapes, ...$notes] as $box) {
            array_push($x, (float) $box->x, $box->x + $box->width);
            array_push($y, (float) $box->y, $box->y + $box->height);
        }
        foreach ($paths as $path) {
            foreach ($path->points as [$px, $py]) {
                $x[] = $px;
                $y[] = $py;
            }
            $label = $path->label();
            if (null !== $label) {
                array_push($x, $label['x'], $label['x'] + $label['width']);
                $y[] = $label['y'];
            }
        }

        return [] === $x || [] === $y ? [0.0, 0.0, 0.0, 0.0] : [(float) min($x), (float) min($y), (float) max($x), (float) max($y)];
    }

    /**
     * The lines between tablets that are there, where each tablet stands in its list, and how many ends each of its rows has.
     *
     * @param list<Tablet> $tablets
     * @param list<Line>   $lines
     *
     * @return array{list<Line>, array<int, int>, array<int, array<string, int>>}
     */
    private static function within(array $tablets, array $lines): array
    {
        $index = $joined = [];
        foreach ($tablets as $i => $tablet) {
            $index[$tablet->id] = $i;
        }
        $lines = array_values(array_filter($lines, static fn (Line $line): bool => isset($index[$line->from], $index[$line->to])));
        foreach ($lines as $line) {
            foreach ([[$index[$line->from], $line->fromRow, $line->fromMore], [$index[$line->to], $line->toRow, $line->toMore]] as [$i, $row, $more]) {
                $joined[$i][$row] = ($joined[$i][$row] ?? 0) + 1;
                foreach ($more as $other) {
                    $joined[$i][$other] ??= 0;
                }
            }
        }

        return [$lines, $index, $joined];
    }

    /**
     * @param list<Tablet> $tablets
     * @param list<Line>   $lines   lines to tablets that are not in the diagram are left out
     * @param int|null     $around  id of the tablet that the diagram is about: what it refers to then stands at its left,
     *                              what refers to it at its right, and no placing engine is asked
     * @param ?float       $shape   width by height of the page that it is to fill; null where it may be of any good shape
     *
     * @throws PlacingError
     */
    public static function of(array $tablets, array $lines, Detail $detail, ?int $around = null, ?float $shape = null): self
    {
        [$lines, $index, $joined] = self::within($tablets, $lines);
        $make = static fn (int $i): TabletShape => new TabletShape($tablets[$i], $detail, $joined[$i] ?? []);
        $blocks = [];
        foreach (self::components(
            \count($tablets),
            array_map(static fn (Line $line): array => [$index[$line->from], $index[$line->to]], $lines),
        ) as [$members, $edges]) {
            $blocks[] = null !== $around && \in_array($index[$around] ?? -1, $members, true)
                ? self::star($members, array_map(static fn (int $e): Line => $lines[$e], $edges), $index, $make, $index[$around])
                : self::block($members, array_map(static fn (int $e): Line => $lines[$e], $edges), $index, $make, $shape);
        }
        [$width, $height] = self::pack($blocks, $shape ?? self::SHAPE);

        return new self(
            array_merge(...array_map(static fn (Block $block): array => $block->shapes, $blocks)),
            array_merge(...array_map(static fn (Block $block): array => $block->paths, $blocks)),
            $width,
            $height,
        );
    }

    /**
     * @param list<int>            $members
     * @param list<Line>           $lines
     * @param array<int, int>      $index
     * @param callable(int): TabletShape $make
     */
    private static function star(array $members, array $lines, array $index, callable $make, int $centre): Block
    {
        $local = array_flip($members);
        $ends = array_map(static fn (Line $line): array => [$line, $local[$index[$line->from]], $local[$index[$line->to]]], $lines);
        $middle = $local[$centre];
        $left = [];
        foreach ($ends as [, $from, $to]) {
            if ($from === $middle && $to !== $middle) {
                $left[$to] = $to;
            }
        }
        $right = array_values(array_diff(range(0, \count($members) - 1), $left, [$middle]));
        // The entry stands in the middle of what joins it: where much more refers to it than it refers to, some of that goes to its left.
        while (\count($right) > \count($left) + 4) {
            $left[] = array_pop($right);
        }
        $shapes = array_map($make, $members);
        $chunks = static fn (array $side): array => [] === $side ? [] : array_chunk($side, max(4, (int) ceil(sqrt(2 * \count($side)))));
        /** @var list<list<int>> $columns */
        $columns = [...array_reverse($chunks(array_values($left))), [$middle], ...$chunks($right)];

        return Router::route($shapes, $ends, $columns);
    }

    /**
     * @param list<int>            $members
     * @param list<Line>           $lines
     * @param array<int, int>      $index
     * @param callable(int): TabletShape $make
     */
    private static function block(array $members, array $lines, array $index, callable $make, ?float $page): Block
    {
        $local = array_flip($members);
        $ends = array_map(static fn (Line $line): array => [$line, $local[$index[$line->from]], $local[$index[$line->to]]], $lines);
        $pairs = array_map(static fn (array $end): array => [$end[1], $end[2]], $ends);
        $n = \count($members);
        $near = array_fill(0, $n, []);
        foreach ($pairs as [$a, $b]) {
            if ($a !== $b) {
                $near[$a][] = $b;
                $near[$b][] = $a;
            }
        }
        $places = $n > 2 ? Graphviz::place($n, self::unique($pairs)) : array_map(static fn (int $i): array => [(float) $i, 0.0], range(0, $n - 1));
        $first = array_map($make, $members);
        foreach ($first as $shape) {
            $shape->grow([]);
        }
        $best = null;
        foreach (self::counts($first, $near, $page) as $count) {
            // A shape takes its place only once, so that each try needs new ones.
            $shapes = array_map($make, $members);
            $columns = Columns::slice($first, $places, $near, $count);
            $block = Router::route($shapes, $ends, $columns);
            if (null === $best || self::cost($block, $page) < self::cost($best, $page)) {
                $best = $block;
            }
        }

        return $best ?? throw new \LogicException('A part of a diagram has no shapes.');
    }

    /** Lower is better: for a page, how small it would have to be drawn. */
    private static function cost(Block $block, ?float $page): float
    {
        return null === $page ? $block->cost() : max($block->width / $page, $block->height + self::FOOT);
    }

    /**
     * The numbers of columns worth trying: around the one that would make the block a third wider than high.
     *
     * @param list<TabletShape>     $shapes
     * @param list<list<int>> $near
     *
     * @return list<int>
     */
    private static function counts(array $shapes, array $near, ?float $page): array
    {
        $n = \count($shapes);
        if (1 === $n) {
            return [1];
        }
        $height = $width = 0;
        foreach ($shapes as $i => $shape) {
            // Rows grow with the lines that end at them, so busy shapes become higher than they are now.
            $height += $shape->height + 40 + 6 * max(0, \count($near[$i]) - 2);
            $width = max($width, min(240, $shape->width));
        }
        $gutter = 110 + array_sum(array_map(\count(...), $near)) / 2 / max(1.0, sqrt($n)) * 4;
        $ideal = max(1, (int) round(sqrt(1.35 * $height / ($width + $gutter))));
        $tried = $n <= self::TRIED_WHOLE || null !== $page ? [$ideal, $ideal - 1, $ideal + 1, $ideal + 2] : [$ideal];

        return array_values(array_unique(array_filter($tried, static fn (int $count): bool => $count >= min(2, $n) && $count <= $n))) ?: [min(2, $n)];
    }

    /**
     * Connected parts, the largest first.
     *
     * @param list<array{int, int}> $edges
     *
     * @return list<array{list<int>, list<int>}> members and edges of each
     */
    private static function components(int $nodes, array $edges): array
    {
        $of = range(0, max(0, $nodes - 1));
        $root = static function (int $i) use (&$of): int {
            while ($of[$i] !== $i) {
                $i = $of[$i] = $of[$of[$i]];
            }

            return $i;
        };
        foreach ($edges as [$a, $b]) {
            $of[$root($a)] = $root($b);
        }
        $parts = [];
        for ($i = 0; $i < $nodes; ++$i) {
            $parts[$root($i)][0][] = $i;
        }
        foreach ($edges as $e => [$a]) {
            $parts[$root($a)][1][] = $e;
        }
        $parts = array_values(array_map(static fn (array $part): array => [$part[0] ?? [], $part[1] ?? []], $parts));
        usort($parts, static fn (array $a, array $b): int => [\count($b[0]), $a[0][0] ?? 0] <=> [\count($a[0]), $b[0][0] ?? 0]);

        return $parts;
    }

    /**
     * @param list<array{int, int}> $pairs
     *
     * @return list<array{int, int}>
     */
    private static function unique(array $pairs): array
    {
        $seen = [];
        foreach ($pairs as [$a, $b]) {
            $seen[min($a, $b).' '.max($a, $b)] = [$a, $b];
        }

        return array_values($seen);
    }

    /**
     * Stands blocks side by side on shelves whose width is chosen so that the whole comes nearest to its best shape.
     *
     * @param list<Block> $blocks
     *
     * @return array{float, float} width and height of the whole
     */
    private static function pack(array $blocks, float $page): array
    {
        $widest = $area = 0.0;
        foreach ($blocks as $block) {
            $widest = max($widest, $block->width);
            $area += ($block->width + self::BETWEEN) * ($block->height + self::BETWEEN);
        }
        $order = array_keys($blocks);
        usort($order, static fn (int $a, int $b): int => [$blocks[$b]->height, $a] <=> [$blocks[$a]->height, $b]);
        $best = null;
        foreach ([1.0, 1.15, 1.3, 1.5, 1.75, 2.0] as $stretch) {
            $tried = self::shelve($blocks, $order, max($widest, sqrt($area) * $stretch));
            $cost = abs(log($tried['width'] / max(1.0, $tried['height']) / $page)) + $tried['width'] * $tried['height'] / max(1.0, $area);
            if (null === $best || $cost < $best['cost']) {
                $best = $tried + ['cost' => $cost];
            }
        }
        foreach ($best['places'] ?? [] as $i => [$x, $y]) {
            $blocks[$i]->move($x, $y);
        }

        return [$best['width'] ?? 0.0, $best['height'] ?? 0.0];
    }

    /**
     * @param list<Block> $blocks
     * @param list<int>   $order
     *
     * @return array{places: array<int, array{float, float}>, width: float, height: float}
     */
    private static function shelve(array $blocks, array $order, float $most): array
    {
        $x = $y = $shelf = $width = 0.0;
        $places = [];
        /** @var list<array{x: float, y: float, width: float, height: float}> $free what is left beside or under lower blocks of a shelf */
        $free = [];
        foreach ($order as $i) {
            $block = $blocks[$i];
            foreach ($free as $f => $room) {
                if ($block->width <= $room['width'] && $block->height <= $room['height']) {
                    $places[$i] = [$room['x'], $room['y']];
                    $right = [
                        'x' => $room['x'] + $block->width + self::BETWEEN,
                        'y' => $room['y'],
                        'width' => $room['width'] - $block->width - self::BETWEEN,
                        'height' => $block->height,
                    ];
                    $under = [
                        'x' => $room['x'],
                        'y' => $room['y'] + $block->height + self::BETWEEN,
                        'width' => $room['width'],
                        'height' => $room['height'] - $block->height - self::BETWEEN,
                    ];
                    array_splice($free, $f, 1, [$right, $under]);
                    continue 2;
                }
            }
            if ($x > 0 && $x + $block->width > $most) {
                $y += $shelf + self::BETWEEN;
                $x = $shelf = 0.0;
            }
            $places[$i] = [$x, $y];
            $shelf = max($shelf, $block->height);
            if ($block->height + self::BETWEEN < $shelf) {
                $free[] = [
                    'x' => $x,
                    'y' => $y + $block->height + self::BETWEEN,
                    'width' => $block->width,
                    'height' => $shelf - $block->height - self::BETWEEN,
                ];
            }
            $x += $block->width + self::BETWEEN;
            $width = max($width, $x - self::BETWEEN);
        }

        return ['places' => $places, 'width' => $width, 'height' => $y + $shelf];
    }
}
