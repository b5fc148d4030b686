<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Piece;

use Fasti\Core\Catalog\ClosedSet;
use Fasti\Core\Catalog\FoundBeside;
use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Note;

/**
 * A kind of thing that people put on a diagram besides tablets. Each class beside this one is found by being here, and says all of it: its
 * size, what lines go round, how it is drawn, large and small, how it is made and by which key. The scripts of the board have it from the page.
 */
abstract class PieceKind implements ClosedSet
{
    use FoundBeside;

    /** As an arrangement and people call it: `heading`. */
    abstract public function name(): string;

    /** The key by which one is made. */
    abstract public function key(): string;

    abstract public function width(Note $note, float $given): float;

    abstract public function height(Note $note, float $given): float;

    /** What is drawn, within the group of the note. */
    abstract public function svg(Note $note, bool $standalone): string;

    public function rank(): int
    {
        return 50;
    }

    /** What the field is called in which its text is written. */
    public function writing(): string
    {
        return ucfirst($this->name());
    }

    /** Its text has several lines. */
    public function isLong(): bool
    {
        return false;
    }

    /** It lies behind all else, moves what lies in it, grows with that, and is not in the way of lines and of other things. */
    public function holds(): bool
    {
        return false;
    }

    /** @return array{int, int} the room that is looked for when one is made, in px */
    public function room(): array
    {
        return [Note::WIDTH, 110];
    }

    /** @return array<string, int> what an arrangement says of its size when one is made: `width`, `height` */
    public function made(): array
    {
        return [];
    }

    /** What lines have to go round. */
    public function ground(Note $note): Rect
    {
        return new Rect($note->x, $note->y, $note->width, $note->height);
    }

    /** The class of its rectangle in a picture as small as a stamp. */
    public function small(): string
    {
        return 'words';
    }

    /** @return array<string, mixed> what the scripts of the board have to know of it */
    final public function forTheBoard(): array
    {
        return [
            'key' => $this->key(), 'writing' => $this->writing(), 'long' => $this->isLong(), 'holds' => $this->holds(), 'room' => $this->room(),
            'made' => (object) $this->made(),
        ];
    }
}
