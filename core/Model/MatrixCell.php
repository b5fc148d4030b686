<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** Whether a measure can be split by a role. */
final readonly class MatrixCell
{
    public const YES = 'yes';
    public const GUARDED = 'looked at first';
    public const POINTS = 'not added';
    public const OPEN = 'more than one route';
    public const NO = 'no';

    public function __construct(public string $can, public string $why)
    {
    }

    /** The higher, the more speaks against it. */
    public function rank(): int
    {
        return [self::YES => 0, self::GUARDED => 1, self::POINTS => 2, self::OPEN => 3, self::NO => 4][$this->can] ?? 4;
    }
}
