<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

/**
 * A line on its way through the gutters between the columns.
 *
 * @internal
 */
final class Wire
{
    /** @var array{int, int} row of the left and of the right end; -1 is the head */
    public array $rows;
    /** @var array{int, int} side at which each end leaves its shape: 0 left, 1 right */
    public array $sides;
    /** @var array{int, int} */
    public array $ports = [0, 0];
    /** @var array<int, int> column that is passed → which of its gaps */
    public array $gaps = [];
    /** @var array<int, int> column that is passed → at what height */
    public array $passes = [];
    /** @var array<int, float|null> gutter → x of the vertical piece; null where it goes straight on */
    public array $tracks = [];
    /** @var array{int, int} */
    public array $shapes;
    public readonly bool $loops;

    /**
     * @param int  $left    shape at the left end
     * @param int  $right   shape at the right end
     * @param bool $flipped the reference is held at the right end
     */
    public function __construct(public readonly Line $line, int $left, int $right, public readonly bool $flipped, bool $loops)
    {
        $this->shapes = [$left, $right];
        $this->loops = $loops;
        $this->rows = [-1, -1];
        $this->sides = [1, 0];
    }

    /** Which end holds the reference, and with it the verb. */
    public function holder(): int
    {
        return $this->flipped ? 1 : 0;
    }
}
