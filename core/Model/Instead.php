<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What a figure that must not be added up over a dimension is there instead, such as a stock over time. */
enum Instead: string
{
    case Nothing = '';
    case Last = 'last';
    case LastOfAll = 'last of all';
    case First = 'first';
    case FirstOfAll = 'first of all';
    case Average = 'average';
    case Least = 'least';
    case Greatest = 'greatest';

    /** The point is one for all rows of the answer; else each row has its own. */
    public function isOfAll(): bool
    {
        return self::LastOfAll === $this || self::FirstOfAll === $this;
    }

    public function isFirst(): bool
    {
        return self::First === $this || self::FirstOfAll === $this;
    }

    /** What it is for whoever chooses. */
    public function inWords(): string
    {
        return match ($this) {
            self::Nothing => 'none: such a question is refused',
            self::Last => 'the last that each row of an answer has',
            self::LastOfAll => 'the last of all: who has nothing then has none',
            self::First => 'the first that each row of an answer has',
            self::FirstOfAll => 'the first of all: who has nothing then has none',
            default => 'the '.$this->value,
        };
    }

    /** Of what the figure in all is, where those of its parts do not add up to it; %s is what the points are. */
    public function inAll(): string
    {
        return match ($this) {
            self::Last => 'in all it is of the last %s of all, and each row has its own last',
            self::First => 'in all it is of the first %s of all, and each row has its own first',
            self::LastOfAll => 'in all it is of the last %s of all, and each row of the last within its own time',
            self::FirstOfAll => 'in all it is of the first %s of all, and each row of the first within its own time',
            self::Average => 'in all it is the average over %s of what all had together',
            self::Least => 'in all it is the least over %s of what all had together',
            self::Greatest => 'in all it is the greatest over %s of what all had together',
            self::Nothing => '',
        };
    }
}
