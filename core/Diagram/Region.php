<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Leading\Rect;

/** Entries that belong together, as a part of a map: where it is, and where each entry stands in it. */
final readonly class Region
{
    /**
     * @param array<int, Rect> $tablets by entry, from the top left of the map
     */
    public function __construct(public string $key, public string $name, public Rect $box, public array $tablets)
    {
    }

    public function moved(float $x, float $y): self
    {
        $dx = $x - $this->box->x;
        $dy = $y - $this->box->y;

        return new self(
            $this->key,
            $this->name,
            new Rect($x, $y, $this->box->width, $this->box->height),
            array_map(static fn (Rect $rect): Rect => new Rect($rect->x + $dx, $rect->y + $dy, $rect->width, $rect->height), $this->tablets),
        );
    }
}
