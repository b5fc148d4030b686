<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Join\End;

/**
 * Writes a layout as SVG. Classes carry the look (assets/styles/_diagram.scss); a standalone drawing brings its own styles,
 * so that it can be opened, printed and converted anywhere.
 */
final class SvgDrawing
{
    private const MARGIN = 32;
    private const FOOT = 12;
    private const LIGHT = ['stone' => '#F3F0E8', 'slab' => '#FCFBF7', 'strong' => '#B9B09B', 'ink' => '#23211C', 'faded' => '#6B6557', 'rubric' => '#A3271C'];

    /** @param array<string, string> $fonts family → address of a font file to embed in a standalone drawing */
    public static function draw(Layout $layout, TitleBlock $block, bool $standalone = false, array $fonts = []): string
    {
        $legend = self::legend($layout);
        $name = TextWidth::fitted($block->name, 420, static fn (string $text): float => TextWidth::title($text, 15));
        $details = self::details($block);
        $blockWidth = max(200, 24 + max([TextWidth::title($name, 15), ...array_map(static fn (string $line): float => TextWidth::text($line, 11.5), $details)]));
        $blockHeight = 38 + 17 * \count($details);
        $width = max($layout->width, 420, $blockWidth) + 2 * self::MARGIN;
        $room = $width - 2 * self::MARGIN - $blockWidth - 30;
        [$legendSvg, $legendHeight] = self::arranged($legend, $room > 200 ? $room : $width - 2 * self::MARGIN);
        $stacked = $room <= 200;
        $foot = $stacked ? $legendHeight + 20 + $blockHeight : max($blockHeight, $legendHeight);
        $height = $layout->height + $foot + 3 * self::MARGIN + 8;
        $top = $layout->height + 2 * self::MARGIN + 8;
        $n = self::number(...);

        $svg = \sprintf('<svg xmlns="http://www.w3.org/2000/svg" class="diagram" width="%1$s" height="%2$s" viewBox="0 0 %1$s %2$s" role="%4$s" aria-label="%3$s">', $n($width), $n($height), self::escape('Diagram: '.$block->name), $standalone ? 'img' : 'group')."\n";
        $svg .= '<title>'.self::escape($block->name)."</title>\n";
        if ($standalone) {
            $svg .= '<style>'.self::style($fonts)."</style>\n<rect class=\"page\" width=\"100%\" height=\"100%\"/>\n";
        }
        $svg .= '<g transform="translate('.self::MARGIN.','.self::MARGIN.")\">\n<g class=\"lines\">\n";
        foreach ($layout->paths as $path) {
            $svg .= self::line($path);
        }
        $svg .= "</g>\n<g class=\"tablets\">\n";
        $ties = self::ties($layout);
        foreach ($layout->shapes as $shape) {
            $svg .= self::tablet($shape, $standalone, $ties[$shape->tablet->id] ?? []);
        }
        $svg .= "</g>\n</g>\n<g class=\"legend\" transform=\"translate(".self::MARGIN.','.$n($top + ($stacked ? 0 : max(0, $foot - $legendHeight)) + 8).")\">$legendSvg</g>\n";
        $svg .= \sprintf('<g class="title-block" transform="translate(%s,%s)"><rect class="slab" width="%s" height="%s"/><path class="hair" d="M0,27H%3$s"/><text class="name" x="12" y="19">%s</text>', $n($stacked ? self::MARGIN : $width - self::MARGIN - $blockWidth), $n($stacked ? $top + $legendHeight + 20 : $top + $foot - $blockHeight), $n($blockWidth), $n($blockHeight), self::escape($name));
        foreach ($details as $i => $line) {
            $svg .= \sprintf('<text x="12" y="%d">%s</text>', 44 + 17 * $i, self::escape($line));
        }

        return $svg."</g>\n</svg>\n";
    }

    /** @return list<string> */
    private static function details(TitleBlock $block): array
    {
        $fit = static fn (string $text): string => TextWidth::fitted($text, 420, static fn (string $line): float => TextWidth::text($line, 11.5));

        return array_values(array_map($fit, array_filter([
            $block->purpose,
            implode(' · ', array_filter([$block->source, $block->author, $block->date])),
            $block->edition,
        ])));
    }

