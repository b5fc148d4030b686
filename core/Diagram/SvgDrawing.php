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
    private const LIGHT = [
        'stone' => '#F3F0E8', 'slab' => '#FCFBF7', 'strong' => '#B9B09B', 'ink' => '#23211C', 'faded' => '#6B6557', 'rubric' => '#A3271C', 'wash' => '#ECE7DA',
    ];

    /** @param array<string, string> $fonts family → address of a font file to embed in a standalone drawing */
    public static function draw(Layout $layout, TitleBlock $block, bool $standalone = false, array $fonts = []): string
    {
        $legend = self::legend($layout);
        $name = TextWidth::fitted($block->name, 420, static fn (string $text): float => TextWidth::title($text, 15));
        $details = self::details($block);
        $blockWidth = max(
            200,
            24 + max([TextWidth::title($name, 15), ...array_map(static fn (string $line): float => TextWidth::text($line, 11.5), $details)]),
        );
        $blockHeight = 38 + 17 * \count($details);
        $width = max($layout->width, 420, $blockWidth) + 2 * self::MARGIN;
        $room = $width - 2 * self::MARGIN - $blockWidth - 30;
        $stacked = $room <= 200;
        [$legendSvg, $legendHeight] = self::arranged($legend, $stacked ? $width - 2 * self::MARGIN : $room);
        $foot = $stacked ? $legendHeight + 20 + $blockHeight : max($blockHeight, $legendHeight);
        $left = $layout->left - self::MARGIN;
        $top = $layout->top - self::MARGIN;
        $under = $layout->top + $layout->height + self::MARGIN + 8;
        $height = $under - $top + $foot + self::MARGIN;
        $svg = '<svg'.SvgText::attributes([
            'xmlns' => 'http://www.w3.org/2000/svg', 'class' => 'diagram', 'width' => $width, 'height' => $height,
            'viewBox' => implode(' ', array_map(SvgText::number(...), [$left, $top, $width, $height])),
            'role' => $standalone ? 'img' : 'group', 'aria-label' => 'Diagram: '.$block->name,
        ]).">\n<title>".SvgText::escape($block->name)."</title>\n";
        if ($standalone) {
            $svg .= '<desc>'.SvgText::escape(self::inWords($layout)).'</desc><style>'.self::style($fonts)."</style>\n<rect".SvgText::attributes([
                'class' => 'page', 'x' => $left, 'y' => $top, 'width' => '100%', 'height' => '100%',
            ])."/>\n";
        }
        $legendTop = $under + ($stacked ? 0 : max(0, $foot - $legendHeight)) + 8;
        $svg .= self::body($layout, $standalone).'<g'.SvgText::attributes([
            'class' => 'legend', 'transform' => 'translate('.SvgText::number($layout->left).','.SvgText::number($legendTop).')',
        ]).">$legendSvg</g>\n";
        $blockAt = $stacked ? [$layout->left, $under + $legendHeight + 20] : [$left + $width - self::MARGIN - $blockWidth, $under + $foot - $blockHeight];
        $svg .= '<g'.SvgText::attributes(['class' => 'title-block', 'transform' => 'translate('.implode(',', array_map(SvgText::number(...), $blockAt)).')'])
            .'><rect'.SvgText::attributes(['class' => 'slab', 'width' => $blockWidth, 'height' => $blockHeight])
            .'/><path class="hair" d="M0,27H'.SvgText::number($blockWidth).'"/>'.SvgText::text($name, ['class' => 'name', 'x' => 12, 'y' => 19]);
        foreach ($details as $i => $line) {
            $svg .= SvgText::text($line, ['x' => 12, 'y' => 44 + 17 * $i]);
        }

        return $svg."</g>\n</svg>\n";
    }

    /** The picture alone, for a page that says the rest beside it. */
    public static function bare(Layout $layout, string $name): string
    {
        $box = [$layout->left - self::MARGIN, $layout->top - self::MARGIN, $layout->width + 2 * self::MARGIN, $layout->height + 2 * self::MARGIN];

        return '<svg'.SvgText::attributes([
            'xmlns' => 'http://www.w3.org/2000/svg', 'class' => 'diagram', 'width' => $box[2], 'height' => $box[3],
            'viewBox' => implode(' ', array_map(SvgText::number(...), $box)), 'role' => 'group', 'aria-label' => 'Drawing: '.$name,
        ]).">\n<title>".SvgText::escape($name)."</title>\n".self::body($layout, false)."</svg>\n";
    }

    private static function body(Layout $layout, bool $standalone): string
    {
        $svg = '<g class="frames">';
        foreach ($layout->notes as $note) {
            $svg .= $note->kind->holds() ? SvgNote::group($note, $standalone) : '';
        }
        $svg .= "</g>\n<g class=\"lines\">\n";
        foreach ($layout->paths as $path) {
            $svg .= SvgLine::group($path);
        }
        $svg .= "</g>\n<g class=\"tablets\">\n";
        $ties = SvgTablet::ties($layout);
        foreach ($layout->shapes as $shape) {
            $svg .= SvgTablet::group($shape, $standalone, $ties[$shape->tablet->id] ?? []);
        }
        $svg .= "</g>\n<g class=\"notes\">";
        foreach ($layout->notes as $note) {
            $svg .= $note->kind->holds() ? '' : SvgNote::group($note, $standalone);
        }

        return $svg."</g>\n";
    }

    /** What the picture shows, for who cannot see it: every entry, then every join as a sentence. */
    public static function inWords(Layout $layout): string
    {
        $words = [implode(', ', array_map(static fn (TabletShape $shape): string => $shape->tablet->title, $layout->shapes)).'.'];
        foreach ($layout->notes as $note) {
            $words[] = $note->words();
        }
        foreach ($layout->paths as $path) {
            $words[] = $path->line->tooltip;
        }

        return implode("\n", $words);
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

    /** @return list<array{string, string}> drawing and words of each sign that the diagram uses */
    private static function legend(Layout $layout): array
    {
        $ends = $kinds = [];
        foreach ($layout->paths as $path) {
            $ends[$path->line->fromEnd->value] = $ends[$path->line->toEnd->value] = true;
            $kinds[$path->line->kind] = true;
        }
        $signs = [];
        foreach ([
            [End::One, 'exactly one'],
            [End::NoneOrOne, 'none or one'],
            [End::OneOrMore, 'one or more'],
            [End::NoneOrMore, 'none or more'],
        ] as [$end, $words]) {
            if (isset($ends[$end->value])) {
                $signs[] = ['<g class="line declared"><path d="M0,0H44"/>'.SvgLine::mark([44.0, 0.0], 0, $end).'</g>', $words];
            }
        }
        foreach (['documented' => 'documented, not enforced', 'proposed' => 'proposed'] as $kind => $words) {
            if (isset($kinds[$kind])) {
                $parts = 'documented' === $kind ? SvgLine::withGap([[0.0, 0.0], [44.0, 0.0]]) : [[[0.0, 0.0], [44.0, 0.0]]];
                $signs[] = [
                    '<g class="line '.$kind.'">'.implode(
                        '',
                        array_map(static fn (array $part): string => '<path d="'.SvgLine::rounded($part).'"/>', $parts),
                    ).'</g>',
                    $words,
                ];
            }
        }
        $occurs = static fn (callable $what): bool => [] !== array_filter($layout->shapes, $what);
        $anyKey = static fn (TabletShape $shape): bool => [] !== array_filter($shape->rows, static fn (TabletRow $row): bool => $row->key);
        if ($occurs($anyKey)) {
            $signs[] = ['<rect class="key" x="40" y="-8" width="3.5" height="16"/>', 'primary key'];
        }
        if ($occurs(static fn (TabletShape $shape): bool => 'fact' === $shape->tablet->word)) {
            $signs[] = ['<rect class="slab" x="19" y="-5" width="22" height="10"/><rect class="outer" x="16" y="-8" width="28" height="16"/>', 'fact'];
        }
        if ($occurs(static fn (TabletShape $shape): bool => $shape->tablet->leads > 0)) {
            $signs[] = ['<text class="word" x="44" y="4" text-anchor="end">+3</text>', 'joins that lead out of the picture'];
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
                $x = 0.0;
                $y += 22;
            }
            $svg .= \sprintf('<g transform="translate(%s,%d)">%s<text x="54" y="4">%s</text></g>', SvgText::number($x), $y, $sign, $words);
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
        ['stone' => $stone, 'slab' => $slab, 'strong' => $strong, 'ink' => $ink, 'faded' => $faded, 'rubric' => $rubric, 'wash' => $wash] = self::LIGHT;

        $text = "'Commissioner','Commissioner Variable',sans-serif";
        $code = "'Source Code Pro','Source Code Pro Variable',monospace";

        return $css.implode('', [
            ".page{fill:$stone}.slab{fill:$slab;stroke:$strong}.outer,.hair{fill:none;stroke:$strong}.marked>.outer{stroke:$rubric}.tie{fill:none;stroke:$ink}",
            ".key{fill:$rubric}text{font:400 11.5px $text;fill:$faded}.title{font:400 16.5px 'Marcellus',serif;fill:$ink}.word{font-size:11px;font-weight:500}",
            ".row{font:400 12.5px $code;fill:$ink}.row.said{font:400 13px $text}.row.of-key{font-weight:600}.name{font:400 15px 'Marcellus',serif;fill:$ink}",
            ".heading{font:400 22px 'Marcellus',serif;fill:$ink}.frame{fill:none;stroke:$strong;stroke-dasharray:7 4}.hold,.grip{fill:none}.sheet{fill:$wash}",
            ".note .said{font:400 13px $text;fill:$ink}.strong{font-weight:650}.stressed{font-style:italic}tspan.code{font-family:$code;font-size:12px}",
            ".line path{fill:none;stroke:$ink;stroke-width:1.25}.line .touch{stroke:none}.line.proposed{opacity:.45}a{text-decoration:none}",
            ".ring{fill:$stone;stroke:$ink;stroke-width:1.25}.verb{font-size:12px;font-weight:500;font-style:italic;fill:$rubric}",
            '.gone .title,.gone .row{text-decoration:line-through}',
        ]);
    }
}
