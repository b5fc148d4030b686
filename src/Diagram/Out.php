<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;

/** A drawing as a file that stands alone. */
final readonly class Out
{
    public const FORMATS = ['svg' => 'image/svg+xml', 'png' => 'image/png', 'pdf' => 'application/pdf'];

    public function __construct(private Fonts $fonts, private Raster $raster)
    {
    }

    /**
     * @param string $format one of FORMATS
     * @param string $paper  of a PDF: A4 to A0
     * @param int    $width  of a PNG in px; 0 for twice the size of the drawing
     *
     * @throws \RuntimeException
     */
    public function file(Layout $layout, TitleBlock $block, string $format, string $paper = '', int $width = 0): string
    {
        $svg = SvgDrawing::draw($layout, $block, true, $this->fonts->embedded());

        return match ($format) {
            'png' => $this->raster->png($svg, $width),
            'pdf' => $this->raster->pdf($svg, $paper ?: Raster::fitting($svg)),
            default => $svg,
        };
    }
}
