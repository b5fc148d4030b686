<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Diagram;

use Fasti\Core\Diagram\Apart;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Line;
use Fasti\Core\Diagram\Path;
use Fasti\Core\Diagram\Tablet;
use Fasti\Core\Diagram\TabletRow;
use Fasti\Core\Diagram\TabletShape;
use Fasti\Core\Join\End;

/** Makes up diagrams, and measures what is wrong with the drawing of one. */
final class Drawn
{
    /**
     * A connected made-up schema: each table after the first refers to an earlier one, busy ones more often; then more
     * joins up to the number asked for, some of a table with itself.
     *
     * @return array{list<Tablet>, list<Line>}
     */
    public static function schema(int $tables, int $joins, int $seed, bool $verbs = false): array
    {
        mt_srand($seed);
        $tablets = $lines = $fields = [];
        for ($i = 0; $i < $tables; ++$i) {
            $fields[$i] = ['id'];
            for ($f = mt_rand(1, mt_rand(2, 12)); $f > 0; --$f) {
                $fields[$i][] = 'field_'.$f.str_repeat('x', mt_rand(0, 9));
            }
        }
        for ($j = 0; $j < $joins; ++$j) {
            $from = $j + 1 < $tables ? $j + 1 : mt_rand(0, $tables - 1);
            $to = match (true) {
                $j + 1 >= $tables => mt_rand(0, $tables - 1),
                0 === mt_rand(0, 2) => intdiv($j, 4),
                default => mt_rand(0, $j),
            };
            $fields[$from][] = $row = 'ref_'.$j;
            $lines[] = new Line(
                $j, $from, $row, $to, 'id', End::NoneOrMore, 0 === $j % 3 ? End::NoneOrOne : End::One,
                $verbs && 0 === $j % 2 ? ['is part of', 'measures', 'was seen at'][$j % 3] : '', 0 === $j % 7 ? 'documented' : 'declared',
            );
        }
        foreach ($fields as $i => $names) {
            $tablets[] = new Tablet(
                $i,
                'Table '.$i.str_repeat('m', mt_rand(0, 8)),
                array_map(static fn (string $name): TabletRow => new TabletRow($name, $name, 'id' === $name), $names),
            );
        }

        return [$tablets, $lines];
    }

    /**
     * @param float $apart how far lines that run side by side have to be apart, in px
     *
     * @return list<string> everything that breaks the rules of a drawing, in words
     */
    public static function faults(Layout $layout, float $apart = 4): array
    {
        return [
            ...self::shapes($layout),
            ...self::throughShapes($layout),
            ...self::onTop($layout, $apart),
            ...self::ends($layout),
            ...self::labels($layout),
        ];
    }

    /**
     * Places for tablets, anywhere, none nearer to another than a person can set it down.
     *
     * @param list<Tablet> $tablets
     * @param float        $density how much of the page they take up, with what they keep clear, 0 to 1
     *
     * @return array<int, array{float, float}>
     */
    public static function scattered(array $tablets, float $density): array
    {
        $area = 0;
        $shapes = [];
        foreach ($tablets as $tablet) {
            $shape = new TabletShape($tablet, Detail::All, []);
            $shape->grow([]);
            $area += ($shape->width + 40) * ($shape->height + 40);
            $shapes[] = $shape;
        }
        $side = (int) sqrt($area / $density);
        $taken = $places = [];
        foreach ($shapes as $shape) {
            // As high as many lines at its rows can make it.
            $wished = new Rect(mt_rand(-$side, $side) / 2, mt_rand(-$side, $side) / 2, $shape->width, $shape->height + 5.0 * \count($shape->rows));
            $taken[] = $rect = Apart::beside($wished, $taken);
            $places[$shape->tablet->id] = [$rect->x, $rect->y];
        }

        return $places;
    }

