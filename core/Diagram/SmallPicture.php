<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A diagram as small as a stamp: what stands where, and the lines, without a word. */
final class SmallPicture
{
    public static function of(Layout $layout): string
    {
        $n = static fn (float $value): string => (string) round($value);
        $box = [$layout->left - 20, $layout->top - 20, $layout->width + 40, $layout->height + 40];
        $svg = '<svg xmlns="http://www.w3.org/2000/svg" class="small-picture" aria-hidden="true" viewBox="'.implode(' ', array_map($n, $box)).'">';
        $rect = static fn (string $class, float $x, float $y, float $width, float $height): string => '<rect'.SvgText::attributes([
            'class' => $class, 'x' => $x, 'y' => $y, 'width' => $width, 'height' => $height,
        ]).'/>';
        foreach ($layout->notes as $note) {
            $svg .= $note->kind->holds() ? $rect($note->kind->small(), $note->x, $note->y, $note->width, $note->height) : '';
        }
        foreach ($layout->paths as $path) {
            $svg .= '<path d="M'.implode('L', array_map(static fn (array $point): string => $n($point[0]).','.$n($point[1]), $path->points)).'"/>';
        }
        foreach ($layout->shapes as $shape) {
            $svg .= $rect('slab', $shape->x, $shape->y, $shape->width, $shape->height);
        }
        foreach ($layout->notes as $note) {
            $svg .= $note->kind->holds() ? '' : $rect($note->kind->small(), $note->x, $note->y, $note->width, $note->height);
        }

        return $svg.'</svg>';
    }
}
