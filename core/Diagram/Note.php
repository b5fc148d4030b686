<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;
use Fasti\Core\Diagram\Piece\PieceKind;

/** Words that a person has put on a diagram, as a piece of some kind. */
final readonly class Note
{
    public const TEXT_SIZE = 13.0;
    public const LINE = 18;
    public const PAD = 12;
    public const WIDTH = 240;

    /** @var list<list<NoteSpan>> a note's text in lines, as it is broken */
    public array $lines;
    public float $width;
    public float $height;

    /**
     * @param string $key    by which a diagram knows it
     * @param float  $width  of a note and of a frame; a heading is as wide as its words
     * @param float  $height of a frame; a note is as high as its text
     */
    public function __construct(
        public string $key,
        public PieceKind $kind,
        public string $text,
        public float $x,
        public float $y,
        float $width = self::WIDTH,
        float $height = 160,
    ) {
        $this->lines = $kind->isLong() ? NoteText::lines($text, $width - 2 * self::PAD) : [];
        $this->width = $kind->width($this, $width);
        $this->height = $kind->height($this, $height);
    }

    public function at(float $x, float $y): self
    {
        return new self($this->key, $this->kind, $this->text, $x, $y, $this->width, $this->height);
    }

    /** What stands in it in one line. */
    public function words(): string
    {
        return trim(preg_replace('/\s+/u', ' ', $this->text) ?? $this->text);
    }

    /** What lines have to go round. */
    public function ground(): Rect
    {
        return $this->kind->ground($this);
    }
}
