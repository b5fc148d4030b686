<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram\Leading;

/** A line that is to be led: between which rectangles, and at which heights it may leave the one and reach the other. */
final readonly class Ends
{
    /**
     * @param int                $id     of the line
     * @param int                $from   number of the rectangle that holds the reference
     * @param array{float,float} $leaves top and bottom of the row that it leaves
     * @param int                $to     number of the rectangle that it leads to
     * @param array{float,float} $enters top and bottom of the row that it enters
     * @param float              $verb   width of the words that stand on it; 0 for none
     */
    public function __construct(
        public int $id,
        public int $from,
        public array $leaves,
        public int $to,
        public array $enters,
        public float $verb = 0.0,
    ) {
    }
}
