<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A heading, a note or a frame as SVG. */
final class SvgNote
{
    public static function group(Note $note, bool $standalone): string
    {
        $svg = '<g'.SvgText::attributes(['class' => 'note of-'.$note->kind->value, 'data-note' => $note->key]).'>';
        $x = $note->x;
        $y = $note->y;
        $svg .= match ($note->kind) {
            NoteKind::Heading => '<rect'.SvgText::attributes(['class' => 'hold', 'x' => $x, 'y' => $y, 'width' => $note->width, 'height' => $note->height]).'/>'
                .SvgText::text($note->words(), ['class' => 'heading', 'x' => $x + 4, 'y' => $y + 28]),
            NoteKind::Note => self::note($note, $standalone),
            NoteKind::Frame => self::frame($note),
        };

        return $svg."</g>\n";
    }

    private static function frame(Note $note): string
    {
        $most = $note->width - 2 * Note::PAD;
        $title = TextWidth::fitted($note->words(), $most, static fn (string $text): float => TextWidth::title($text, 15));

        return '<rect'.SvgText::attributes(['class' => 'frame', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => $note->height]).'/>'
            .'<rect'.SvgText::attributes(['class' => 'hold', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => 30]).'/>'
            .SvgText::text($title, ['class' => 'name', 'x' => $note->x + Note::PAD, 'y' => $note->y + 21])
            .'<path'.SvgText::attributes([
                'class' => 'grip', 'd' => \sprintf('M%s,%sh-12l12,-12z', SvgText::number($note->x + $note->width), SvgText::number($note->y + $note->height)),
            ]).'/>';
    }

    private static function note(Note $note, bool $standalone): string
    {
        $svg = '<rect'.SvgText::attributes(['class' => 'sheet', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => $note->height]).'/>';
        foreach ($note->lines as $i => $line) {
            $svg .= '<text'.SvgText::attributes(
                ['class' => 'said', 'x' => $note->x + Note::PAD, 'y' => $note->y + Note::PAD + 13 + Note::LINE * $i],
            ).' xml:space="preserve">';
            foreach ($line as $span) {
                $words = '<tspan'.SvgText::attributes('plain' === $span->style ? [] : ['class' => $span->style]).'>'.SvgText::escape($span->text).'</tspan>';
                $svg .= '' === $span->link || $standalone ? $words : '<a'.SvgText::attributes(['href' => $span->link]).'>'.$words.'</a>';
            }
            $svg .= '</text>';
        }

        return $svg;
    }
}