    /**
     * How often lines cross, and how often straight ones between the same ends would.
     *
     * @return array{int, int}
     */
    public static function crossings(Layout $layout): array
    {
        $pieces = $straight = [];
        foreach ($layout->paths as $i => $path) {
            foreach (self::pieces($path) as $piece) {
                $pieces[] = [$i, $piece];
            }
            $straight[] = [$path->points[0], $path->points[\count($path->points) - 1]];
        }
        $crossed = $would = 0;
        foreach ($pieces as $k => [$i, $p]) {
            foreach (\array_slice($pieces, $k + 1) as [$j, $q]) {
                [$v, $h] = $p['x1'] === $p['x2'] ? [$p, $q] : [$q, $p];
                $crossed += $i !== $j && $v['x1'] === $v['x2'] && $h['y1'] === $h['y2'] && $h['x1'] < $v['x1'] && $v['x1'] < $h['x2']
                    && $v['y1'] < $h['y1'] && $h['y1'] < $v['y2'] ? 1 : 0;
            }
        }
        foreach ($straight as $k => [$a, $b]) {
            foreach (\array_slice($straight, $k + 1) as [$c, $d]) {
                $would += self::turn($a, $b, $c) * self::turn($a, $b, $d) < 0 && self::turn($c, $d, $a) * self::turn($c, $d, $b) < 0 ? 1 : 0;
            }
        }

        return [$crossed, $would];
    }

    /**
     * @param array{float, float} $a
     * @param array{float, float} $b
     * @param array{float, float} $c
     */
    private static function turn(array $a, array $b, array $c): float
    {
        return ($b[0] - $a[0]) * ($c[1] - $a[1]) - ($b[1] - $a[1]) * ($c[0] - $a[0]);
    }

    /** @return list<string> */
    private static function shapes(Layout $layout): array
    {
        $found = [];
        foreach ($layout->shapes as $i => $a) {
            if ($a->x < $layout->left - 0.01 || $a->y < $layout->top - 0.01 || $a->x + $a->width > $layout->left + $layout->width + 0.01
                || $a->y + $a->height > $layout->top + $layout->height + 0.01) {
                $found[] = "tablet {$a->tablet->id} leaves the page";
            }
            foreach (\array_slice($layout->shapes, $i + 1) as $b) {
                if ($a->x < $b->x + $b->width && $b->x < $a->x + $a->width && $a->y < $b->y + $b->height && $b->y < $a->y + $a->height) {
                    $found[] = "tablets {$a->tablet->id} and {$b->tablet->id} overlap";
                }
            }
        }

        return $found;
    }

    /**
     * @return list<array{x1: float, y1: float, x2: float, y2: float}> pieces with the smaller coordinate first
     */
    private static function pieces(Path $path): array
    {
        $pieces = [];
        for ($i = 1, $n = \count($path->points); $i < $n; ++$i) {
            [$ax, $ay] = $path->points[$i - 1];
            [$bx, $by] = $path->points[$i];
            $pieces[] = ['x1' => min($ax, $bx), 'y1' => min($ay, $by), 'x2' => max($ax, $bx), 'y2' => max($ay, $by)];
        }

        return $pieces;
    }

    /** @return list<string> */
    private static function throughShapes(Layout $layout): array
    {
        $found = [];
        foreach ($layout->paths as $path) {
            foreach (self::pieces($path) as $piece) {
                if ($piece['x1'] !== $piece['x2'] && $piece['y1'] !== $piece['y2']) {
                    $found[] = "line {$path->line->id} runs aslant";
                }
                foreach ($layout->shapes as $shape) {
                    if ($piece['x1'] < $shape->x + $shape->width - 0.5
                        && $piece['x2'] > $shape->x + 0.5
                        && $piece['y1'] < $shape->y + $shape->height - 0.5
                        && $piece['y2'] > $shape->y + 0.5) {
                        $found[] = "line {$path->line->id} runs through tablet {$shape->tablet->id}";
                    }
                }
                foreach ($layout->notes as $note) {
                    $ground = $note->ground();
                    if ($piece['x1'] < $ground->right() && $piece['x2'] > $ground->x && $piece['y1'] < $ground->bottom() && $piece['y2'] > $ground->y) {
                        $found[] = "line {$path->line->id} runs through {$note->key}";
                    }
                }
            }
        }

        return $found;
    }

