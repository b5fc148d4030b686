<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Piece;

use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\SvgText;
use Fasti\Core\Diagram\TextWidth;

/** A line of large words, as wide as they are. */
final class Heading extends PieceKind
{
    private const SIZE = 22.0;

    public function name(): string
    {
        return 'heading';
    }

    public function key(): string
    {
        return 'h';
    }

    public function rank(): int
    {
        return 10;
    }

    public function room(): array
    {
        return [300, 40];
    }

    public function width(Note $note, float $given): float
    {
        return ceil((TextWidth::title($note->words(), self::SIZE) + 8) / 10) * 10;
    }

    public function height(Note $note, float $given): float
    {
        return 40.0;
    }

    public function svg(Note $note, bool $standalone): string
    {
        return '<rect'.SvgText::attributes(['class' => 'hold', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => $note->height]).'/>'
            .SvgText::text($note->words(), ['class' => 'heading', 'x' => $note->x + 4, 'y' => $note->y + 28]);
    }
}
