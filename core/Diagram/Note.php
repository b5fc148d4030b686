<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/** Words that a person has put on a diagram: a heading, a note, or a frame with its title. */
final readonly class Note
{
    public const HEADING_SIZE = 22.0;
    public const TEXT_SIZE = 13.0;
    public const LINE = 18;
    public const PAD = 12;
    public const WIDTH = 240;
    private const FRAME_HEAD = 30;
    private const TITLE_SIZE = 15.0;

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
        public NoteKind $kind,
        public string $text,
        public float $x,
        public float $y,
        float $width = self::WIDTH,
        float $height = 160,
    ) {
        $this->lines = NoteKind::Note === $kind ? NoteText::lines($text, $width - 2 * self::PAD) : [];
        $this->width = match ($kind) {
            NoteKind::Heading => ceil((TextWidth::title($this->words(), self::HEADING_SIZE) + 8) / 10) * 10,
            default => max(60.0, $width),
        };
        $this->height = match ($kind) {
            NoteKind::Heading => 40.0,
            NoteKind::Note => ceil((max(1, \count($this->lines)) * self::LINE + 2 * self::PAD) / 10) * 10,
            NoteKind::Frame => max(60.0, $height),
        };
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

    /** What lines have to go round: of a frame only its title, since lines may enter it. */
    public function ground(): Rect
    {
        $width = NoteKind::Frame === $this->kind
            ? min($this->width, 2 * self::PAD + TextWidth::title($this->words(), self::TITLE_SIZE))
            : $this->width;

        return new Rect($this->x, $this->y, $width, NoteKind::Frame === $this->kind ? self::FRAME_HEAD : $this->height);
    }
}
