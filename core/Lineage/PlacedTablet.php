<?php

declare(strict_types=1);

namespace Fasti\Core\Lineage;

/** An entry in a picture of lineage, with those of its fields that matter there. */
final class PlacedTablet
{
    public float $x = 0;
    public float $y = 0;
    public float $width = 0;
    public float $height = 0;

    /**
     * @param string                                                                     $below what stands under the title: its source, and what it is
     * @param list<array{key: string, label: string, code: bool, link: string, focus: bool}> $rows
     */
    public function __construct(
        public readonly int $id,
        public readonly string $title,
        public readonly string $below,
        public readonly string $link,
        public readonly bool $view,
        public readonly array $rows,
        public readonly bool $retired = false,
    ) {
    }
}