    /**
     * A join over several fields leaves from the row of the first; a bracket inside the edge ties the others to it.
     *
     * @return array<int, list<array{side: int, rows: non-empty-list<int>}>> by tablet
     */
    private static function ties(Layout $layout): array
    {
        $shapes = $ties = [];
        foreach ($layout->shapes as $shape) {
            $shapes[$shape->tablet->id] = $shape;
        }
        foreach ($layout->paths as $path) {
            $line = $path->line;
            foreach ([[$line->from, [$line->fromRow, ...$line->fromMore], $path->sides[0]], [$line->to, [$line->toRow, ...$line->toMore], $path->sides[1]]] as [$id, $names, $side]) {
                $rows = array_values(array_filter(array_map(static fn (string $name): int => $shapes[$id]->rowOf($name), $names), static fn (int $row): bool => $row >= 0));
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
        $n = self::number(...);
        $edge = $shape->x + (1 === $tie['side'] ? $shape->width : 0);
        $inside = $edge + (1 === $tie['side'] ? -1 : 1) * (7 + 3 * min(1, $number));
        $middles = array_map(static fn (int $row): float => $shape->y + $shape->rowTops[$row] + $shape->rowHeights[$row] / 2, $tie['rows']);
        $d = \sprintf('M%s,%sV%s', $n($inside), $n(min($middles)), $n(max($middles)));
        foreach ($middles as $y) {
            $d .= \sprintf('M%s,%sH%s', $n($edge), $n($y), $n($inside));
        }

        return '<path class="tie" d="'.$d.'"/>';
    }

    /** @param list<array{side: int, rows: non-empty-list<int>}> $ties */
    private static function tablet(TabletShape $shape, bool $standalone, array $ties): string
    {
        $tablet = $shape->tablet;
        $n = self::number(...);
        [$x, $y, $w, $h] = [$shape->x, $shape->y, $shape->width, $shape->height];
        $svg = \sprintf('<g class="tablet%s" data-entry="%d">', $tablet->marked ? ' marked' : '', $tablet->id);
        $linked = '' !== $tablet->link && !$standalone;
        $svg .= $linked ? '<a href="'.self::escape($tablet->link).'">' : '';
        $svg .= '<title>'.self::escape($tablet->tooltip ?: $tablet->title).'</title>';
        $svg .= \sprintf('<rect class="slab" x="%s" y="%s" width="%s" height="%s"/>', $n($x), $n($y), $n($w), $n($h));
        if ($tablet->marked) {
            $svg .= \sprintf('<rect class="outer" x="%s" y="%s" width="%s" height="%s"/>', $n($x - 3), $n($y - 3), $n($w + 6), $n($h + 6));
        }
        $base = [] === $shape->rows ? $y + $h / 2 + 5.5 : $y + 21;
        $svg .= \sprintf('<text class="title" x="%s" y="%s">%s</text>', $n($x + 12), $n($base), self::escape($shape->title));
        if ('' !== $tablet->word) {
            $svg .= \sprintf('<text class="word" x="%s" y="%s" text-anchor="end">%s</text>', $n($x + $w - 12), $n($base), self::escape($tablet->word));
        }
        if ('' !== $shape->grain) {
            $svg .= \sprintf('<text class="word" x="%s" y="%s">%s</text>', $n($x + 12), $n($y + 39), self::escape($shape->grain));
        }
        if ([] !== $shape->rows) {
            $svg .= \sprintf('<path class="hair" d="M%s,%sH%s"/>', $n($x), $n($y + $shape->headHeight), $n($x + $w));
            foreach ($shape->rows as $i => $row) {
                $top = $y + $shape->rowTops[$i];
                $middle = $top + $shape->rowHeights[$i] / 2;
                if ($row->key) {
                    $svg .= \sprintf('<rect class="key" x="%s" y="%s" width="3.5" height="%s"/>', $n($x), $n($top + 2), $n($shape->rowHeights[$i] - 4));
                }
                $label = TextWidth::fitted($row->label, $w - 24, static fn (string $text): float => TextWidth::code($text, TabletShape::CODE_SIZE));
                $svg .= \sprintf('<text class="row%s" x="%s" y="%s">%s%s</text>', $row->key ? ' of-key' : '', $n($x + 12), $n($middle + 4), '' === $row->tooltip ? '' : '<title>'.self::escape($row->tooltip).'</title>', self::escape($label));
            }
            if ($shape->cut > 0 && $shape->cut < $h) {
                $svg .= \sprintf('<path class="hair" d="M%s,%sH%s"/>', $n($x), $n($y + $shape->cut + 5), $n($x + $w));
            }
        }

        foreach ($ties as $number => $tie) {
            $svg .= self::tie($shape, $tie, $number);
        }

        return $svg.($linked ? '</a>' : '')."</g>\n";
    }

    private static function line(Path $path): string
    {
        $line = $path->line;
        $n = self::number(...);
        $svg = \sprintf('<g class="line %s" data-join="%d" data-from="%d" data-to="%d"><title>%s</title>', self::escape($line->kind), $line->id, $line->from, $line->to, self::escape($line->tooltip));
        foreach ('documented' === $line->kind ? self::withGap($path->points) : [$path->points] as $part) {
            $svg .= '<path d="'.self::rounded($part).'"/>';
        }
        $svg .= self::mark($path->points[0], $path->sides[0], $line->fromEnd).self::mark($path->points[\count($path->points) - 1], $path->sides[1], $line->toEnd);
        $label = $path->label();
        if (null !== $label) {
            $svg .= \sprintf('<text class="verb" x="%s" y="%s"%s>%s</text>', $n(1 === $path->sides[0] ? $label['x'] : $label['x'] + $label['width']), $n($label['y'] + 8), 1 === $path->sides[0] ? '' : ' text-anchor="end"', self::escape($line->verb));
        }

        return $svg."</g>\n";
    }

    /** @param array{float, float} $at */
    private static function mark(array $at, int $side, End $end): string
    {
        [$x, $y] = $at;
        $d = 1 === $side ? 1 : -1;
        $n = self::number(...);
        $bar = static fn (float $off): string => \sprintf('M%s,%sv10', $n($x + $d * $off), $n($y - 5));
        $ring = static fn (float $off): string => \sprintf('<circle class="ring" cx="%s" cy="%s" r="4"/>', $n($x + $d * $off), $n($y));
        $foot = \sprintf('M%s,%sL%s,%sL%1$s,%s', $n($x), $n($y - 5), $n($x + $d * self::FOOT), $n($y), $n($y + 5));

        return match ($end) {
            End::One => '<path d="'.$bar(9).$bar(13).'"/>',
            End::NoneOrOne => '<path d="'.$bar(9).'"/>'.$ring(16),
            End::OneOrMore => '<path d="'.$foot.$bar(16).'"/>',
            End::NoneOrMore => '<path d="'.$foot.'"/>'.$ring(17),
        };
    }

    /** @param list<array{float, float}> $points */
    private static function rounded(array $points): string
    {
        $n = self::number(...);
        $d = 'M'.$n($points[0][0]).','.$n($points[0][1]);
        for ($i = 1, $last = \count($points) - 1; $i < $last; ++$i) {
            [[$ax, $ay], [$bx, $by], [$cx, $cy]] = [$points[$i - 1], $points[$i], $points[$i + 1]];
            $r = min(4, (abs($bx - $ax) + abs($by - $ay)) / 2, (abs($cx - $bx) + abs($cy - $by)) / 2);
            $d .= \sprintf('L%s,%sQ%s,%s %s,%s', $n($bx - $r * ($bx <=> $ax)), $n($by - $r * ($by <=> $ay)), $n($bx), $n($by), $n($bx + $r * ($cx <=> $bx)), $n($by + $r * ($cy <=> $by)));
        }

        return $d.'L'.$n($points[\count($points) - 1][0]).','.$n($points[\count($points) - 1][1]);
    }

    /**
     * Cuts the longest piece in its middle.
     *
     * @param list<array{float, float}> $points
     *
     * @return list<list<array{float, float}>>
     */
    private static function withGap(array $points): array
    {
        $best = 1;
        $length = static fn (int $i): float => abs($points[$i][0] - $points[$i - 1][0]) + abs($points[$i][1] - $points[$i - 1][1]);
        for ($i = 1, $n = \count($points); $i < $n; ++$i) {
            $best = $length($i) > $length($best) ? $i : $best;
        }
        [[$ax, $ay], [$bx, $by]] = [$points[$best - 1], $points[$best]];
        [$mx, $my, $ux, $uy] = [($ax + $bx) / 2, ($ay + $by) / 2, 4 * ($bx <=> $ax), 4 * ($by <=> $ay)];

        return [
            [...\array_slice($points, 0, $best), [$mx - $ux, $my - $uy]],
            [[$mx - $ux - abs($uy), $my - $uy - abs($ux)], [$mx - $ux + abs($uy), $my - $uy + abs($ux)]],
            [[$mx + $ux - abs($uy), $my + $uy - abs($ux)], [$mx + $ux + abs($uy), $my + $uy + abs($ux)]],
            [[$mx + $ux, $my + $uy], ...\array_slice($points, $best)],
        ];
    }

    /** @return list<array{string, string}> drawing and words of each sign that the diagram uses */
    private static function legend(Layout $layout): array
    {
        $ends = $kinds = [];
        foreach ($layout->paths as $path) {
            $ends[$path->line->fromEnd->value] = $ends[$path->line->toEnd->value] = true;
            $kinds[$path->line->kind] = true;
        }
        $signs = [];
        foreach ([[End::One, 'exactly one'], [End::NoneOrOne, 'none or one'], [End::OneOrMore, 'one or more'], [End::NoneOrMore, 'none or more']] as [$end, $words]) {
            if (isset($ends[$end->value])) {
                $signs[] = ['<g class="line declared"><path d="M0,0H44"/>'.self::mark([44.0, 0.0], 0, $end).'</g>', $words];
            }
        }
        foreach (['documented' => 'documented, not enforced', 'proposed' => 'proposed'] as $kind => $words) {
            if (isset($kinds[$kind])) {
                $parts = 'documented' === $kind ? self::withGap([[0.0, 0.0], [44.0, 0.0]]) : [[[0.0, 0.0], [44.0, 0.0]]];
                $signs[] = ['<g class="line '.$kind.'">'.implode('', array_map(static fn (array $part): string => '<path d="'.self::rounded($part).'"/>', $parts)).'</g>', $words];
            }
        }
        foreach ($layout->shapes as $shape) {
            if ([] !== array_filter($shape->rows, static fn (TabletRow $row): bool => $row->key)) {
                $signs[] = ['<rect class="key" x="40" y="-8" width="3.5" height="16"/>', 'primary key'];
                break;
            }
        }

        return $signs;
    }

    /**
     * @param list<array{string, string}> $signs
     *
     * @return array{string, float}
     */
    private static function arranged(array $signs, float $room): array
    {
        $x = 0.0;
        $y = 0;
        $svg = '';
        foreach ($signs as [$sign, $words]) {
            $width = 54 + TextWidth::text($words, 11.5) + 26;
            if ($x > 0 && $x + $width > $room) {
                [$x, $y] = [0.0, $y + 22];
            }
            $svg .= \sprintf('<g transform="translate(%s,%d)">%s<text x="54" y="4">%s</text></g>', self::number($x), $y, $sign, $words);
            $x += $width;
        }

        return [$svg, [] === $signs ? 0.0 : $y + 22.0];
    }

    /** @param array<string, string> $fonts */
    private static function style(array $fonts): string
    {
        $css = '';
        foreach ($fonts as $family => $address) {
            $css .= \sprintf("@font-face{font-family:'%s';font-weight:100 900;src:url(%s) format('woff2')}", $family, $address);
        }
        ['stone' => $stone, 'slab' => $slab, 'strong' => $strong, 'ink' => $ink, 'faded' => $faded, 'rubric' => $rubric] = self::LIGHT;

        return $css.".page{fill:$stone}.slab{fill:$slab;stroke:$strong}.outer{fill:none;stroke:$strong}.hair{fill:none;stroke:$strong}.tie{fill:none;stroke:$ink}.key{fill:$rubric}"
            ."text{font:400 11.5px 'Commissioner','Commissioner Variable',sans-serif;fill:$faded}.title{font:400 16.5px 'Marcellus',serif;fill:$ink}.word{font-size:11px;font-weight:500}"
            .".row{font:400 12.5px 'Source Code Pro','Source Code Pro Variable',monospace;fill:$ink}.of-key{font-weight:600}.name{font:400 15px 'Marcellus',serif;fill:$ink}"
            .".line path{fill:none;stroke:$ink;stroke-width:1.25}.line.proposed{opacity:.45}.ring{fill:$stone;stroke:$ink;stroke-width:1.25}.verb{font-size:12px;font-weight:500;font-style:italic;fill:$rubric}";
    }

    private static function number(float|int $value): string
    {
        return (string) round($value, 1);
    }

    private static function escape(string $text): string
    {
        return htmlspecialchars(preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '', mb_scrub($text)) ?? '', \ENT_QUOTES | \ENT_XML1);
    }
}
