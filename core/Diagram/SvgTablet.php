<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** An entry as SVG. */
final class SvgTablet
{
    /** @param list<array{side: int, rows: non-empty-list<int>}> $ties */
    public static function group(TabletShape $shape, bool $standalone, array $ties): string
    {
        $tablet = $shape->tablet;
        $classes = ['tablet', ...array_keys(array_filter(['marked' => $tablet->marked, 'gone' => $tablet->gone]))];
        $svg = '<g'.SvgText::attributes(['class' => implode(' ', $classes), 'data-entry' => $tablet->id]).'>';
        // A drawing that stands alone leads only to addresses that mean the same wherever it is opened.
        $linked = '' !== $tablet->link && (!$standalone || 1 === preg_match('~^https?://~', $tablet->link));
        $svg .= $linked ? '<a'.SvgText::attributes(['href' => $tablet->link]).'>' : '';
        $svg .= '<title>'.SvgText::escape($tablet->tooltip ?: $tablet->title).'</title>'.self::head($shape);
        foreach ($shape->rows as $i => $row) {
            $svg .= self::row($shape, $i, $row);
        }
        if ([] !== $shape->rows && $shape->cut > 0 && $shape->cut < $shape->height) {
            $svg .= self::rule($shape, $shape->cut + 5);
        }
        foreach ($ties as $number => $tie) {
            $svg .= self::tie($shape, $tie, $number);
        }

        return $svg.($linked ? '</a>' : '').self::leads($shape)."</g>\n";
    }

    private static function head(TabletShape $shape): string
    {
        $tablet = $shape->tablet;
        $x = $shape->x;
        $y = $shape->y;
        $w = $shape->width;
        $h = $shape->height;
        $svg = '<rect'.SvgText::attributes(['class' => 'slab', 'x' => $x, 'y' => $y, 'width' => $w, 'height' => $h]).'/>';
        if ($tablet->marked || 'fact' === $tablet->word) {
            $svg .= '<rect'.SvgText::attributes(['class' => 'outer', 'x' => $x - 3, 'y' => $y - 3, 'width' => $w + 6, 'height' => $h + 6]).'/>';
        }
        $base = [] === $shape->rows ? $y + $h / 2 + 5.5 : $y + 21;
        $svg .= SvgText::text($shape->title, ['class' => 'title', 'x' => $x + 12, 'y' => $base]);
        if ('' !== $tablet->word) {
            $svg .= SvgText::text($tablet->word, ['class' => 'word', 'x' => $x + $w - 12 - $shape->leadsWidth, 'y' => $base, 'text-anchor' => 'end']);
        }
        if ('' !== $shape->grain) {
            $svg .= SvgText::text($shape->grain, ['class' => 'word', 'x' => $x + 12, 'y' => $y + 39]);
        }

        return [] === $shape->rows ? $svg : $svg.self::rule($shape, $shape->headHeight);
    }

    private static function row(TabletShape $shape, int $i, TabletRow $row): string
    {
        $top = $shape->y + $shape->rowTops[$i];
        $svg = '';
        if ($row->key) {
            $svg .= '<rect'.SvgText::attributes([
                'class' => 'key', 'x' => $shape->x, 'y' => $top + 2, 'width' => 3.5, 'height' => $shape->rowHeights[$i] - 4,
            ]).'/>';
        }
        $y = $top + $shape->rowHeights[$i] / 2 + 4;
        $type = $shape->typed ? TextWidth::fitted($row->type, TabletShape::TYPE_MOST, static fn (string $text): float => TextWidth::text($text, 11)) : '';
        $room = $shape->width - 24 - ('' === $type ? 0 : 18 + TextWidth::text($type, 11));
        $label = TextWidth::fitted($row->label, $room, $shape->labelWidth(...));
        $class = ($shape->tablet->spoken ? 'row said' : 'row').($row->key ? ' of-key' : '').($row->worked ? ' worked' : '');
        $svg .= '<text'.SvgText::attributes(['class' => $class, 'x' => $shape->x + 12, 'y' => $y, 'data-field' => $row->name]).'>'
            .('' === $row->tooltip ? '' : '<title>'.SvgText::escape($row->tooltip).'</title>').SvgText::escape($label).'</text>';

        return '' === $type ? $svg : $svg.SvgText::text($type, ['class' => 'word', 'x' => $shape->x + $shape->width - 12, 'y' => $y, 'text-anchor' => 'end']);
    }

    private static function rule(TabletShape $shape, float $at): string
    {
        $n = SvgText::number(...);

        return \sprintf('<path class="hair" d="M%s,%sH%s"/>', $n($shape->x), $n($shape->y + $at), $n($shape->x + $shape->width));
    }

    /** How many joins lead out of the picture. */
    private static function leads(TabletShape $shape): string
    {
        $count = $shape->tablet->leads;
        if (0 === $count) {
            return '';
        }
        $y = [] === $shape->rows ? $shape->y + $shape->height / 2 + 5.5 : $shape->y + 21;
        $words = 1 === $count ? '1 join leads out of the picture' : $count.' joins lead out of the picture';

        return '<g class="leads" data-leads="'.$shape->tablet->id.'"><title>'.$words.'</title>'
            .SvgText::text('+'.$count, ['class' => 'word', 'x' => $shape->x + $shape->width - 10, 'y' => $y, 'text-anchor' => 'end']).'</g>';
    }

    /**
     * A join over several fields leaves from the row of the first; a bracket inside the edge ties the others to it.
     *
     * @return array<int, list<array{side: int, rows: non-empty-list<int>}>> by tablet
     */
    public static function ties(Layout $layout): array
    {
        $shapes = $ties = [];
        foreach ($layout->shapes as $shape) {
            $shapes[$shape->tablet->id] = $shape;
        }
        foreach ($layout->paths as $path) {
            $line = $path->line;
            foreach ([
                [$line->from, [$line->fromRow, ...$line->fromMore], $path->sides[0]],
                [$line->to, [$line->toRow, ...$line->toMore], $path->sides[1]],
            ] as [$id, $names, $side]) {
                $rows = array_values(
                    array_filter(array_map(static fn (string $name): int => $shapes[$id]->rowOf($name), $names), static fn (int $row): bool => $row >= 0),
                );
                if (\count($rows) > 1) {
                    $ties[$id][] = ['side' => $side, 'rows' => $rows];
                }
            }
        }

        return $ties;
    }

    /** @param array{side: int, rows: non-empty-list<int>} $tie */
    private static function tie(TabletShape $shape, array $tie, int $number): string
    {
        $n = SvgText::number(...);
        $edge = $shape->x + (1 === $tie['side'] ? $shape->width : 0);
        $inside = $edge + (1 === $tie['side'] ? -1 : 1) * (7 + 3 * min(1, $number));
        $middles = array_map(static fn (int $row): float => $shape->y + $shape->rowTops[$row] + $shape->rowHeights[$row] / 2, $tie['rows']);
        $d = \sprintf('M%s,%sV%s', $n($inside), $n(min($middles)), $n(max($middles)));
        foreach ($middles as $y) {
            $d .= \sprintf('M%s,%sH%s', $n($edge), $n($y), $n($inside));
        }

        return '<path class="tie" d="'.$d.'"/>';
    }
}
