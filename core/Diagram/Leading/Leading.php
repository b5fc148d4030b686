<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/**
 * Leads lines round rectangles that stand anywhere: level and upright pieces, none through a rectangle and none on another line.
 *
 * First each line finds its way alone along the lanes between rectangles (Search over Lanes), then lines that share a channel are put
 * in order (Order) and moved apart (Spread), as Wybrow, Marriott and Stuckey do in Orthogonal Connector Routing (2009).
 */
final class Leading
{
    private const ALONE = -1_000_000_000_000;

    /**
     * @param list<Rect>          $rects
     * @param list<Ends>          $lines
     * @param array<int, Trace>   $kept  by number of the line: those that stay as they are led, apart from making room
     * @param list<Rect>          $frames on whose borders no line is to lie, though lines cross them
     *
     * @return list<Trace> in the order of the lines
     */
    public static function lead(array $rects, array $lines, array $kept = [], array $frames = []): array
    {
        $lanes = new Lanes($rects);
        $search = new Search($rects, $lanes);
        $traces = [];
        $order = [];
        foreach ($lines as $k => $line) {
            if (isset($kept[$k])) {
                $traces[$k] = $kept[$k];
            } else {
                $order[$k] = self::far($rects[$line->from], $rects[$line->to]);
            }
        }
        foreach ($kept as $trace) {
            $own = [];
            foreach ($trace->at as $piece => $at) {
                $own[] = 0 === $piece || \count($trace->at) - 1 === $piece
                    ? Search::row($trace->ends->from, $trace->ends->leaves, 0)
                    : $lanes->nearest(1 === $piece % 2, $at, array_sum($trace->span($piece)) / 2);
            }
            $trace->lanes = $own;
            $search->use($trace);
            // Who is led already keeps its order by where it runs, and shares its lanes with none.
            $trace->lanes = array_map(static fn (int $piece): int => self::ALONE - 512 * $trace->ends->id - $piece, array_keys($trace->at));
        }
        asort($order);
        foreach (array_keys($order) as $k) {
            $traces[$k] = $search->trace($lines[$k]);
            $search->use($traces[$k]);
        }
        ksort($traces);
        $traces = array_values($traces);
        (new Spread($rects, $traces, $frames))->settle();

        return $traces;
    }

    private static function far(Rect $a, Rect $b): float
    {
        return abs($a->x + $a->width / 2 - $b->x - $b->width / 2) + abs($a->y + $a->height / 2 - $b->y - $b->height / 2);
    }
}
