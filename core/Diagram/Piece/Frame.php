<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Piece;

use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Note;
use Fasti\Core\Diagram\SvgText;
use Fasti\Core\Diagram\TextWidth;

/** A titled rectangle that holds what lies in it. */
final class Frame extends PieceKind
{
    private const HEAD = 30;
    private const TITLE = 15.0;

    public function name(): string
    {
        return 'frame';
    }

    public function key(): string
    {
        return 'r';
    }

    public function rank(): int
    {
        return 30;
    }

    public function writing(): string
    {
        return 'Title of the frame';
    }

    public function holds(): bool
    {
        return true;
    }

    public function made(): array
    {
        return ['width' => 420, 'height' => 300];
    }

    public function width(Note $note, float $given): float
    {
        return max(60.0, $given);
    }

    public function height(Note $note, float $given): float
    {
        return max(60.0, $given);
    }

    /** Of a frame only its title, since lines may enter it. */
    public function ground(Note $note): Rect
    {
        return new Rect($note->x, $note->y, min($note->width, 2 * Note::PAD + TextWidth::title($note->words(), self::TITLE)), self::HEAD);
    }

    public function small(): string
    {
        return 'frame';
    }

    public function svg(Note $note, bool $standalone): string
    {
        $most = $note->width - 2 * Note::PAD;
        $title = TextWidth::fitted($note->words(), $most, static fn (string $text): float => TextWidth::title($text, self::TITLE));

        return '<rect'.SvgText::attributes(['class' => 'frame', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => $note->height]).'/>'
            .'<rect'.SvgText::attributes(['class' => 'hold', 'x' => $note->x, 'y' => $note->y, 'width' => $note->width, 'height' => self::HEAD]).'/>'
            .SvgText::text($title, ['class' => 'name', 'x' => $note->x + Note::PAD, 'y' => $note->y + 21])
            .'<path'.SvgText::attributes([
                'class' => 'grip', 'd' => \sprintf('M%s,%sh-12l12,-12z', SvgText::number($note->x + $note->width), SvgText::number($note->y + $note->height)),
            ]).'/>';
    }
}