    /** @return list<string> */
    private static function onTop(Layout $layout, float $apart): array
    {
        $found = $all = [];
        foreach ($layout->paths as $path) {
            foreach (self::pieces($path) as $piece) {
                $all[] = [$path->line->id, $piece];
            }
        }
        foreach ($all as $i => [$a, $p]) {
            foreach (\array_slice($all, $i + 1) as [$b, $q]) {
                if ($a === $b) {
                    continue;
                }
                $flat = $p['y1'] === $p['y2'] && $q['y1'] === $q['y2'] && abs($p['y1'] - $q['y1']) < $apart && $p['x1'] < $q['x2'] - 0.5
                    && $q['x1'] < $p['x2'] - 0.5;
                $upright = $p['x1'] === $p['x2'] && $q['x1'] === $q['x2'] && abs($p['x1'] - $q['x1']) < $apart && $p['y1'] < $q['y2'] + 0.5
                    && $q['y1'] < $p['y2'] + 0.5 && $p['y1'] !== $p['y2'] && $q['y1'] !== $q['y2'];
                if ($flat || $upright) {
                    $found[] = "lines $a and $b lie on one another";
                }
            }
        }

        return $found;
    }

    /** @return list<string> */
    private static function ends(Layout $layout): array
    {
        $found = [];
        $byId = [];
        foreach ($layout->shapes as $shape) {
            $byId[$shape->tablet->id] = $shape;
        }
        foreach ($layout->paths as $path) {
            $ends = [
                [$path->line->from, $path->line->fromRow, $path->points[0], $path->sides[0]],
                [$path->line->to, $path->line->toRow, $path->points[\count($path->points) - 1], $path->sides[1]],
            ];
            foreach ($ends as [$id, $name, [$x, $y], $side]) {
                $shape = $byId[$id];
                $row = $shape->rowOf($name);
                $top = $shape->y + $shape->rowTops[$row];
                if (abs($x - ($shape->x + (1 === $side ? $shape->width : 0))) > 0.01 || $y <= $top || $y >= $top + $shape->rowHeights[$row]) {
                    $found[] = "line {$path->line->id} does not end at $name of tablet $id";
                }
            }
        }

        return $found;
    }

    /** @return list<string> */
    private static function labels(Layout $layout): array
    {
        $found = $boxes = [];
        foreach ($layout->paths as $path) {
            $label = $path->label();
            if (null === $label) {
                continue;
            }
            $id = $path->line->id;
            $box = ['x1' => $label['x'], 'y1' => $label['y'], 'x2' => $label['x'] + $label['width'], 'y2' => $label['y'] + $label['height']];
            $touches = static fn (array $q): bool => $box['x1'] < $q['x2'] && $q['x1'] < $box['x2'] && $box['y1'] < $q['y2'] && $q['y1'] < $box['y2'];
            foreach ($layout->shapes as $shape) {
                if ($touches(['x1' => $shape->x, 'y1' => $shape->y, 'x2' => $shape->x + $shape->width, 'y2' => $shape->y + $shape->height])) {
                    $found[] = "the verb of line $id covers tablet {$shape->tablet->id}";
                }
            }
            foreach ($layout->paths as $other) {
                foreach (self::pieces($other) as $piece) {
                    if ($touches($piece)) {
                        $found[] = "the verb of line $id covers line {$other->line->id}";
                    }
                }
            }
            foreach ($boxes as $o => $other) {
                if ($touches($other)) {
                    $found[] = "the verbs of lines $id and $o cover one another";
                }
            }
            $boxes[$id] = $box;
        }

        return $found;
    }

    public static function shapeOf(Layout $layout, int $id): TabletShape
    {
        foreach ($layout->shapes as $shape) {
            if ($shape->tablet->id === $id) {
                return $shape;
            }
        }
        throw new \LogicException("No tablet $id.");
    }
}
