<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Piece;

use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\SvgText;

/** A note: a text in Markdown, broken into lines, as high as these are. */
final class Remark extends PieceKind
{
    public function name(): string
    {
        return 'note';
    }

    public function key(): string
    {
        return 't';
    }

    public function rank(): int
    {
        return 20;
    }

    public function writing(): string
    {
        return 'Note, in Markdown';
    }

    public function isLong(): bool
    {
        return true;
    }

    public function made(): array
    {
        return ['width' => Note::WIDTH];
    }

    public function width(Note $note, float $given): float
    {
        return max(60.0, $given);
    }

    public function height(Note $note, float $given): float
    {
        return ceil((max(1, \count($note->lines)) * Note::LINE + 2 * Note::PAD) / 10) * 10;
    }

    public function svg(Note $note, bool $standalone): string
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
