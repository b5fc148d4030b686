<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;

/** One measure divided by another. */
final class Ratio extends OfMeasures
{
    public function name(): string
    {
        return 'ratio';
    }

    public function rank(): int
    {
        return 80;
    }

    public function unit(string $values): string
    {
        return '';
    }

    public function parts(Measure $measure): array
    {
        return [$measure->of, $measure->by];
    }

    public function computed(Ground $ground, Measure $measure, \Closure $part): string
    {
        return $ground->sql()->divided($part($measure->of), $part($measure->by));
    }

    public function made(Measure $measure): string
    {
        return $measure->of.' by '.$measure->by;
    }
}
