<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/** What lines go round: a tablet, a note, a heading. In px; `y` grows downwards. */
final readonly class Rect
{
    public function __construct(public float $x, public float $y, public float $width, public float $height)
    {
    }

    public function right(): float
    {
        return $this->x + $this->width;
    }

    public function bottom(): float
    {
        return $this->y + $this->height;
    }

    public function meets(self $other, float $across = 0.0, float $down = 0.0): bool
    {
        return $this->x < $other->x + $other->width + $across && $other->x < $this->x + $this->width + $across
            && $this->y < $other->y + $other->height + $down && $other->y < $this->y + $this->height + $down;
    }
}
