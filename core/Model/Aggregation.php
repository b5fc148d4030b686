<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** How the values of many rows become one figure. */
enum Aggregation: string
{
    case Sum = 'sum';
    case Count = 'count';
    case Distinct = 'distinct count';
    case Average = 'average';
    case Least = 'least';
    case Greatest = 'greatest';
    case Median = 'median';
    case Ratio = 'ratio';

    /** What it is called before what it is taken of: "sum of individuals". */
    public function inWords(): string
    {
        return match ($this) {
            self::Least, self::Greatest => 'the '.$this->value,
            default => $this->value,
        };
    }

    public function needsNumbers(): bool
    {
        return \in_array($this, [self::Sum, self::Average, self::Median], true);
    }

    /** Whether figures of parts, added up, give that of the whole. */
    public function adds(): bool
    {
        return self::Sum === $this || self::Count === $this;
    }
}
