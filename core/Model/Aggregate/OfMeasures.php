<?php

declare(strict_types=1);

namespace Fasti\Core\Model\Aggregate;

use Fasti\Core\Dialect\AskSql;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Measure;

/** A figure that is computed of other measures: what of rows goes into it, those say. */
abstract class OfMeasures extends Aggregate
{
    /** @return list<string> names of the measures that it is computed of, as they are written */
    abstract public function parts(Measure $measure): array;

    /** @param \Closure(string): string $part how such a measure is written */
    abstract public function computed(Ground $ground, Measure $measure, \Closure $part): string;

    /** What it is computed of, for people. */
    abstract public function made(Measure $measure): string;

    public function isOfMeasures(): bool
    {
        return true;
    }

    public function needsValue(): bool
    {
        return false;
    }

    public function needsNumbers(): bool
    {
        return false;
    }

    public function tellsOfValues(): bool
    {
        return false;
    }

    public function sql(AskSql $sql, ?string $value): never
    {
        throw new \LogicException('It is computed of measures.');
    }
}
