<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Ends;
use Fasti\Core\Diagram\Leading\Leading;
use Fasti\Core\Diagram\Leading\Rect;

/**
 * The inside of a region of a map as SVG: lines, and of each entry its key fields and, in small letters, all its fields; the page shows the
 * one or the other by how near one is.
 */
final class SvgRegion
{
    /** Above so many entries lines would cost more than they show. */
    private const LED = 130;
    private const SMALL = 6.8;

    /**
     * @param list<Tablet>      $tablets
     * @param list<Line>        $lines
     * @param array<int, Rect>  $places  of the tablets
     */
    public static function inside(array $tablets, array $lines, array $places): string
    {
        $tablets = array_values(array_filter($tablets, static fn (Tablet $tablet): bool => isset($places[$tablet->id])));
        $svg = '<g class="lines">';
        foreach (\count($tablets) > self::LED ? [] : self::led($tablets, $lines, $places) as $path) {
            $svg .= '<g class="line '.SvgText::escape($path->line->kind).'"><title>'.SvgText::escape($path->line->tooltip).'</title><path d="'
                .SvgLine::rounded($path->points).'"/>'.SvgLine::mark($path->points[0], $path->sides[0], $path->line->fromEnd)
                .SvgLine::mark($path->points[\count($path->points) - 1], $path->sides[1], $path->line->toEnd).'</g>';
        }
        $svg .= '</g>';
        foreach ($tablets as $tablet) {
            $svg .= self::tablet($tablet, $places[$tablet->id]);
        }

        return $svg;
    }

    /**
     * @param list<Tablet>     $tablets
     * @param list<Line>       $lines
     * @param array<int, Rect> $places
     *
     * @return list<Path>
     */
    private static function led(array $tablets, array $lines, array $places): array
    {
        $number = $rects = $ends = $inside = [];
        foreach ($tablets as $i => $tablet) {
            $number[$tablet->id] = $i;
            $rects[] = $places[$tablet->id];
        }
        foreach ($lines as $line) {
            if (isset($number[$line->from], $number[$line->to])) {
                $from = $places[$line->from];
                $to = $places[$line->to];
                $ends[] = new Ends(\count($inside), $number[$line->from], [$from->y, $from->bottom()], $number[$line->to], [$to->y, $to->bottom()]);
                $inside[] = $line;
            }
        }
        $paths = [];
        foreach (Leading::lead($rects, $ends) as $trace) {
            $paths[] = new Path($inside[$trace->ends->id], $trace->points(), $trace->sides, false);
        }

        return $paths;
    }

    private static function tablet(Tablet $tablet, Rect $at): string
    {
        $n = SvgText::number(...);
        $title = TextWidth::fitted($tablet->title, $at->width - 24, static fn (string $text): float => TextWidth::title($text, 16.5));
        $svg = '<a'.SvgText::attributes(['class' => 'tablet', 'href' => $tablet->link, 'data-entry' => $tablet->id]).'><title>'
            .SvgText::escape($tablet->tooltip ?: $tablet->title).'</title>'
            .'<rect'.SvgText::attributes(['class' => 'slab', 'x' => $at->x, 'y' => $at->y, 'width' => $at->width, 'height' => $at->height]).'/>'
            .SvgText::text($title, ['class' => 'title', 'x' => $at->x + 12, 'y' => $at->y + 22])
            .\sprintf('<path class="hair" d="M%s,%sH%s"/>', $n($at->x), $n($at->y + RegionMap::HEAD - 3), $n($at->right()));
        $keys = array_values(array_filter($tablet->rows, static fn (TabletRow $row): bool => $row->key || $row->leads));
        $room = (int) floor(($at->height - RegionMap::HEAD - 6) / 18);
        $svg .= '<g class="of-keys">';
        foreach (\array_slice($keys, 0, \count($keys) > $room ? max(0, $room - 1) : $room) as $i => $row) {
            $label = TextWidth::fitted($row->label, $at->width - 24, static fn (string $text): float => TextWidth::text($text, 13));
            $svg .= ($row->key ? '<rect'.SvgText::attributes(
                ['class' => 'key', 'x' => $at->x, 'y' => $at->y + RegionMap::HEAD + 18 * $i, 'width' => 3.5, 'height' => 16],
            ).'/>' : '')
                .SvgText::text(
                    $label,
                    ['class' => 'row said'.($row->key ? ' of-key' : ''), 'x' => $at->x + 12, 'y' => $at->y + RegionMap::HEAD + 13 + 18 * $i],
                );
        }
        if (\count($keys) > $room && $room > 0) {
            $svg .= SvgText::text(
                'and '.(\count($keys) - $room + 1).' more',
                ['class' => 'word', 'x' => $at->x + 12, 'y' => $at->y + RegionMap::HEAD + 13 + 18 * ($room - 1)],
            );
        }

        return $svg.'</g>'.self::fields($tablet, $at).'</a>';
    }

    private static function fields(Tablet $tablet, Rect $at): string
    {
        $svg = '<g class="of-fields">';
        $count = \count($tablet->rows);
        $shown = $count > RegionMap::MOST ? RegionMap::MOST - 1 : $count;
        foreach (\array_slice($tablet->rows, 0, $shown) as $i => $row) {
            $y = $at->y + RegionMap::HEAD + 7 + RegionMap::LINE * $i;
            $type = TextWidth::fitted($row->type, 90, static fn (string $text): float => TextWidth::text($text, self::SMALL));
            $room = $at->width - 30 - TextWidth::text($type, self::SMALL);
            $label = TextWidth::fitted($row->label, $room, static fn (string $text): float => TextWidth::text($text, self::SMALL + 0.6));
            $svg .= ($row->key ? '<rect'.SvgText::attributes(['class' => 'key', 'x' => $at->x, 'y' => $y - 7, 'width' => 2, 'height' => 8]).'/>' : '')
                .SvgText::text($label, ['class' => $row->key ? 'small of-key' : 'small', 'x' => $at->x + 12, 'y' => $y])
                .SvgText::text($type, ['class' => 'small type', 'x' => $at->right() - 8, 'y' => $y, 'text-anchor' => 'end']);
        }
        if ($shown < $count) {
            $y = $at->y + RegionMap::HEAD + 7 + RegionMap::LINE * $shown;
            $svg .= SvgText::text('and '.($count - $shown).' more', ['class' => 'small type', 'x' => $at->x + 12, 'y' => $y]);
        }

        return $svg.'</g>';
    }
}
