<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/** A line of a scene: between which pieces, and from which height of the one to which of the other. */
final readonly class SceneLine
{
    /**
     * @param string              $from   the piece that holds the reference
     * @param array{float, float} $leaves top and bottom of its row, from the top of the piece
     * @param array{float, float} $enters
     */
    public function __construct(public Line $line, public string $from, public array $leaves, public string $to, public array $enters)
    {
    }
}
